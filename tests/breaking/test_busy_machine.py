"""A database that stands still, and a machine that has too much else to do."""

import subprocess
import sys
import time

import numpy as np

from fulgura.core.show.document import Show
from fulgura.store import shows
from harness.breaking import Editor, processes, victim
from harness.stack import wait_for
from tests.breaking.conftest import PATH, width


def test_a_database_that_stood_still_has_all_within_two_seconds(stack):
    database, editor = victim(stack, "database"), Editor(stack, PATH, every_s=0.02)
    time.sleep(1.0)
    database.suspend()
    time.sleep(8.0)
    database.resume()
    before = len(editor.answered)
    time.sleep(2.0)
    stored = shows.load(stack.folders.database_socket, stack.show()["id"])
    saved = Show.model_validate(stored.document).looks[0].layers[0].source.values["width"]
    editor.close()
    took = np.array(editor.took_s)
    print(
        f"{len(took)} edits, {before} until the database was back; two seconds later it has"
        f" {editor.answered.index(saved) + 1}; answered within {np.quantile(took, 0.95) * 1000:.0f} ms (p95)"
    )
    assert editor.answered.index(saved) + 1 >= before > 250 and all(editor.kept)
    wait_for(lambda: stack.call("GET", "/health")[1]["saved"], 3, "all saved")
    assert width(stack) == editor.answered[-1]


def test_sixteen_busy_processes_leave_edits_and_lights_alone(stack, packets):
    web = processes(stack, "web")[0]
    grown = web.memory_info().rss
    busy = [subprocess.Popen([sys.executable, "-c", "while True: pass"]) for _ in range(16)]
    try:
        time.sleep(5.0)
        since, editor = time.monotonic(), Editor(stack, PATH)
        time.sleep(15.0)
        editor.close()
        until = time.monotonic()
    finally:
        for process in busy:
            process.kill()
            process.wait()
    times = [at for at in packets.times if since <= at <= until]
    universes = len({raw[113:115] for raw in packets.packets})
    rate, took = len(times) / universes / (until - since), np.array(editor.took_s)
    grown = (web.memory_info().rss - grown) / 2**20
    print(
        f"beside 16 busy processes: edits p95 {np.quantile(took, 0.95) * 1000:.0f} ms, {rate:.0f} packets a"
        f" second, web grew by {grown:.0f} MB"
    )
    assert np.quantile(took, 0.95) < 0.5 and rate > 40 and grown < 20

"""What the machine does to all processes at once: a full disk, a sleep, too much else to do, a database that
stands still.
"""

import os
import signal
import subprocess
import sys
import time

import numpy as np
import psutil
import pytest

from fulgura.core.show.document import Show
from fulgura.store import shows
from harness.breaking import Editor, processes, victim
from harness.stack import start_stack, wait_for
from tests.breaking.conftest import PATH, width

SLEEP_S = 20.0


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


def test_a_machine_that_slept_is_right_again_at_once(stack, packets):
    stack.set("/inputs/main/use", "house")
    time.sleep(6.0)
    all_of_it = [psutil.Process(stack.process.pid)]
    all_of_it += all_of_it[0].children(recursive=True)
    before = stack.call("GET", "/health")[1]
    told = stack.output.read_text()
    for process in all_of_it:
        process.send_signal(signal.SIGSTOP)
    time.sleep(SLEEP_S)
    woke = time.monotonic()
    for process in reversed(all_of_it):
        process.send_signal(signal.SIGCONT)
    time.sleep(4.0)
    times = np.array([at for at in packets.times if at >= woke])
    universes = len({raw[113:115] for raw in packets.packets})
    first = np.count_nonzero(times < woke + 1.0) / universes
    print(f"{first:.0f} packets in the first second after a sleep, {len(times) / universes:.0f} in four")
    assert first < 80, "old packets went out in a burst"
    assert len(times) / universes > 120
    assert packets.silence(woke) < 0.5
    assert stack.call("GET", "/health")[1] == before
    assert stack.output.read_text() == told, "nobody was taken for hung"


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


def test_a_full_disk_is_said_and_nothing_is_lost(tmp_path):
    """A file system of its own; needs the right to mount one."""
    place = tmp_path / "small"
    place.mkdir()
    if subprocess.run(
        ["mount", "-t", "tmpfs", "-o", "size=900m", "none", str(place)], check=False
    ).returncode:
        pytest.skip("this user may not mount a file system")
    try:
        stack = start_stack(place / "data")
        try:
            assert stack.set(PATH, 0.11)["saved"]
            wait_for(lambda: stack.call("GET", "/health")[1]["saved"], 5)
            filler = place / "filler"
            with open(filler, "wb") as file:
                left = os.statvfs(place)
                while left.f_bavail * left.f_frsize:
                    try:
                        file.write(bytes(min(1 << 20, left.f_bavail * left.f_frsize)))
                        file.flush()
                    except OSError:
                        break
                    left = os.statvfs(place)
            answers = [stack.set(PATH, 0.2 + number / 10_000) for number in range(100)]
            assert not answers[-1]["saved"] and width(stack) == pytest.approx(0.2099)
            fault = stack.call("GET", "/health")[1]["fault"]
            print(fault)
            assert fault
            wait_for(lambda: stack.call("GET", "/health")[1]["engine"], 5, "the engine, which plays on")
            filler.unlink()
            wait_for(lambda: stack.set(PATH, 0.3)["saved"], 5, "edits that are kept again")
            wait_for(lambda: stack.call("GET", "/health")[1]["saved"], 70, "the database's catching up")
            assert stack.call("GET", "/health")[1]["fault"] is None
        finally:
            assert stack.stop() == 0
        again = start_stack(place / "data")
        try:
            assert width(again) == pytest.approx(0.3)
        finally:
            again.stop()
    finally:
        subprocess.run(["umount", "-l", str(place)], check=False)

"""``./fulgura bench --night MINUTES``: does memory stay flat while looks come and go, for as long as that?"""

import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import psutil
from playwright.sync_api import CDPSession, sync_playwright

from fulgura.demo.show import gallery_show
from harness.breaking import processes
from harness.browser import CHROMIUM
from harness.stack import Stack, start_stack

EACH_S = 4.0
"""How long a look stays; every other one is gone over into during a beat."""
SETTLED_S = 600.0
"""From here on memory is to stay where it is (in a short night: from a third of it on): every look has been
shown, and caches are full."""
MEASURE_S = 20.0
MEAN_S = 300.0
BUSY, BUSY_S = 16, 120.0
"""So many processes that do nothing but work, halfway through the night, for so long."""
WORK = f"import time; end = time.monotonic() + {BUSY_S}\nwhile time.monotonic() < end: pass"
"""They end by themselves: whoever measures gets little time meanwhile."""
PARTS = (
    "the page's objects",
    "the browser's pages",
    "the browser's picture process (here its memory is the graphics card's)",
    "engine and its spare",
    "web process",
    "control process",
    "supervisor",
)
MIB = 2.0**20


def run(minutes: float, say: Callable[[str], None]) -> dict:
    """MiB of every part, row after row, while a desk shows the Picture column beside an output."""
    looks = [look.id for look in gallery_show().looks]
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        stack = start_stack(Path(folder) / "data")
        busy: list[subprocess.Popen] = []
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        try:
            desk = browser.new_page(viewport={"width": 1280, "height": 800})
            desk.goto(stack.url)
            desk.wait_for_selector("[data-column]")
            desk.keyboard.press("3")
            output = browser.new_page(viewport={"width": 640, "height": 360})
            output.goto(f"{stack.url}/output")
            talk = desk.context.new_cdp_session(desk)
            rows: list[list[float]] = []
            started, shown, measured = time.monotonic(), 0, 0.0
            while (at := time.monotonic() - started) < minutes * 60.0:
                edit = {
                    "edit": {"edit": "set", "path": "/look", "value": looks[shown % len(looks)]},
                    "name": "Look",
                    "glide_beats": shown % 2,
                }
                assert stack.call("POST", "/show/edits", edit)[0] == 200
                shown += 1
                if not busy and at > minutes * 30.0:
                    busy = [subprocess.Popen([sys.executable, "-c", WORK]) for _ in range(BUSY)]
                desk.wait_for_timeout(EACH_S * 1000)
                if at - measured >= MEASURE_S:
                    measured = at
                    rows.append([at, *_memory(stack, talk)])
                    if len(rows) % 15 == 0:
                        say(f"{at / 60:.0f} minutes, {shown} looks")
        finally:
            for process in busy:
                process.kill()
            browser.close()
            stack.stop()
    return {
        "minutes": minutes,
        "looks_shown": shown,
        "busy_minutes": min(BUSY_S / 60.0, minutes / 2.0),
        "rows": rows,
        "parts": {name: _trend(rows, i + 1) for i, name in enumerate(PARTS)},
    }


def _memory(stack: Stack, talk: CDPSession) -> list[float]:
    talk.send("HeapProfiler.collectGarbage")
    heap = talk.send("Runtime.getHeapUsage")["usedSize"] / MIB
    chromium = [child for child in psutil.Process().children(recursive=True) if "chromium" in child.name()]

    def of(words):
        return sum(child.memory_info().rss for child in chromium if words in " ".join(child.cmdline())) / MIB

    own = [
        sum(process.memory_info().rss for process in processes(stack, part)) / MIB
        for part in ("engine", "web", "control")
    ]
    supervisor = psutil.Process(stack.process.pid).memory_info().rss / MIB
    return [heap, of("--type=renderer"), of("--type=gpu-process"), *own, supervisor]


def _trend(rows: list[list[float]], column: int) -> dict:
    """Means over five minutes, once all was settled and at the end, and the most between them, in MiB."""
    times, values = np.array([row[0] for row in rows]), np.array([row[column] for row in rows])
    begin, end = min(SETTLED_S, times[-1] / 3.0), times[-1]
    settled = values[(times >= begin) & (times <= begin + MEAN_S)]
    return {
        "settled": float(settled.mean()),
        "last": float(values[times >= end - MEAN_S].mean()),
        "most": float(values[times >= begin].max()),
    }


def write_markdown(found: dict, path: Path) -> None:
    """docs/night.md."""
    path.write_text(
        "\n".join(
            [
                "# A long night",
                "",
                f"Made by `./fulgura bench --night {found['minutes']:g} --write`; do not edit by hand.",
                "",
                (
                    f"{found['looks_shown']} changes of look in {found['minutes']:g} minutes, half of them"
                    " over a beat, through all looks of the demo (clip, drawing and test"
                ),
                (
                    "card among them), with the Picture column and an output open, drawn in software."
                    f" Halfway {BUSY} busy processes ran beside it for {found['busy_minutes']:.0f} minutes."
                    " Means of five minutes: from the tenth (a shorter night: its third) on, and the last."
                ),
                "",
                "| part | from minute 10, MiB | at the end, MiB | most after minute 10, MiB |",
                "|---|---|---|---|",
                *(
                    f"| {name} | {row['settled']:.0f} | {row['last']:.0f} | {row['most']:.0f} |"
                    for name, row in found["parts"].items()
                ),
                "",
            ]
        )
    )

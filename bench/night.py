"""``./fulgura bench --night MINUTES``: does memory stay flat while looks come and go, for as long as that?"""

import shutil
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import psutil
from playwright.sync_api import CDPSession, sync_playwright

from fulgura.demo.show import gallery_show
from harness.browser import CHROMIUM
from harness.stack import Stack, start_stack

EACH_S = 4.0
"""How long a look stays; every other one is gone over into during a beat."""
SETTLED_S = 120.0
"""What is measured before this is not counted: every look has been shown, and caches are full."""
MEASURE_S = 20.0
PARTS = (
    "the page's objects",
    "the browser's pages",
    "the browser's picture process (here its memory is the graphics card's)",
    "engine",
    "web process",
)
MIB = 2.0**20


def run(minutes: float, say: Callable[[str], None]) -> dict:
    """MiB of every part, row after row, while a desk shows the Picture column beside an output."""
    looks = [look.id for look in gallery_show().looks]
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        stack = start_stack(Path(folder) / "data")
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
                desk.wait_for_timeout(EACH_S * 1000)
                if at - measured >= MEASURE_S:
                    measured = at
                    rows.append([at, *_memory(stack, talk)])
                    if len(rows) % 15 == 0:
                        say(f"{at / 60:.0f} minutes, {shown} looks")
        finally:
            browser.close()
            stack.stop()
    return {
        "minutes": minutes,
        "looks_shown": shown,
        "rows": rows,
        "parts": {name: _trend(rows, i + 1) for i, name in enumerate(PARTS)},
    }


def _memory(stack: Stack, talk: CDPSession) -> list[float]:
    talk.send("HeapProfiler.collectGarbage")
    heap = talk.send("Runtime.getHeapUsage")["usedSize"] / MIB
    own = psutil.Process()
    chromium = [child for child in own.children(recursive=True) if "chromium" in child.name()]

    def of(words):
        return sum(child.memory_info().rss for child in chromium if words in " ".join(child.cmdline())) / MIB

    return [
        heap,
        of("--type=renderer"),
        of("--type=gpu-process"),
        stack.child("fulgura.engine").memory_info().rss / MIB,
        stack.child("fulgura.web").memory_info().rss / MIB,
    ]


def _trend(rows: list[list[float]], column: int) -> dict:
    """Means of the first and the last third of what was measured once all was settled, and the most,
    in MiB.
    """
    values = np.array([row[column] for row in rows if row[0] >= SETTLED_S])
    third = max(1, len(values) // 3)
    return {
        "first": float(values[:third].mean()),
        "last": float(values[-third:].mean()),
        "most": float(values.max()),
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
                    "card among them), with the Picture column and an output open, drawn in software. The"
                    " first two minutes are left out."
                ),
                "",
                "| part | first third, MiB | last third, MiB | most, MiB |",
                "|---|---|---|---|",
                *(
                    f"| {name} | {row['first']:.0f} | {row['last']:.0f} | {row['most']:.0f} |"
                    for name, row in found["parts"].items()
                ),
                "",
            ]
        )
    )

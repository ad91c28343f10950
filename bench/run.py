"""What ``./fulgura bench`` measures. Ratios and percentiles, each with what was run; one dictionary out."""

import platform
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path

import psutil
from playwright.sync_api import sync_playwright

from bench import core, guard, hands, lights, picture, show
from harness.browser import CHROMIUM
from harness.stack import start_stack

Say = Callable[[str], None]


def run(seconds: float, say: Say) -> dict:
    """All measurements; the running show is watched for so many seconds."""
    results: dict = {
        "machine": {
            "processor": platform.processor() or platform.machine(),
            "cores": psutil.cpu_count(),
            "python": platform.python_version(),
        }
    }
    before = psutil.cpu_times()
    say("Analyser on one core")
    results["analyser"] = core.analyser()
    say("Routes")
    results["routes"] = core.routes()
    say("Particles")
    results["particles_ms"] = core.particles()
    say("Lights")
    results["lights"] = {"tick": lights.tick(), "hit_to_packet": lights.hit_to_packet()}
    say("Sources, effects and looks")
    results["kinds"] = picture.kinds()
    say("Passes of Python's executor")
    results["passes_python_ms"] = picture.python_passes()
    results["matter"] = picture.matter()
    say("The guard")
    results["guard"] = guard.guard()
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        stack = start_stack(Path(folder) / "data")
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        try:
            say("Passes of the page's executor")
            results["passes_page_ms"] = picture.page_passes(browser.new_page(), stack)
            say(f"The engine for {seconds:.0f} s with a desk and an output open")
            results["engine"] = show.engine(browser, stack, seconds)
            say("The spare engine")
            results["spare"] = show.spare(stack)
            say("The score, and the Route column with 200 routes")
            results["columns"] = show.columns(browser, stack)
            say("Presses, and the clock that is given")
            results["hands"] = {"presses": hands.presses(stack), "clock": hands.clock(stack)}
            say("The rig with 200 lamps")
            results["lights"]["drawing"] = lights.drawing(browser, stack)
        finally:
            browser.close()
            stack.stop()
    after = psutil.cpu_times()
    results["machine"]["stolen_percent"] = (
        100.0 * (after.steal - before.steal) / max(1e-9, sum(after) - sum(before))
    )
    return results

"""What the running show takes: the engine, the desk and an output."""

import json
import subprocess
import sys
import time

import numpy as np
import psutil

from harness.breaking import processes
from harness.browser import pace
from harness.stack import Stack, wait_for


def engine(browser, stack: Stack, seconds: float) -> dict:
    """Tick lateness, block to frame, share of a core, and frames drawn, while a desk and an output
    are open.
    """
    desk = browser.new_page(viewport={"width": 1280, "height": 800})
    desk.goto(stack.url)
    output = browser.new_page(viewport={"width": 640, "height": 360})
    output.goto(f"{stack.url}/output")
    desk.wait_for_selector("[data-column]")
    time.sleep(5)
    process = stack.child("fulgura.engine")
    process.cpu_percent()
    stack.call("POST", "/measure")
    time.sleep(seconds)
    share = process.cpu_percent()
    state = _state(stack)
    bare = _bare_clock(min(seconds, 20.0))
    frames = {"desk": pace(desk)[0], "output": pace(output)[0]}
    return {
        **state,
        "bare_clock_lateness_ms": bare,
        "share_of_a_core_percent": share,
        "page_frames_per_second": frames,
        "watched_s": seconds,
    }


LOADED_S = 20.0
"""After how long a spare has certainly loaded everything."""


def spare(stack: Stack) -> dict:
    """What the engine that waits takes: memory of its own and shared, and what its start cost."""

    def waiting() -> list[psutil.Process]:
        return [process for process in processes(stack, "engine") if "--spare" in process.cmdline()]

    before = {process.pid for process in waiting()}
    for process in waiting():
        process.kill()
    fresh = wait_for(
        lambda: [process for process in waiting() if process.pid not in before], 15, "a new spare"
    )[0]
    time.sleep(LOADED_S)
    memory, took = fresh.memory_full_info(), fresh.cpu_times()
    return {
        "own_mib": memory.uss / 2**20,
        "shared_mib": (memory.rss - memory.uss) / 2**20,
        "start_processor_s": took.user + took.system,
    }


def columns(browser, stack: Stack) -> dict:
    """Frames a second of a desk that shows the score, or 200 routes, and what the page itself takes of each
    (script, style, layout), ms; beside an empty page's. Painting is the graphics card's work where there is
    one.
    """
    steps = [{"id": "range", "kind": "range"}, {"id": "smooth", "kind": "smooth"}]
    routes = [
        {
            "id": f"many-{i}",
            "signal": "band-low",
            "targets": ["ring.radius"],
            "low": 0.2,
            "high": 0.6,
            "shapers": steps,
        }
        for i in range(200)
    ]
    stack.set("/routes", routes)
    for page in [page for context in browser.contexts for page in context.pages]:
        page.close()
    empty = browser.new_page(viewport={"width": 1280, "height": 800})
    bare = max(pace(empty)[0] for _ in range(3))
    empty.close()
    desk = browser.new_page(viewport={"width": 1280, "height": 800})
    desk.goto(stack.url)
    desk.wait_for_selector("[data-column]")
    out: dict = {"empty_page_frames_per_second": bare}
    for name, key in (("score", "1"), ("200 routes", "2")):
        desk.keyboard.press(key)
        time.sleep(4)
        rates, costs = zip(*(pace(desk) for _ in range(5)))
        out[name] = {
            "frames_per_second": {"median": float(np.median(rates)), "best": max(rates)},
            "page_ms_a_frame": float(np.median(costs)),
        }
    desk.close()
    return out


BARE_CLOCK = """
import json, os, sys, time
try: os.sched_setscheduler(0, os.SCHED_RR, os.sched_param(10))
except OSError: pass
late, start = [], time.monotonic()
for n in range(1, int(float(sys.argv[1]) * 60)):
    time.sleep(max(0.0, start + n / 60 - time.monotonic()))
    late.append((time.monotonic() - start - n / 60) * 1000)
print(json.dumps(late))
"""


def _bare_clock(seconds: float) -> dict:
    """Lateness of a loop that does nothing but sleep, under the same load: what this machine itself
    allows.
    """
    done = subprocess.run(
        [sys.executable, "-c", BARE_CLOCK, str(seconds)], capture_output=True, text=True, check=True
    )
    late = np.array(json.loads(done.stdout))
    return {"p50": float(np.median(late)), "p99": float(np.quantile(late, 0.99)), "max": float(late.max())}


def _state(stack: Stack) -> dict:
    from harness.stack import live

    _, news = live(stack, 3.0, [])
    return next(
        row["data"]["measured"]
        for row in reversed(news)
        if row["type"] == "state" and "measured" in row["data"]
    )

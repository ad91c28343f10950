"""What ``./fulgura bench`` measures. Ratios and percentiles, each with what was run; one dictionary out."""

import base64
import json
import platform
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import psutil
import soundfile
from playwright.sync_api import Page, sync_playwright
from rich.console import Console
from rich.table import Table

from fulgura.core import SAMPLE_RATE, wire
from fulgura.core.performer import Performer
from fulgura.core.picture.compiler import shader
from fulgura.core.picture.plan import Pass, PassInput, Plan, Target
from fulgura.demo.show import demo_show
from fulgura.demo.tracks import TRACKS
from fulgura.engine.analyze import analyze
from fulgura.render.executor import Executor
from tests.conftest import CHROMIUM, Stack, start_stack

SIZES = ((640, 360), (1280, 720))
Say = Callable[[str], None]


def run(seconds: float, say: Say) -> dict:
    """All measurements; the running show is watched for so many seconds."""
    results: dict = {"machine": {"processor": platform.processor() or platform.machine(), "cores": psutil.cpu_count(), "python": platform.python_version()}}
    before = psutil.cpu_times()
    say("Analyser on one core")
    results["analyser"] = analyser()
    say("Passes of Python's executor")
    results["passes_python_ms"] = python_passes()
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        stack = start_stack(Path(folder) / "data")
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
        try:
            say("Passes of the page's executor")
            results["passes_page_ms"] = page_passes(browser.new_page(), stack)
            say(f"The engine for {seconds:.0f} s with a desk and an output open")
            results["engine"] = engine(browser, stack, seconds)
        finally:
            browser.close()
            stack.stop()
    after = psutil.cpu_times()
    results["machine"]["stolen_percent"] = 100.0 * (after.steal - before.steal) / max(1e-9, sum(after) - sum(before))
    return results


def analyser() -> dict:
    """Real-time factor of ``analyze`` on each demo track: three bands, all detectors, tempo. Process pinned to a core."""
    affinity = psutil.Process().cpu_affinity()
    psutil.Process().cpu_affinity(affinity[:1])
    try:
        with tempfile.TemporaryDirectory() as folder:
            factors, processor = {}, []
            for track, (_, compose) in TRACKS.items():
                file = Path(folder) / f"{track}.wav"
                soundfile.write(file, compose().finished(), SAMPLE_RATE)
                rows = []
                for _ in range(3):
                    row = analyze(file)
                    rows.append(row["realtime_factor"])
                    processor.append(row["processor_factor"])
                factors[track] = sorted(rows)
    finally:
        psutil.Process().cpu_affinity(affinity)
    medians = [rows[1] for rows in factors.values()]
    return {"realtime_factor": {"median": float(np.median(medians)), "worst_track_median": min(medians), "runs": factors}, "processor_factor": {"median": float(np.median(processor)), "least": min(processor)}}


def copy_plan() -> Plan:
    """A bare copy of one target to another, and to the screen: what other passes are compared with."""
    look = Performer(demo_show()).plan
    one = Pass(name="copy", fragment="copy.frag", inputs=[PassInput(uniform="u_source", target="a")], uniforms=[], target="b")
    return Plan(
        id=1, look="copy", vertex=look.vertex, fragments={"copy.frag": shader("copy.frag")}, targets=[Target(name="a"), Target(name="b")],
        passes=[one], floats=0, gather=[],
    )


def python_passes() -> dict:
    out = {}
    for size in SIZES:
        executor = Executor(*size)
        try:
            executor.load(copy_plan())
            bare = executor.time_pass("copy.frag")
            plan = Performer(demo_show()).plan
            executor.load(plan)
            times = {one.fragment: executor.time_pass(one.fragment) for one in plan.passes}
        finally:
            executor.close()
        out["x".join(map(str, size))] = _beside(times, bare)
    return out


def page_passes(page: Page, stack: Stack) -> dict:
    page.goto(f"{stack.url}/bench")
    page.wait_for_function("typeof window.timePasses === 'function'")
    performer = Performer(demo_show())
    frame = base64.b64encode(wire.encode(performer.packet(performer.tick()))).decode()
    empty = base64.b64encode(wire.encode(wire.Packet(1, 0, 0, 0.0, {wire.BlockId.UNIFORMS: np.zeros(0, "<f4")}))).decode()
    out = {}
    for size in SIZES:
        timed = lambda plan, message, size=size: page.evaluate("([p, f, w, h]) => timePasses(p, f, w, h, 30)", [plan.model_dump(), message, *size])  # noqa: E731
        bare = page.evaluate("([p, w, h]) => timeBareCopy(p, w, h, 30)", [copy_plan().model_dump(), *size])
        out["x".join(map(str, size))] = _beside({**timed(copy_plan(), empty), **timed(performer.plan, frame)}, bare)
    page.close()
    return out


def _beside(times: dict[str, float], bare: float) -> dict:
    return {"bare_copy": bare, **{name: {"ms": ms, "times_bare_copy": ms / bare} for name, ms in times.items()}}


def engine(browser, stack: Stack, seconds: float) -> dict:
    """Tick lateness, block to frame, share of a core, and frames drawn, while a desk and an output are open."""
    desk = browser.new_page(viewport={"width": 1280, "height": 800})
    desk.goto(stack.url)
    output = browser.new_page(viewport={"width": 640, "height": 360})
    output.goto(f"{stack.url}/output")
    desk.wait_for_selector("[data-column]")
    time.sleep(5)
    process = stack.child("fulgura.engine")
    process.cpu_percent()
    stack.call("POST", "/measure")
    rate = "() => new Promise(r => { let n = 0; const t = performance.now(); (function f() { n++; performance.now() - t < 3000 ? requestAnimationFrame(f) : r(n / 3) })() })"
    time.sleep(seconds)
    share = process.cpu_percent()
    state = _state(stack)
    bare = _bare_clock(min(seconds, 20.0))
    frames = {"desk": desk.evaluate(rate), "output": output.evaluate(rate)}
    return {**state, "bare_clock_lateness_ms": bare, "share_of_a_core_percent": share, "page_frames_per_second": frames, "watched_s": seconds}


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
    """Lateness of a loop that does nothing but sleep, under the same load: what this machine itself allows."""
    done = subprocess.run([sys.executable, "-c", BARE_CLOCK, str(seconds)], capture_output=True, text=True, check=True)
    late = np.array(json.loads(done.stdout))
    return {"p50": float(np.median(late)), "p99": float(np.quantile(late, 0.99)), "max": float(late.max())}


def _state(stack: Stack) -> dict:
    from tests.api.test_api import live

    _, news = live(stack, 3.0, [])
    return next(row["data"]["measured"] for row in reversed(news) if row["type"] == "state" and "measured" in row["data"])


def rows_of(results: dict) -> list[tuple[str, str, str]]:
    """The same for people: what, measured, wanted."""
    rows: list[tuple[str, str, str]] = []
    add = lambda *row: rows.append(row)  # noqa: E731
    factor = results["analyser"]["realtime_factor"]
    add("processor time taken by other guests of the host while measuring", f"{results['machine']['stolen_percent']:.0f} %", "0 % for numbers to compare")
    own = results["analyser"]["processor_factor"]
    add("analyser, times real time on one core: by the clock (median; worst track)", f"{factor['median']:.0f}; {factor['worst_track_median']:.0f}", "40 or more")
    add("the same by processor time (median; least)", f"{own['median']:.0f}; {own['least']:.0f}", "40 or more")
    engine = results["engine"]
    late, through = engine["lateness_ms"], engine["block_to_frame_ms"]
    add("tick lateness p50 / p99 / max, ms", f"{late['p50']:.2f} / {late['p99']:.2f} / {late['max']:.2f}", "p99 3 or less")
    bare = engine["bare_clock_lateness_ms"]
    add("the same of a loop that only sleeps (the machine's own)", f"{bare['p50']:.2f} / {bare['p99']:.2f} / {bare['max']:.2f}", "")
    add("block to published frame p50 / p95, ms", f"{through['p50']:.1f} / {through['p95']:.1f}", "p95 20 or less")
    add("engine, share of a core", f"{engine['share_of_a_core_percent']:.0f} %", "under 30 %")
    add("frames a second in the desk, in the output", ", ".join(f"{v:.0f}" for v in engine["page_frames_per_second"].values()), "")
    for name, key in (("Python", "passes_python_ms"), ("page", "passes_page_ms")):
        for size, passes in results[key].items():
            text = ", ".join(f"{k} {v['ms']:.2f} ({v['times_bare_copy']:.2f}×)" for k, v in passes.items() if k != "bare_copy")
            add(f"{name}, {size}: ms a pass (beside the bare copy, {passes['bare_copy']:.2f} ms)", text, "")
    return rows


def print_table(results: dict, console: Console) -> None:
    table = Table("what", "measured", "wanted")
    for row in rows_of(results):
        table.add_row(*row)
    console.print(table)


def write_markdown(results: dict, path: Path) -> None:
    """docs/measurements.md."""
    machine = results["machine"]
    lines = [
        "# Measurements", "", "Made by `./fulgura bench --write`; do not edit by hand.", "",
        f"Machine: {machine['cores']} cores, {machine['processor']}, Python {machine['python']}, no graphics card: both executors draw in software.", "",
        "| what | measured | wanted |", "|---|---|---|", *(f"| {' | '.join(row)} |" for row in rows_of(results)), "",
        "A pass is timed by drawing it and reading one pixel of what it drew into. In software a pass costs what its",
        "arithmetic costs, so only passes that do as little as a copy compare with the bare copy: copy.frag (the same",
        "copy through the executor) and layer.frag (a copy with an opacity). The bare copy of the page is written",
        "straight in WebGL2, that of Python runs through moderngl.", "",
    ]
    path.write_text("\n".join(lines))

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

from fulgura.core import wire
from fulgura.core.clock import BLOCK, SAMPLE_RATE, blocks_due
from fulgura.core.kinds.drawn import Effect, Source
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.kinds.swarm import Swarm
from fulgura.core.kinds.tick import TickContext
from fulgura.core.performer import Performer
from fulgura.core.picture.plan import Pass, PassInput, Plan, Target
from fulgura.core.picture.shaders import shader
from fulgura.core.routing.router import Router
from fulgura.core.show.document import Show
from fulgura.core.show.edits import SetValue, apply
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.core.sound.analyser import USUAL_DETECTORS, Analyser, BandSetting
from fulgura.core.sound.hits import Detector
from fulgura.core.synthesis.house_band import HouseBand
from fulgura.demo.show import demo_show, gallery_show
from fulgura.demo.tracks import TRACKS
from fulgura.engine.analyze import analyze
from fulgura.render.executor import Executor
from harness.browser import CHROMIUM, pace
from harness.stack import Stack, start_stack

SIZES = ((640, 360), (1280, 720))
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
    results["analyser"] = analyser()
    say("Routes")
    results["routes"] = routes()
    say("Particles")
    results["particles_ms"] = particles()
    say("Sources, effects and looks")
    results["kinds"] = kinds()
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
            say("The score, and the Route column with 200 routes")
            results["columns"] = columns(browser, stack)
        finally:
            browser.close()
            stack.stop()
    after = psutil.cpu_times()
    results["machine"]["stolen_percent"] = (
        100.0 * (after.steal - before.steal) / max(1e-9, sum(after) - sum(before))
    )
    return results


def analyser() -> dict:
    """Real-time factor of ``analyze`` on each demo track: three bands, all detectors, tempo. Process pinned
    to a core.
    """
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
            crowded = sorted(_crowded(TRACKS["lamp-room"][1]().finished()) for _ in range(7))
    finally:
        psutil.Process().cpu_affinity(affinity)
    medians = [rows[1] for rows in factors.values()]
    return {
        "realtime_factor": {
            "median": float(np.median(medians)),
            "worst_track_median": min(medians),
            "runs": factors,
            "twelve_bands": {"median": crowded[3], "best": crowded[-1]},
        },
        "processor_factor": {"median": float(np.median(processor)), "least": min(processor)},
    }


def _crowded(samples: np.ndarray) -> float:
    """Real-time factor with twelve bands, each with hits of its own, beside the drums, tempo, loudness and
    descriptors.
    """
    edges = np.geomspace(30.0, 16_000.0, 13)
    bands = tuple(BandSetting(f"band-{i}", low, high) for i, (low, high) in enumerate(zip(edges, edges[1:])))
    listener = Analyser(
        bands, (*USUAL_DETECTORS, *(Detector(f"{band.name}-hits", band.name) for band in bands))
    )
    started, blocks = time.perf_counter(), len(samples) // BLOCK
    for i in range(blocks):
        listener.push(samples[i * BLOCK : (i + 1) * BLOCK])
    return blocks * BLOCK / SAMPLE_RATE / (time.perf_counter() - started)


KINDS = (
    "range",
    "curve",
    "smooth",
    "gate",
    "pulse",
    "step",
    "quantise",
    "fall",
    "limit",
    "delay",
    "toggle",
    "hold",
)


def routes() -> dict:
    """Milliseconds of a tick of many routes with four shapers each, every kind of shaper among them; and of
    one edit.
    """
    out = {}
    for count in (500, 2000):
        targets = ["ring.radius", "ring.width", "feedback.hue", "feedback.fade", "lamp-1.level"]
        heard = ["band-low", "hit-kick", "band-high", "level", "beat-phase"]
        many = [
            Route(
                id=f"r{i}",
                signal=heard[i % 5],
                targets=[targets[i // 5 % 5]],
                low=0.0,
                high=0.5,
                shapers=[Part(id=f"s{k}", kind=KINDS[(i + 5 * k) % len(KINDS)]) for k in range(4)],
            )
            for i in range(count)
        ]
        show, router = demo_show().model_copy(update={"routes": many}), Router()
        router.configure(show)
        rng = np.random.default_rng(1)
        ticks, edits = [], []
        for n in range(600):
            values, hits = (
                rng.random(len(router.signals)),
                (rng.random(len(router.signals)) > 0.9).astype(np.int64),
            )
            started = time.perf_counter()
            router.tick(values, hits, TickContext(beats=n / 30, seconds=n / 60, fallen=int(n % 30 == 0)))
            ticks.append(1000 * (time.perf_counter() - started))
        for n in range(20):
            show, _ = apply(show, SetValue(path=f"/routes/r{7 * n}/amount", value=0.5))
            compiled, started = router.compiled, time.perf_counter()
            router.configure(show)
            edits.append(1000 * (time.perf_counter() - started))
            assert router.compiled == compiled + 1
        out[str(count)] = {"tick_ms": _percentiles(ticks), "edit_ms": _percentiles(edits)}
    return out


def _percentiles(numbers: list[float]) -> dict:
    return {"p50": float(np.median(numbers)), "p99": float(np.quantile(numbers, 0.99))}


def copy_plan(reads: int = 1) -> Plan:
    """The cheapest pass that reads so many targets and writes another: what other passes are compared
    with.
    """
    names = [f"u_source_{number}" if number else "u_source" for number in range(reads)]
    read = f"uniform sampler2D {', '.join(names)};\n" if names else ""
    text = (
        shader("")
        + read
        + f"void main() {{ o_colour = {' + '.join(f'here({name})' for name in names) or 'vec4(1.0)'}; }}\n"
    )
    one = Pass(
        name="copy",
        fragment="copy.frag",
        vertex_text="quad.vert",
        fragment_text="copy.frag",
        inputs=[PassInput(uniform=name, target=name) for name in names],
        uniforms=[],
        target="b",
    )
    return Plan(
        id=1 + reads,
        look="copy",
        texts={"quad.vert": shader("quad.vert"), "copy.frag": text},
        targets=[Target(name=name) for name in (*names, "b")],
        data=[],
        images=[],
        passes=[one],
        floats=0,
        gather=[],
        delayed_inputs=[],
    )


EMPTY = wire.Packet(1, 0, 0, 0.0, {wire.BlockId.UNIFORMS: np.zeros(0, "<f4")})


def kinds() -> dict:
    """Of each source and effect at 1280x720, drawn in Python: milliseconds of all of its passes, and how
    often the cheapest passes that read and write as many targets fit into that; of each look of the demo at
    640x360: passes, and pictures a second.
    """
    executor = Executor(1280, 720)
    cheapest: dict[int, float] = {}

    def least(reads: int) -> float:
        if reads not in cheapest:
            executor.load(copy_plan(reads))
            cheapest[reads] = executor.time_passes(EMPTY, 30)[0]
        return cheapest[reads]

    try:
        alone = {}
        for kind in (*Source.kinds.values(), *Effect.kinds.values()):
            part = Part(id="one", kind=kind.kind_name())
            below, effects = (
                (part, []) if kind.family == "source" else (Part(id="below", kind="gradient"), [part])
            )
            layer = Layer(id="l", name="L", source=below, effects=effects, mix=Part(id="m", kind="over"))
            performer = _warmed(
                demo_show().model_copy(
                    update={"looks": [Look(id="x", name="X", layers=[layer])], "look": "x", "routes": []}
                )
            )
            mine = [place for place, one in enumerate(performer.plan.passes) if one.name == "one"]
            beside = sum(
                least(
                    len(
                        {
                            (one.target, one.history_offset)
                            for one in performer.plan.passes[place].inputs
                            if one.target
                        }
                    )
                )
                for place in mine
            )
            executor.load(performer.plan)
            ms = executor.time_passes(performer.packet(performer.tick()))
            if mine:
                alone[f"{kind.family} {kind.kind_name()}"] = {
                    "passes": len(mine),
                    "ms": sum(ms[place] for place in mine),
                    "times": sum(ms[place] for place in mine) / beside,
                }
    finally:
        executor.close()
    executor, looks = Executor(640, 360), {}
    try:
        show = gallery_show()
        for look in show.looks:
            performer = _warmed(show.model_copy(update={"look": look.id}))
            executor.load(performer.plan)
            times = []
            for _ in range(40):
                packet = performer.packet(performer.tick())
                started = time.perf_counter()
                executor.draw(packet)
                executor.context.finish()
                times.append(time.perf_counter() - started)
            looks[look.name] = {
                "passes": len(performer.plan.passes),
                "per_second": 1.0 / float(np.median(times)),
                "best_per_second": 1.0 / min(times),
            }
    finally:
        executor.close()
    return {"cheapest_ms": dict(sorted(cheapest.items())), "kinds": alone, "looks": looks}


def _warmed(show: Show) -> Performer:
    """A performer that has heard a second of the house band."""
    performer, band = Performer(show), HouseBand(1)
    for number in range(1, 61):
        for _ in range(blocks_due(number) - blocks_due(number - 1)):
            performer.hear(band.block(HouseBandSettings()))
        performer.tick()
    return performer


def particles() -> dict:
    """Milliseconds to move, pack and encode fifty thousand particles."""
    part = Part(
        id="p",
        kind="particles",
        values={"rate": 20_000.0, "burst_by": "beat", "burst": 10_000.0, "life": 20.0, "most": 50_000.0},
    )
    layer = Layer(id="l", name="L", source=part, mix=Part(id="m", kind="over"))
    performer = Performer(
        demo_show().model_copy(
            update={"looks": [Look(id="x", name="X", layers=[layer])], "look": "x", "routes": []}
        )
    )
    swarm = performer.picture.providers["particles p"]
    assert isinstance(swarm, Swarm)
    while swarm.count < 50_000:
        performer.tick()
    times = []
    for _ in range(120):
        started = time.perf_counter()
        wire.encode(performer.packet(performer.tick()))
        times.append(1000 * (time.perf_counter() - started))
    return _percentiles(times)


def python_passes() -> dict:
    out = {}
    for size in SIZES:
        executor = Executor(*size)
        try:
            executor.load(copy_plan())
            bare = executor.time_pass("copy.frag", EMPTY)
            performer = Performer(demo_show())
            executor.load(performer.plan)
            packet = performer.packet(performer.tick())
            times = {one.fragment: executor.time_pass(one.fragment, packet) for one in performer.plan.passes}
        finally:
            executor.close()
        out["x".join(map(str, size))] = _beside(times, bare)
    return out


def page_passes(page: Page, stack: Stack) -> dict:
    page.goto(f"{stack.url}/bench")
    page.wait_for_function("typeof window.timePasses === 'function'")
    performer = Performer(demo_show())
    frame = base64.b64encode(wire.encode(performer.packet(performer.tick()))).decode()
    empty = base64.b64encode(wire.encode(EMPTY)).decode()
    out = {}
    for size in SIZES:

        def timed(plan, message, size=size):
            return page.evaluate(
                "([p, f, w, h]) => timePasses(p, f, w, h, 30)", [plan.model_dump(), message, *size]
            )

        bare = page.evaluate("([p, w, h]) => timeBareCopy(p, w, h, 30)", [copy_plan().model_dump(), *size])
        out["x".join(map(str, size))] = _beside(
            {**timed(copy_plan(), empty), **timed(performer.plan, frame)}, bare
        )
    page.close()
    return out


def _beside(times: dict[str, float], bare: float) -> dict:
    return {
        "bare_copy": bare,
        **{name: {"ms": ms, "times_bare_copy": ms / bare} for name, ms in times.items()},
    }


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


def rows_of(results: dict) -> list[tuple[str, str, str]]:
    """The same for people: what, measured, wanted."""
    rows: list[tuple[str, str, str]] = []

    def add(*row):
        return rows.append(row)

    factor = results["analyser"]["realtime_factor"]
    add(
        "processor time taken by other guests of the host while measuring",
        f"{results['machine']['stolen_percent']:.0f} %",
        "0 % for numbers to compare",
    )
    own = results["analyser"]["processor_factor"]
    add(
        "analyser, times real time on one core: by the clock (median; worst track)",
        f"{factor['median']:.0f}; {factor['worst_track_median']:.0f}",
        "40 or more",
    )
    crowded = factor["twelve_bands"]
    add(
        "the same with 12 bands, each with hits of its own, beside everything else (median; best of seven:"
        " this host's pace changes by half within a minute)",
        f"{crowded['median']:.0f}; {crowded['best']:.0f}",
        "40 or more",
    )
    add(
        "with the usual three bands, by processor time (median; least)",
        f"{own['median']:.0f}; {own['least']:.0f}",
        "40 or more",
    )
    for count, row in results["routes"].items():
        tick, edit = row["tick_ms"], row["edit_ms"]
        add(
            f"a tick of {count} routes with 4 shapers each p50 / p99, ms",
            f"{tick['p50']:.2f} / {tick['p99']:.2f}",
            "4 or less" if count == "500" else "12 or less",
        )
        add(
            f"an edit of one of {count} routes (one is compiled) p50 / p99, ms",
            f"{edit['p50']:.1f} / {edit['p99']:.1f}",
            "",
        )
    engine = results["engine"]
    late, through = engine["lateness_ms"], engine["block_to_frame_ms"]
    add(
        "tick lateness p50 / p99 / max, ms",
        f"{late['p50']:.2f} / {late['p99']:.2f} / {late['max']:.2f}",
        "p99 3 or less",
    )
    bare = engine["bare_clock_lateness_ms"]
    add(
        "the same of a loop that only sleeps (the machine's own)",
        f"{bare['p50']:.2f} / {bare['p99']:.2f} / {bare['max']:.2f}",
        "",
    )
    add(
        "block to published frame p50 / p95, ms",
        f"{through['p50']:.1f} / {through['p95']:.1f}",
        "p95 20 or less",
    )
    add("engine, share of a core", f"{engine['share_of_a_core_percent']:.0f} %", "under 30 %")
    add(
        "frames a second in the desk, in the output",
        ", ".join(f"{v:.0f}" for v in engine["page_frames_per_second"].values()),
        "",
    )
    columns = results["columns"]
    for name in ("score", "200 routes"):
        rate = columns[name]["frames_per_second"]
        add(
            f"the desk with the {name}, painted in software: frames a second (median; best); the page's own"
            " ms a frame; an empty page's frames a second",
            f"{rate['median']:.0f}; {rate['best']:.0f}; {columns[name]['page_ms_a_frame']:.1f};"
            f" {columns['empty_page_frames_per_second']:.0f}",
            "60, as an empty page",
        )
    swarm = results["particles_ms"]
    add(
        "a tick with 50,000 particles, moved, packed and encoded p50 / p99, ms",
        f"{swarm['p50']:.1f} / {swarm['p99']:.1f}",
        "5 or less",
    )
    kinds = results["kinds"]
    add(
        "looks of the demo at 640x360 in Python's executor, pictures a second (passes)",
        ", ".join(
            f"{name} {row['per_second']:.0f} ({row['passes']})" for name, row in kinds["looks"].items()
        ),
        "20 or more (14 or fewer)",
    )
    cheapest = ", ".join(f"{reads}: {ms:.2f} ms" for reads, ms in kinds["cheapest_ms"].items())
    beside = ", ".join(
        f"{name} {row['times']:.1f}" + (f" in {row['passes']} passes" if row["passes"] > 1 else "")
        for name, row in kinds["kinds"].items()
    )
    add(
        "sources and effects at 1280x720, beside the cheapest passes that read and write as many targets"
        f" (reading {cheapest})",
        beside,
        "1.3",
    )
    for name, key in (("Python", "passes_python_ms"), ("page", "passes_page_ms")):
        for size, passes in results[key].items():
            text = ", ".join(
                f"{k} {v['ms']:.2f} ({v['times_bare_copy']:.2f}×)"
                for k, v in passes.items()
                if k != "bare_copy"
            )
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
        "# Measurements",
        "",
        "Made by `./fulgura bench --write`; do not edit by hand.",
        "",
        (
            f"Machine: {machine['cores']} cores, {machine['processor']}, Python {machine['python']}, no"
            " graphics card: both executors draw in software."
        ),
        "",
        "| what | measured | wanted |",
        "|---|---|---|",
        *(f"| {' | '.join(row)} |" for row in rows_of(results)),
        "",
        (
            "A pass is timed by drawing it and reading one pixel of what it drew into. In software a pass"
            " costs what its"
        ),
        (
            "arithmetic costs, so only a pass that does as little as a copy compares with the bare copy:"
            " copy.frag (the same"
        ),
        (
            "copy through the executor). The bare copy of the page is written straight in WebGL2, that of"
            " Python runs"
        ),
        "through moderngl.",
        "",
    ]
    path.write_text("\n".join(lines))

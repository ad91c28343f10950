"""What pictures take: every pass of both executors, beside the cheapest that there can be."""

import base64
import time
from collections.abc import Callable

import numpy as np
from playwright.sync_api import Page

from fulgura.core import wire
from fulgura.core.clock import blocks_due
from fulgura.core.kinds.drawn import Effect, Source
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.performer import Performer
from fulgura.core.picture.plan import Pass, PassInput, Plan, Target
from fulgura.core.picture.shaders import shader
from fulgura.core.show.document import Show
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.outputs import GuardSettings
from fulgura.core.show.part import Part
from fulgura.core.synthesis.house_band import HouseBand
from fulgura.demo.show import demo_show, gallery_show
from fulgura.render.executor import Executor
from harness.stack import Stack

UNGUARDED = GuardSettings(on=False, why_off="What pictures take is measured without it.")
SIZES = ((640, 360), (1280, 720))


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
    measured = Pass(
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
        passes=[measured],
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
        found = {
            f"{kind.family} {kind.kind_name()}": _alone(kind, executor, least)
            for kind in (*Source.kinds.values(), *Effect.kinds.values())
        }
    finally:
        executor.close()
    alone = {name: row for name, row in found.items() if row}
    return {"cheapest_ms": dict(sorted(cheapest.items())), "kinds": alone, "looks": _looks()}


def _alone(kind, executor: Executor, least: Callable[[int], float]) -> dict:
    """Its passes, their milliseconds, and those beside the cheapest; empty when it has no pass."""
    part = Part(id="one", kind=kind.kind_name())
    source = part if kind.family == "source" else Part(id="below", kind="gradient")
    effects = [] if kind.family == "source" else [part]
    layer = Layer(id="l", name="L", source=source, effects=effects, mix=Part(id="m", kind="over"))
    looks = {"looks": [Look(id="x", name="X", layers=[layer])], "look": "x", "routes": []}
    performer = _warmed(demo_show().model_copy(update=looks))
    passes = performer.plan.passes
    mine = [index for index, render_pass in enumerate(passes) if render_pass.name == "one"]
    reads = [
        {
            (audio_input.target, audio_input.history_offset)
            for audio_input in passes[i].inputs
            if audio_input.target
        }
        for i in mine
    ]
    beside = sum(least(len(targets)) for targets in reads)
    executor.load(performer.plan)
    ms = executor.time_passes(performer.packet(performer.tick()))
    took = sum(ms[index] for index in mine)
    return {"passes": len(mine), "ms": took, "times": took / beside} if mine else {}


def _looks() -> dict:
    """Of each look of the demo at 640x360: passes, and pictures a second."""
    executor, looks = Executor(640, 360), {}
    try:
        show = gallery_show()
        for look in show.looks:
            times, passes = _draws(executor, show.model_copy(update={"look": look.id}))
            looks[look.name] = {
                "passes": passes,
                "per_second": 1.0 / float(np.median(times)),
                "best_per_second": 1.0 / min(times),
            }
    finally:
        executor.close()
    return looks


def _draws(executor: Executor, show: Show) -> tuple[list[float], int]:
    """(seconds that each of forty pictures takes, how many passes they have)."""
    performer, times = _warmed(show), []
    executor.load(performer.plan)
    for _ in range(40):
        packet = performer.packet(performer.tick())
        started = time.perf_counter()
        executor.draw(packet)
        executor.context.finish()
        times.append(time.perf_counter() - started)
    return times, len(performer.plan.passes)


def _warmed(show: Show) -> Performer:
    """A performer that has heard a second of the house band."""
    performer, band = Performer(show), HouseBand(1)
    for number in range(1, 61):
        for _ in range(blocks_due(number) - blocks_due(number - 1)):
            performer.hear(band.block(HouseBandSettings()))
        performer.tick()
    return performer


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
            times = {
                render_pass.fragment: executor.time_pass(render_pass.fragment, packet)
                for render_pass in performer.plan.passes
            }
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


def matter() -> dict:
    """What colour and matter cost. history: a full one of 1,024 by 2,048 beside one of 96 by 256, at
    1280x720, by the same shader. guarded and alone: pictures a second at 640x360 of a look with one source
    and feedback, and of so many solids that a picture places, with the guard and without.
    """
    executor = Executor(1280, 720)
    try:
        spans = ((1024.0, 2048.0), (96.0, 256.0))
        full, small = (_least_ms(executor, "history", bins=bins, span=span) for bins, span in spans)
    finally:
        executor.close()
    executor = Executor(640, 360)
    try:
        kinds = ("history", "voices", "relief", "spectrum", "waveform", "scope")
        rates = {"history": {"ms": full, "times": full / small}}
        for name, guard in (("guarded", GuardSettings()), ("alone", UNGUARDED)):
            shows = {kind: _with(kind, feedback=True) for kind in kinds}
            shows |= {f"{count} solids": _solids(count) for count in (5_000, 20_000)}
            rates[name] = {
                what: _a_second(executor, show.model_copy(update={"guard": guard}))
                for what, show in shows.items()
            }
    finally:
        executor.close()
    return rates


def _with(kind: str, values: dict | None = None, feedback: bool = False) -> Show:
    effects = [Part(id="again", kind="feedback")] if feedback else []
    layer = Layer(
        id="l",
        name="L",
        source=Part(id="one", kind=kind, family="source", values=values or {}),
        effects=effects,
        mix=Part(id="m", kind="over"),
    )
    look = {"looks": [Look(id="x", name="X", layers=[layer])], "look": "x", "routes": []}
    return demo_show().model_copy(update=look)


def _solids(count: int) -> Show:
    """Boxes that noise places."""
    places = Layer(
        id="p",
        name="P",
        source=Part(id="noise", kind="noise", family="source"),
        mix=Part(id="n", kind="over"),
    )
    show = _with("placed", {"places": "p", "count": float(count)})
    return show.model_copy(
        update={"looks": [show.looks[0].model_copy(update={"layers": [places, show.looks[0].layers[0]]})]}
    )


def _least_ms(executor: Executor, kind: str, **values: float) -> float:
    performer = _warmed(_with(kind, values))
    executor.load(performer.plan)
    ms = executor.time_passes(performer.packet(performer.tick()), 40)
    return sum(ms[i] for i, each in enumerate(performer.plan.passes) if each.name == "one")


def _a_second(executor: Executor, show: Show) -> float:
    """Pictures a second, by the median."""
    return 1.0 / float(np.median(_draws(executor, show)[0]))

"""What the guard takes, beside a bare copy of the picture."""

from typing import Any

import numpy as np

from bench.picture import EMPTY, SIZES, copy_plan
from fulgura.core.clock import BLOCK, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.document import Show
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.render.executor import Executor

WAVES = {
    "calm": "void main() { o_colour = vec4(vec3(v_uv.x), 1.0); }",
    "all held": "void main() { o_colour = vec4(vec3(step(0.5, fract(u_time * 10.0))), 1.0); }",
}
PICTURES = 90
"""After so many a strobe is held back."""


def guard() -> dict[str, Any]:
    """Of a calm picture, and of one that is held back everywhere: milliseconds of all its passes, and those
    beside a bare copy, by size.
    """
    out: dict[str, Any] = {}
    for size in SIZES:
        executor = Executor(*size)
        try:
            executor.load(copy_plan())
            bare = executor.time_pass("copy.frag", EMPTY)
            rows = {name: _guarding(executor, code) for name, code in WAVES.items()}
        finally:
            executor.close()
        out["x".join(map(str, size))] = {
            "bare_copy": bare,
            **{name: {"ms": ms, "times_bare_copy": ms / bare} for name, ms in rows.items()},
        }
    return out


def _guarding(executor: Executor, code: str) -> float:
    source = Part(id="own", kind="own-shader", values={"code": code})
    layer = Layer(id="l", name="L", source=source, mix=Part(id="m", kind="over"))
    performer = Performer(Show(name="Guarded", looks=[Look(id="x", name="X", layers=[layer])], look="x"))
    executor.load(performer.plan)
    silence = np.zeros((BLOCK, 2))
    for number in range(1, PICTURES + 1):
        for _ in range(blocks_due(number) - blocks_due(number - 1)):
            performer.hear(silence)
        packet = performer.packet(performer.tick())
        executor.draw(packet)
    passes = performer.plan.passes
    times = executor.time_passes(packet)
    return sum(ms for each, ms in zip(passes, times) if each.fragment.startswith("guard_"))

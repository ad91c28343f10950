"""A surface that a picture pushes out."""

from collections.abc import Collection
from dataclasses import replace
from typing import Any, Literal

from fulgura.core.kinds.drawn import Mesh, Own
from fulgura.core.kinds.framed import Framed
from fulgura.core.kinds.parameters import Angle, Count, LayerRef, Length, Number, Ratio, param
from fulgura.core.kinds.ramps import Ramped
from fulgura.core.kinds.ring import LINES
from fulgura.core.kinds.sounded import SpectrumDrawn
from fulgura.core.kinds.sources.history import LEAST_BINS, MOST_BINS, Rows

FINEST = 512


def quads(columns: float) -> int:
    """How many pieces a surface of so many columns has: rows are as high as columns are wide, on 16 to 9."""
    return int(columns + 0.5) * max(1, round(columns * 9.0 / 16.0))


class Relief(Ramped, SpectrumDrawn, Framed):
    """A plane, a tube or a ball whose surface a picture pushes out; lit, so that its shape shows."""

    shader = "relief.frag"
    mesh = Mesh("relief.vert", vertices=6 * quads(FINEST), blend="none", depth=True)
    counts = ("columns",)
    own = Own("ring", 0, Rows)

    form: Literal["plane", "tube", "ball"] = param("plane", help="The surface at rest", group="Form")
    by: Literal["a layer", "the sound"] = param(
        "a layer", help="What pushes it out: a layer's bright parts, or the spectrum's past", group="Form"
    )
    picture: LayerRef = param(
        "", help="The layer whose bright parts push it out", group="Form", when=("by", "a layer")
    )
    per: Literal["frame", "beat"] = param(
        "frame", help="What the past's speed is counted in", group="Form", when=("by", "the sound")
    )
    speed: Number = param(
        1.0, 0.02, 64.0, "Rows of the past in that time", group="Form", title="Rows", when=("by", "the sound")
    )
    span: Count = param(
        160.0,
        8.0,
        float(LINES),
        "Rows of the past that are on it",
        group="Form",
        when=("by", "the sound"),
        useful=512.0,
    )
    bins: Count = param(
        96.0,
        float(LEAST_BINS),
        float(MOST_BINS),
        "How finely pitches are told apart",
        group="Form",
        when=("by", "the sound"),
    )
    height: Length = param(0.5, -2.0, 2.0, "How far", group="Form")
    ends: Ratio = param(
        0.25, 0.0, 0.5, "How far from its ends that begins: what is round stays whole there", group="Form"
    )
    around: Count = param(
        1.0, 1.0, 16.0, "How often the picture is on it from left to right", group="Form", useful=4.0
    )
    upward: Count = param(
        1.0, 1.0, 16.0, "How often from bottom to top", group="Form", title="Upward", useful=4.0
    )
    columns: Count = param(
        72.0, 16.0, float(FINEST), "Pieces from left to right: more are finer, and cost more", group="Form"
    )
    waves: Ratio = param(0.35, help="Slow waves of its own", group="Form")
    pace: Number = param(0.6, 0.0, 6.0, "How fast those move", group="Form")
    twist: Angle = param(0.0, -360.0, 360.0, "Turn from bottom to top", group="Twists")
    twist_at: Length = param(
        0.0, -2.0, 2.0, "The height that it does not turn", group="Twists", title="Twist's middle"
    )
    twist_2: Angle = param(
        0.0, -360.0, 360.0, "Turn from left to right", group="Twists", title="Twist across"
    )
    twist_2_at: Length = param(
        0.0, -2.0, 2.0, "How far to the right it does not turn", group="Twists", title="Its middle"
    )
    skin: Ratio = param(0.4, help="How much of the picture's own colour it takes", group="Light")
    skin_contrast: Number = param(
        1.0, 0.2, 8.0, "Higher colours only what is bright", group="Light", title="Colour's contrast"
    )
    glow: Ratio = param(0.2, help="How much it shines by itself where it is pushed out", group="Light")
    glow_contrast: Number = param(
        1.0, 0.2, 8.0, "Higher lets only the loudest shine", group="Light", title="Glow's contrast"
    )
    hollows: Ratio = param(0.0, help="How dark it is where it is not pushed out", group="Light")
    hollows_contrast: Number = param(
        1.0, 0.2, 8.0, "Higher darkens all but the brightest", group="Light", title="Hollows' contrast"
    )

    @classmethod
    def mesh_of(cls, values: dict[str, Any], moved: Collection[str]) -> Mesh:
        columns = FINEST if "columns" in moved else values["columns"]
        return replace(cls.mesh, vertices=6 * quads(columns))

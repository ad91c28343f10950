"""A surface that a picture pushes out."""

from typing import Literal

from fulgura.core.kinds.drawn import Mesh
from fulgura.core.kinds.framed import Framed
from fulgura.core.kinds.parameters import Angle, LayerRef, Length, Number, Ratio, param
from fulgura.core.kinds.ramps import Ramped


class Relief(Ramped, Framed):
    """A plane, a tube or a ball whose surface a picture pushes out; lit, so that its shape shows."""

    shader = "solid.frag"
    data = ("spectrum",)
    mesh = Mesh("relief.vert", vertices=72 * 40 * 6, blend="none", depth=True)

    form: Literal["plane", "tube", "ball"] = param("plane", help="The surface at rest", group="Form")
    picture: LayerRef = param("", help="The layer whose bright parts push it out", group="Form")
    height: Length = param(0.5, -2.0, 2.0, "How far", group="Form")
    waves: Ratio = param(0.35, help="Slow waves of its own", group="Form")
    pace: Number = param(0.6, 0.0, 6.0, "How fast those move", group="Form")
    twist: Angle = param(0.0, -360.0, 360.0, "Turn from bottom to top", group="Form")
    skin: Ratio = param(0.4, help="How much of the picture's own colour it takes", group="Light")
    glow: Ratio = param(0.2, help="How much it shines by itself where it is pushed out", group="Light")

from typing import Literal

from fulgura.core.kinds.drawn import Mesh, Source
from fulgura.core.kinds.parameters import Angle, Colour, Length, Number, Ratio, param
from fulgura.core.kinds.providers import SCOPE


class Scope(Source):
    """The sound as a beam draws it: left against right, where stereo makes figures, or against time."""

    shader = "beam.frag"
    data = ("stereo",)
    mesh = Mesh("scope.vert", vertices=6, instances=SCOPE - 1)
    trails = True

    shows: Literal["left against right", "against time"] = param(
        "left against right", help="What moves the beam sideways", group="Form"
    )
    swing: Number = param(1.4, 0.0, 12.0, "How far a full-scale sound moves the beam", group="Form")
    rotation: Angle = param(
        45.0,
        -180.0,
        180.0,
        "Angle by which all is turned; at 45 what both sides share moves it up",
        group="Form",
        title="Turn",
    )
    width: Length = param(0.012, 0.002, 0.2, "Thickness of the beam", group="Form")
    thin: Ratio = param(0.6, help="How much thinner and darker it is where it is fast", group="Form")
    tint: Colour = param("#8ddc8f", help="Colour of the light", group="Light")
    glow: Ratio = param(0.35, help="Light that spills around the beam", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")
    trail: Ratio = param(0.7, 0.0, 0.98, "How much of the last picture stays each frame", group="Light")

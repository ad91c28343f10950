from typing import Literal

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import Angle, Colour, Length, Number, Ratio, param


class Waveform(Source):
    """The sound's own wave, as it is now."""

    shader = "waveform.frag"
    data = ("waveform",)

    style: Literal["line", "area", "mirrored area", "points"] = param(
        "line", help="How the wave is shown", group="Form"
    )
    form: Literal["straight", "round"] = param(
        "straight", help="Along the picture, or around a circle", group="Form"
    )
    height: Length = param(0.8, 0.0, 3.0, "How far a full-scale wave swings", group="Form")
    width: Length = param(0.02, 0.002, 0.3, "Thickness of the line", group="Form")
    radius: Length = param(0.5, 0.0, 1.5, "Radius of the circle", group="Form")
    rotation: Angle = param(0.0, -180.0, 180.0, "Angle by which all is turned", group="Form", title="Turn")
    tint: Colour = param("#8ddc8f", help="Colour of the light", group="Light")
    glow: Ratio = param(0.2, help="Light that spills around the line", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

from typing import Literal

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import Angle, Colour, Count, Number, param


class Noise(Source):
    """Clouds, cells or mist that drift. Step its seed with hits and it jumps."""

    shader = "noise.frag"
    counts = ("detail",)

    style: Literal["gradient", "cellular", "fractal"] = param(
        "fractal", help="Soft hills, cells, or mist of many sizes", group="Form"
    )
    scale: Number = param(2.0, 0.2, 24.0, "How many there are across half the height", group="Form")
    detail: Count = param(4.0, 1.0, 5.0, "Sizes in the mist", group="Form", when=("style", "fractal"))
    drift: Number = param(0.2, -4.0, 4.0, "How fast it drifts", group="Motion")
    rotation: Angle = param(30.0, -180.0, 180.0, "Where it drifts to", group="Motion", title="Turn")
    seed: Count = param(
        0.0,
        0.0,
        999.0,
        "Another number, another pattern",
        group="Motion",
        title="Pattern",
        useful=16.0,
        stepped=True,
    )
    contrast: Number = param(1.6, 0.2, 6.0, "How far dark and bright lie apart", group="Light")
    dark: Colour = param("#07060c", help="Where it is low", group="Light")
    bright: Colour = param("#5b4a86", help="Where it is high", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

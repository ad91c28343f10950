from typing import Literal

from fulgura.core.kinds.drawn import Effect, Stage
from fulgura.core.kinds.parameters import Angle, Ratio, param


class Blur(Effect):
    """Softens: evenly, in one direction, or outward from the centre."""

    shader = "blur.frag"
    stages = (Stage("shrink.frag", 4), Stage("blur_first.frag", 4), Stage("blur_second.frag", 4))

    form: Literal["even", "along", "outward"] = param("even", help="Which way it is smeared")
    radius: Ratio = param(0.06, 0.0, 0.6, "How far, in heights of the picture")
    where: Literal["everywhere", "at the edges", "above and below", "in the middle"] = param(
        "everywhere", help="Where it is soft; it grows over a gradient"
    )
    rotation: Angle = param(
        0.0, -180.0, 180.0, "Direction of the smear", when=("form", "along"), title="Turn"
    )

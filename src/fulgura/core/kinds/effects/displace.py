from typing import Literal

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Angle, Count, LayerRef, Length, Ratio, param


class Displace(Effect):
    """Another layer pushes the picture about: where it is bright one way, where it is dark the other."""

    shader = "displace.frag"
    specialised = ("levels",)

    by: LayerRef = param("", help="The layer that pushes")
    form: Literal["along", "by its slopes", "by red and green"] = param(
        "along",
        help=(
            "along: in one direction; by its slopes: away from what is bright, like bumpy glass; by red and"
            " green: red across, green up"
        ),
    )
    amount: Length = param(0.2, -2.0, 2.0, "How far")
    rotation: Angle = param(0.0, -180.0, 180.0, "In which direction", when=("form", "along"), title="Turn")
    centre: Ratio = param(0.5, help="What is as bright as this pushes nothing")
    levels: Count = param(
        0.0, 0.0, 32.0, "Only so many different pushes, evenly spaced; below 2 all that there are"
    )

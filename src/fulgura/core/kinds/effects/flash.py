from typing import Literal

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Colour, Ratio, param


class Flash(Effect):
    """Lays a colour over the picture: give it a pulse of 200 to 500 ms, and it reads as one beat (common
    practice).
    """

    shader = "flash.frag"

    amount: Ratio = param(0.0, help="How much of it is seen")
    where: Literal["everywhere", "where there is light"] = param(
        "where there is light", help="What it covers"
    )
    tint: Colour = param("#fff3d6", help="Its colour")

from typing import Literal

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Angle, Count, Factor, param


class Fold(Effect):
    """Mirrors one half onto the other, or makes a kaleidoscope."""

    shader = "fold.frag"

    form: Literal["left to right", "top to bottom", "both", "kaleidoscope"] = param(
        "kaleidoscope", help="What is folded onto what"
    )
    count: Count = param(6.0, 2.0, 24.0, "Wedges of the kaleidoscope", when=("form", "kaleidoscope"))
    rotation: Angle = param(
        0.0, -180.0, 180.0, "Which wedge is seen", when=("form", "kaleidoscope"), title="Turn"
    )
    zoom: Factor = param(1.0, 0.25, 4.0, "Size of what is folded")

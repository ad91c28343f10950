from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Angle, Count, Factor, Length, Ratio, param


class Repeat(Effect):
    """Copies, each moved, sized and turned beside the one before."""

    shader = "repeat.frag"
    counts = ("count",)

    count: Count = param(5.0, 1.0, 12.0, "How many")
    x: Length = param(0.0, -2.0, 2.0, "Move to the right, each", title="Across")
    y: Length = param(0.0, -2.0, 2.0, "Move up, each", title="Up")
    scale: Factor = param(0.75, 0.3, 1.6, "Size of each beside the one before")
    rotation: Angle = param(15.0, -180.0, 180.0, "Turn of each", title="Turn")
    fade: Ratio = param(0.8, help="Light of each beside the one before")

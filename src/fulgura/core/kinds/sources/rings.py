from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import Angle, Colour, Count, Length, Number, Ratio, param


class Rings(Source):
    """Up to eight rings, one within the other, each with a brightness of its own: let hits take turns among
    them.
    """

    shader = "rings.frag"
    specialised = ("sides",)
    counts = ("count",)

    count: Count = param(5.0, 1.0, 8.0, "How many there are", group="Shape")
    radius: Length = param(0.2, 0.0, 1.5, "Radius of the innermost", group="Shape")
    spacing: Length = param(0.16, 0.0, 0.6, "From one to the next", group="Shape")
    width: Length = param(0.03, 0.002, 0.5, "Thickness of the lines", group="Shape")
    softness: Ratio = param(0.4, help="Share of the width that fades out", group="Shape")
    sides: Number = param(12.0, 3.0, 12.0, "Corners; 12 is a circle", group="Shape")
    rotation: Angle = param(0.0, -180.0, 180.0, "Angle by which all are turned", group="Shape", title="Turn")
    twist: Angle = param(0.0, -60.0, 60.0, "How much more each is turned than the one within", group="Shape")
    inner: Colour = param("#ffd84d", help="Colour of the innermost", group="Light")
    outer: Colour = param("#ff7d5c", help="Colour of the outermost", group="Light")
    glow: Ratio = param(0.15, help="Light that spills around the lines", group="Light")
    rest: Ratio = param(
        0.25, help="Brightness of a ring at rest: above 0 nothing vanishes in silence", group="Light"
    )
    level_1: Ratio = param(0.6, help="Brightness of the first ring", group="Each", title="Ring 1")
    level_2: Ratio = param(0.5, help="Brightness of the second ring", group="Each", title="Ring 2")
    level_3: Ratio = param(0.4, help="Brightness of the third ring", group="Each", title="Ring 3")
    level_4: Ratio = param(0.3, help="Brightness of the fourth ring", group="Each", title="Ring 4")
    level_5: Ratio = param(0.2, help="Brightness of the fifth ring", group="Each", title="Ring 5")
    level_6: Ratio = param(0.2, help="Brightness of the sixth ring", group="Each", title="Ring 6")
    level_7: Ratio = param(0.2, help="Brightness of the seventh ring", group="Each", title="Ring 7")
    level_8: Ratio = param(0.2, help="Brightness of the eighth ring", group="Each", title="Ring 8")

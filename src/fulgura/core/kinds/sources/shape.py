from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import Angle, Colour, Factor, Length, Number, Ratio, param


class Shape(Source):
    """A polygon from a triangle to a circle, or a star, filled or as an outline."""

    shader = "shape.frag"

    sides: Number = param(6.0, 3.0, 12.0, "Corners; 12 is a circle", group="Shape")
    radius: Length = param(0.5, 0.0, 2.0, "Distance from the centre to a corner", group="Shape")
    wide: Factor = param(1.0, 0.0, 4.0, "How wide it is, times its size", group="Shape", title="Width")
    tall: Factor = param(1.0, 0.0, 4.0, "How high it is, times its size", group="Shape", title="Height")
    star: Ratio = param(0.0, 0.0, 0.9, "How deep the sides are drawn in", group="Shape")
    filled: bool = param(True, help="Filled, or only its outline", group="Shape")
    width: Length = param(0.03, 0.002, 0.5, "Thickness of the outline", group="Shape", title="Line")
    softness: Ratio = param(0.1, help="How far the edge fades inward", group="Shape")
    rotation: Angle = param(0.0, -180.0, 180.0, "Angle by which it is turned", group="Shape", title="Turn")
    tint: Colour = param("#c9adff", help="Colour of the light", group="Light")
    glow: Ratio = param(0.15, help="Light that spills around it", group="Light")
    level: Number = param(0.8, 0.0, 4.0, "Brightness", group="Light")

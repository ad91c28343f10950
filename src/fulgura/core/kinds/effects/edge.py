from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Colour, Number, Ratio, param


class Edge(Effect):
    """Draws lines where bright meets dark."""

    shader = "edge.frag"

    width: Ratio = param(0.008, 0.001, 0.05, "Thickness of the lines, in heights of the picture")
    strength: Number = param(2.0, 0.0, 12.0, "How soon a difference becomes a line")
    keep: Ratio = param(0.2, help="How much of the picture itself stays")
    tint: Colour = param("#86c5ff", help="Colour of the lines")

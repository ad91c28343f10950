from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Count, Number, Ratio, param


class Film(Effect):
    """Scan lines, grain and dark corners: the marks of an old screen."""

    title = "Screen and film"
    shader = "film.frag"

    lines: Count = param(120.0, 4.0, 400.0, "Scan lines from top to bottom")
    depth: Ratio = param(0.2, help="How dark they are")
    roll: Number = param(0.0, -8.0, 8.0, "How fast they roll")
    grain: Ratio = param(0.15, help="How much the light trembles")
    corners: Ratio = param(0.2, help="How dark the corners are")

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import Colour, Number, Ratio, param


class Solid(Source):
    """One colour over the whole picture."""

    title = "Colour"
    shader = "colour.frag"

    tint: Colour = param("#2a2140", help="The colour", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")
    cover: Ratio = param(1.0, help="How much it hides what is below", group="Light")

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Colour, Ratio, param
from fulgura.core.kinds.ramps import Ramped


class GradientMap(Ramped, Effect):
    """Gives each brightness a colour of its own."""

    title = "Gradient map"
    shader = "gradient_map.frag"
    specialised = ("amount", "offset")

    amount: Ratio = param(1.0, help="How much of it is seen")
    offset: Ratio = param(0.0, help="Pushes the colours along: move it, and they run through the picture")
    dark: Colour = param("#120a2a", help="What dark becomes")
    middle: Colour = param("#c2416b", help="What lies between")
    bright: Colour = param("#ffe9a8", help="What bright becomes")

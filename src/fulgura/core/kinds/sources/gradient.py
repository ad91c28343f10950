from typing import Literal

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import Angle, Colour, Number, param
from fulgura.core.kinds.ramps import Ramped


class Gradient(Ramped, Source):
    """Three colours that run into each other. Move its offset with an LFO and it flows."""

    shader = "gradient.frag"
    specialised = ("curve",)

    form: Literal["linear", "radial", "angular"] = param(
        "linear", help="Along a line, from the centre outward, or around it", group="Form"
    )
    rotation: Angle = param(90.0, -180.0, 180.0, "Direction in which it runs", group="Form", title="Turn")
    offset: Number = param(0.0, -1.0, 1.0, "How far it is pushed along", group="Form")
    repeats: Number = param(1.0, 0.1, 8.0, "How often it goes there and back", group="Form")
    curve: Number = param(
        1.0, 0.2, 5.0, "Below 1 the last colour has more room, above 1 the first", group="Form"
    )
    from_colour: Colour = param("#0c0a12", help="The first colour", group="Light")
    middle_colour: Colour = param("#2a2140", help="The colour halfway", group="Light")
    to_colour: Colour = param("#7a3b2e", help="The last colour", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

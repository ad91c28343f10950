from typing import Literal

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Angle, Factor, Percent, Ratio, param


class Feedback(Effect):
    """Shows the last picture again under the new one, a little larger, turned, shifted and dimmer: a tunnel.

    With fade below 1 the energy of a still source is the geometric series source / (1 - fade), so it stays
    bounded.
    """

    title = "Feedback"
    shader = "feedback.frag"
    feedback = True
    specialised = ("soften", "floor", "see_through")

    scale: Factor = param(
        1.02, 0.8, 1.25, "Size of the last picture: above 1 it comes toward you", group="Move", useful=1.06
    )
    rotation: Angle = param(
        0.8, -30.0, 30.0, "Turn of the last picture, each frame", group="Move", title="Turn"
    )
    x: Percent = param(
        0.0,
        -25.0,
        25.0,
        "Shift to the right, each frame, in percent of the height",
        group="Move",
        title="Across",
        useful=2.0,
    )
    y: Percent = param(
        0.0,
        -25.0,
        25.0,
        "Shift up, each frame, in percent of the height",
        group="Move",
        title="Up",
        useful=2.0,
    )
    fade: Ratio = param(
        0.92, 0.0, 0.995, "What is left of the last picture's light, each frame", group="Light"
    )
    hue: Angle = param(3.0, -45.0, 45.0, "Turn of the last picture's hue, each frame", group="Light")
    soften: Ratio = param(0.0, help="How much softer the last picture gets, each frame", group="Light")
    how: Literal["light adds up", "the brighter wins", "new in front", "old in front"] = param(
        "new in front", help="How new and old are put together", group="Together", title="Together"
    )
    wrap: Literal["nothing", "mirror images"] = param(
        "nothing", help="What comes in over the edges of the last picture", group="Together", title="Beyond"
    )
    clear: Ratio = param(0.0, help="1 forgets everything: give it the pulse of a hit", group="Together")
    floor: Ratio = param(
        0.0, 0.0, 0.5, "What is darker than this in the last picture is forgotten at once", group="Together"
    )
    see_through: Ratio = param(
        0.0,
        0.0,
        0.5,
        "What is darker than this in the new picture is clear, so that the older shows behind it",
        group="Together",
        title="Dark is clear",
    )

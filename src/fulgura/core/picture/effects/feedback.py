from fulgura.core.parameters import Angle, Factor, Percent, Ratio, param
from fulgura.core.picture.kinds import Effect


class Feedback(Effect):
    """Shows the last picture again under the new one, a little larger, turned, shifted and dimmer: a tunnel.

    With fade below 1 the energy of a still source is the geometric series source / (1 - fade), so it stays bounded.
    """

    title = "Feedback"
    shader = "feedback.frag"
    feedback = True

    scale: Factor = param(1.02, 0.8, 1.25, "Size of the last picture: above 1 it comes toward you", group="Move")
    turn: Angle = param(0.8, -30.0, 30.0, "Turn of the last picture, each frame", group="Move")
    across: Percent = param(0.0, -5.0, 5.0, "Shift to the right, each frame, in percent of the height", group="Move")
    up: Percent = param(0.0, -5.0, 5.0, "Shift up, each frame, in percent of the height", group="Move")
    fade: Ratio = param(0.92, 0.0, 0.995, "What is left of the last picture's light, each frame", group="Light")
    hue: Angle = param(3.0, -45.0, 45.0, "Turn of the last picture's hue, each frame", group="Light")

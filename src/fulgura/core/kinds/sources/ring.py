from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import Angle, Colour, Length, Number, Ratio, param


class Ring(Source):
    """A lantern ring: a circle or a polygon drawn as a line of light. The sound can bend the line."""

    title = "Ring"
    shader = "ring.frag"
    specialised = ("sides", "ripple")
    data = ("waveform",)

    radius: Length = param(0.4, 0.0, 2.0, "Distance from the centre to the middle of the line", group="Shape")
    width: Length = param(0.05, 0.001, 1.0, "Thickness of the line", group="Shape")
    softness: Ratio = param(0.35, help="Share of the width that fades out", group="Shape")
    sides: Number = param(12.0, 3.0, 12.0, "Corners of the outline; 12 is a circle", group="Shape")
    rotation: Angle = param(
        0.0, -180.0, 180.0, "Angle by which the ring is turned", group="Shape", title="Turn"
    )
    ripple: Length = param(0.0, 0.0, 1.0, "How far the sound's own wave bends the line", group="Sound")
    tint: Colour = param("#ffb36b", help="Colour of the light", group="Light")
    glow: Ratio = param(0.25, help="Light that spills around the line", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness; above 1 it blooms in feedback", group="Light")

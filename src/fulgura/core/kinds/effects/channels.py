from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Angle, Ratio, param


class Channels(Effect):
    """Pulls red and blue apart."""

    title = "Channel shift"
    shader = "channels.frag"

    apart: Ratio = param(0.03, 0.0, 0.4, "How far, in heights of the picture")
    rotation: Angle = param(0.0, -180.0, 180.0, "In which direction", title="Turn")
    outward: Ratio = param(0.0, help="0 the same everywhere, 1 more toward the edges, as a cheap lens does")

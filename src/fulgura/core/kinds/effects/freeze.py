from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Ratio, param


class Freeze(Effect):
    """Holds the last picture. Move it with hits and the picture stutters."""

    shader = "freeze.frag"
    feedback = True

    hold: Ratio = param(0.0, help="1 stands still; between, the picture lags")

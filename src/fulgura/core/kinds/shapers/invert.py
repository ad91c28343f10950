"""Upside down."""

from fulgura.core.kinds.parameters import Ratio, param
from fulgura.core.kinds.shaper import Shaper, step


class Invert(Shaper):
    """Turns the value over: what was 0 becomes 1."""

    says = "turned over"

    middle: Ratio = param(0.5, help="The value that stays where it is")

    @step
    def step(value, hits, p, s, now, values, fallen):
        return 2.0 * p[0] - value, hits

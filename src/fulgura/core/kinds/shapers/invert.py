"""Upside down."""

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Ratio, param
from fulgura.core.kinds.shaper import Shaper, compiled_step


class Invert(Shaper):
    """Turns the value over: what was 0 becomes 1."""

    says = "turned over"

    middle: Ratio = param(0.5, help="The value that stays where it is")

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        return 2.0 * p[0] - value, hits

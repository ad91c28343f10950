"""More or less."""

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Number, param
from fulgura.core.kinds.shaper import Shaper, compiled_step


class Gain(Shaper):
    """Multiplies, then adds."""

    says = "times {gain} plus {offset}"

    gain: Number = param(1.0, -16.0, 16.0, "Factor", title="Times")
    offset: Number = param(0.0, -1.0, 1.0, "Added afterwards", title="Plus")

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        return value * p[0] + p[1], hits

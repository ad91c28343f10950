"""More or less."""

from fulgura.core.kinds.parameters import Number, param
from fulgura.core.kinds.shaper import Shaper, step


class Gain(Shaper):
    """Multiplies, then adds."""

    says = "times {gain} plus {offset}"

    gain: Number = param(1.0, -16.0, 16.0, "Factor", title="Times")
    offset: Number = param(0.0, -1.0, 1.0, "Added afterwards", title="Plus")

    @step
    def step(value, hits, p, s, now, values, fallen):
        return value * p[0] + p[1], hits

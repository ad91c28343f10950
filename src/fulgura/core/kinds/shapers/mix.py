"""Two signals in one."""

from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import SignalRef, param
from fulgura.core.kinds.shaper import Shaper, compiled_step


class Mix(Shaper):
    """Joins another signal to the value."""

    says = "{how} with {signal}"

    how: Literal["sum", "largest", "smallest", "product", "mean", "difference"] = param(
        "product", help="How the two become one", title="As"
    )
    signal: SignalRef = param("", help="The other signal", title="With")

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        if p[1] < 0:
            return value, hits
        other = values[int(p[1])]
        if p[0] == 0:
            return value + other, hits
        if p[0] == 1:
            return max(value, other), hits
        if p[0] == 2:
            return min(value, other), hits
        if p[0] == 3:
            return value * other, hits
        if p[0] == 4:
            return (value + other) / 2.0, hits
        return value - other, hits

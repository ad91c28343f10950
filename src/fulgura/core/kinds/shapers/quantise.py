"""A few values only."""

from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Count, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import BARS, FALLEN


class Quantise(Shaper):
    """Leaves only a few values, or lets changes and hits through only on the beat."""

    says = "held to {to} {count}"

    to: Literal["values", "beat", "bar"] = param(
        "values",
        help=(
            "values: the nearest of so many; beat, bar: what comes in waits for the next one, and several"
            " hits become one"
        ),
    )
    count: Count = param(
        4.0,
        2.0,
        64.0,
        "How many values are left, both ends among them",
        title="Values",
        when=("to", "values"),
    )

    def start(self, seed: int) -> list[float]:
        return [0.0, 0.0, 0.0]  # the value that is held; whether a hit waits; whether hits come at all

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        if p[0] == 0:
            most = float(round(p[1])) - 1.0
            return round(value * most) / most, hits
        if hits:
            s[0], s[1], s[2] = value, 1.0, 1.0  # A hit's strength must outlast the tick that it came in.
        due = now[FALLEN] > 0 if p[0] == 1 else now[BARS] > 0
        if s[2]:  # Where hits come there is nothing between them.
            waits = s[1] > 0.0
            if due:
                s[1] = 0.0
            return (s[0], 1) if due and waits else (0.0, 0)
        if due:
            s[0] = value
        return s[0], 0

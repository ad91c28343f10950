"""A threshold."""

from math import inf
from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Milliseconds, Ratio, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import DT


class Gate(Shaper):
    """Lets through only what is above a threshold; closes a little lower than it opens, so that it does not
    chatter.

    A level that opens it makes a hit: this is how levels are counted. Hits go through when they are strong
    enough.
    """

    says = "only above {threshold}"
    fits = "Between the small and the large peaks of the last ten seconds"
    edges = ("threshold",)

    threshold: Ratio = param(0.3, help="Opens at this value", title="Above")
    hysteresis: Ratio = param(0.05, help="Closes this much lower", title="Closes lower by")
    hold: Milliseconds = param(0.0, 0.0, 5000.0, "Stays open at least this long", title="Open for")
    passes: Literal["value", "one"] = param(
        "value", help="What comes out while it is open: the value itself, or 1"
    )

    def start(self, seed: int) -> list[float]:
        return [0.0, inf]  # whether it is open, seconds since it opened

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        s[1] += now[DT]
        out = 0
        if hits and value >= p[0]:
            s[0], s[1], out = 1.0, 0.0, hits  # Each hit that is strong enough opens it anew.
        elif s[0]:
            if value < p[0] - p[1] and s[1] * 1000.0 >= p[2] - 1e-6:
                s[0] = 0.0
        elif value >= p[0]:
            s[0], s[1], out = 1.0, 0.0, 1
        level = value if p[3] == 0 else 1.0
        return (level if s[0] else 0.0), out

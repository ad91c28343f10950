"""The value at each hit."""

from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.compiled import random_at, toward
from fulgura.core.kinds.counting import NO_TRIGGER, TRIGGER, counted
from fulgura.core.kinds.parameters import Milliseconds, SignalRef, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import DT


class Hold(Shaper):
    """Takes a new value on each hit, and holds it until the next."""

    says = "held at each hit ({takes})"

    counts_hits = True

    takes: Literal["what comes in", "random"] = param(
        "what comes in", help="The value that comes in at the hit, or a new random one"
    )
    glide: Milliseconds = param(0.0, 0.0, 5000.0, "Time to cover 63 % of a change")
    trigger: SignalRef = param("", help=TRIGGER, empty=NO_TRIGGER)

    def start(self, seed: int) -> list[float]:
        return [0.0, 0.0, float(seed), 0.0]  # held, the value, seed, hits counted

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        fell = counted(hits, p[2], fallen)
        if fell:
            s[3] += fell
            s[0] = random_at(s[2], s[3]) if p[0] == 1 else value
        s[1] = toward(s[1], s[0], p[1], now[DT])
        return s[1], fell

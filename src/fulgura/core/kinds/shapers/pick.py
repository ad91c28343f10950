"""The palette's colours, one a hit."""

from typing import Literal

from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.kinds.compiled import random_at
from fulgura.core.kinds.counting import NO_TRIGGER, TRIGGER, counted
from fulgura.core.kinds.parameters import SignalRef, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import PALETTE


class Pick(Shaper):
    """Each hit takes a colour of the palette; a number goes from 0 for its first to 1 for its last."""

    title = "Palette"
    says = "takes {way} colour of the palette"
    counts_hits = True
    gives_colours = True

    way: Literal["the next", "another"] = param(
        "the next", help="One after the other, or by chance; never the same twice in a row"
    )
    trigger: SignalRef = param("", help=TRIGGER, empty=NO_TRIGGER)

    def start(self, seed: int) -> list[float]:
        return [0.0, -1.0, float(seed)]  # hits counted, which colour, seed

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        fell, colours = counted(hits, p[1], fallen), int(now[PALETTE])
        for _ in range(fell):
            s[0] += 1.0
            if p[0] == 0 or colours < 2 or s[1] < 0.0:
                s[1] += 1.0
            else:
                s[1] += 1.0 + int(random_at(s[2], s[0]) * (colours - 1))
        if colours > 0 and s[1] >= colours:
            s[1] = s[1] % colours
        return max(0.0, s[1]) / (colours - 1) if colours > 1 else 0.0, fell


@njit(cache=True)
def picked(now: Array, value: float, part: int) -> float:
    """Red, green or blue (part) of the palette's colour at a share of its way from the first to the last."""
    which = int(min(1.0, max(0.0, value)) * (now[PALETTE] - 1.0) + 0.5)
    found: float = now[PALETTE + 1 + 3 * which + part]
    return found

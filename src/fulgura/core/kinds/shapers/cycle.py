"""Targets that take turns."""

from typing import Literal

from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.kinds.compiled import random_at
from fulgura.core.kinds.counting import NO_TRIGGER, TRIGGER, counted
from fulgura.core.kinds.parameters import SignalRef, param
from fulgura.core.kinds.shaper import Shaper, compiled_step


class Cycle(Shaper):
    """Several targets take turns: each hit goes to the next. What stands after it is done for each target by
    itself.
    """

    says = "taking turns {order}"

    counts_hits = True
    lanes = "turns"

    order: Literal["in order", "back and forth", "random"] = param(
        "in order", help="Who is next; random never takes the same twice in a row"
    )
    trigger: SignalRef = param("", help=TRIGGER, empty=NO_TRIGGER)

    def start(self, seed: int) -> list[float]:
        return [0.0, -1.0, float(seed)]  # hits counted, whose turn it is, seed

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        return value, counted(hits, p[1], fallen)


@njit(cache=True)
def next_turn(p: Array, s: Array, targets: int) -> int:
    """Counts one hit of a cycle; whose it is, of so many targets."""
    count, last = int(s[0]), int(s[1])
    s[0] += 1.0
    turn = 0
    if targets > 1:
        if p[0] == 0:
            turn = count % targets
        elif p[0] == 1:
            turn = count % (2 * (targets - 1))
            turn = turn if turn < targets else 2 * (targets - 1) - turn
        elif 0 <= last < targets:
            turn = (last + 1 + int(random_at(s[2], s[0]) * (targets - 1))) % targets
        else:
            turn = int(random_at(s[2], s[0]) * targets)
    s[1] = turn
    return turn

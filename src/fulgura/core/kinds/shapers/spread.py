"""Several targets one after the other."""

from math import ceil, log2
from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.parameters import Beats, Milliseconds, Ratio, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.shapers.delay import delayed
from fulgura.core.kinds.shapers.limit import LONGEST_BEAT_S

WAYS = ("along", "back", "from the middle", "from both ends")


def place(way: str, index: int, count: int) -> float:
    """Where a target stands in a row of so many: 0 comes first, 1 last.

    >>> [place("from the middle", index, 5) for index in range(5)]
    [1.0, 0.5, 0.0, 0.5, 1.0]
    """
    along = index / (count - 1) if count > 1 else 0.0
    return {
        "along": along,
        "back": 1.0 - along,
        "from the middle": abs(2.0 * along - 1.0),
        "from both ends": 1.0 - abs(2.0 * along - 1.0),
    }[way]


class Spread(Shaper):
    """Several targets, or the lamps of a group, one after the other instead of all at once. What stands after
    it is done for each target by itself.
    """

    says = "spread {way} over {ms}{beats}{share}"
    lanes = "spread"

    by: Literal["ms", "beats", "phase"] = param(
        "ms", help="What lies between the first and the last; phase: of what runs from 0 to 1 and begins anew"
    )
    ms: Milliseconds = param(
        500.0, 0.0, 10_000.0, "From the first to the last", title="Over", when=("by", "ms")
    )
    beats: Beats = param(1.0, 0.0, 32.0, "From the first to the last", title="Over", when=("by", "beats"))
    share: Ratio = param(
        1.0, 0.0, 4.0, "Turns from the first to the last", title="Over", when=("by", "phase")
    )
    way: Literal[*WAYS] = param("along", help="Who comes first")  # type: ignore[valid-type]

    def start(self, seed: int) -> list[float]:
        seconds = {"ms": self.ms / 1000.0, "beats": self.beats * LONGEST_BEAT_S}.get(self.by, 0.0)
        rows = 2 ** ceil(log2(seconds * FRAME_RATE + 8.0))
        return [0.0, 0.0, 0.0, 0.0] + [0.0] * (3 * rows)

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        later = p[p.shape[0] - 1]  # Where its target stands, 0..1: the last number, put there for each.
        if p[0] == 2:
            return (value - p[3] * later) % 1.0, hits
        amount = p[1] / 1000.0 * later if p[0] == 0 else p[2] * later
        return delayed(value, hits, p[0] == 1, amount, s, now)

"""Later."""

from math import ceil, log2
from typing import Literal

from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.parameters import Beats, Milliseconds, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.shapers.limit import LONGEST_BEAT_S
from fulgura.core.kinds.tick import BEAT_S, BEATS, DT


@njit(cache=True)
def delayed(value: float, hits: int, in_beats: bool, later: float, s: Array, now: Array) -> tuple[float, int]:
    """What came in so much earlier, in beats or in seconds. s: four numbers and rows of three, as Delay
    starts them.
    """
    rows = (s.shape[0] - 4) // 3
    s[2] += now[DT]
    clock, grace = s[2], 0.5 * now[DT]
    if in_beats:
        clock, grace = now[BEATS], 0.5 * now[DT] / now[BEAT_S]
    first, count, out = int(s[0]), int(s[1]), 0
    at = 4 + 3 * ((first + count) % rows)
    s[at], s[at + 1], s[at + 2] = clock, value, hits
    count += 1
    # Half a tick of grace, so that a delay of so many ticks is so many and not one more by a rounding.
    # When there is no more room, what waited longest comes out early: better than lost.
    while count > 0 and (s[4 + 3 * first] <= clock - later + grace or count >= rows):
        at = 4 + 3 * first
        s[3] = s[at + 1]
        out += int(s[at + 2])
        first, count = (first + 1) % rows, count - 1
    s[0], s[1] = first, count
    return s[3], out


class Delay(Shaper):
    """What comes in comes out later: values and hits alike, none lost, none doubled."""

    says = "{ms}{beats} later"

    by: Literal["ms", "beats"] = param("ms", help="What the delay is counted in")
    ms: Milliseconds = param(200.0, 0.0, 10_000.0, "How much later", title="Later", when=("by", "ms"))
    beats: Beats = param(1.0, 0.0, 32.0, "How much later", title="Later", when=("by", "beats"))

    def start(self, seed: int) -> list[float]:
        seconds = self.ms / 1000.0 if self.by == "ms" else self.beats * LONGEST_BEAT_S
        # In powers of two, so that turning the knob seldom throws away what waits.
        rows = 2 ** ceil(log2(seconds * FRAME_RATE + 8.0))
        return [0.0, 0.0, 0.0, 0.0] + [0.0] * (
            3 * rows
        )  # first that waits, count, clock, value that is out; rows of (when, value, hits)

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        return delayed(value, hits, p[0] == 1, p[2] if p[0] == 1 else p[1] / 1000.0, s, now)

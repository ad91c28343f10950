"""Swings."""

from math import cos, floor, pi
from typing import Literal

from fulgura.core.kinds.compiled import random_at
from fulgura.core.kinds.modulator import State
from fulgura.core.kinds.parameters import Beats, Frequency, Ratio, param
from fulgura.core.kinds.tick import TickContext
from fulgura.core.kinds.turning import Turning


class Lfo(Turning):
    """Swings by itself: so many times a second, or once in so many beats."""

    title = "LFO"

    shape: Literal["sine", "triangle", "saw", "square", "random"] = param(
        "sine", help="The form of a swing; random glides from one random value to the next"
    )
    by: Literal["beats", "seconds"] = param("beats", help="What it is counted in", title="Counted in")
    beats: Beats = param(4.0, 0.0625, 64.0, "Beats of one swing", title="Every", when=("by", "beats"))
    rate: Frequency = param(0.5, 0.01, 25.0, "Swings a second", when=("by", "seconds"))
    phase: Ratio = param(0.0, help="Where in the swing it begins")
    skew: Ratio = param(
        0.5, 0.02, 0.98, "Where the middle of a swing lies: share of it that rises, or that a square is on"
    )

    def step(self, state: State, now: TickContext) -> tuple[float, int]:
        beat = self.by == "beats"
        turns = self.turned(state, now, self.beats if beat else self.rate, beat)
        if turns is None:
            return 0.0, 0
        turns += self.phase
        whole = floor(turns)
        return swing(self.shape, turns - whole, self.skew, state[5], whole), 0


def swing(shape: str, phase: float, skew: float, seed: int = 0, turn: int = 0) -> float:
    """One point of a swing, 0..1, at phase 0 <= phase < 1. skew: share of the turn in which it rises."""
    bent = 0.5 * phase / skew if phase < skew else 0.5 + 0.5 * (phase - skew) / (1.0 - skew)
    match shape:
        case "sine":
            return 0.5 - 0.5 * cos(2.0 * pi * bent)
        case "triangle":
            return 2.0 * bent if bent < 0.5 else 2.0 - 2.0 * bent
        case "saw":
            return bent
        case "square":
            return 1.0 if phase < skew else 0.0
    a, b = random_at(seed, turn), random_at(seed, turn + 1)
    return a + (b - a) * bent * bent * (3.0 - 2.0 * bent)

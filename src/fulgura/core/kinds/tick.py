"""What a tick is told beside its values."""

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from fulgura.core.arrays import Array

DT, BEATS, BEAT_S, FALLEN, BARS, SECONDS, PALETTE = range(7)
"""Places in the numbers of a moment, as steps get them; behind the last, how many colours the palette has,
stand these, red, green and blue in turn.
"""


@dataclass(frozen=True)
class Played:
    """What hands played of one signal since the last tick: how many hits, and how strong the last was."""

    hits: int = 0
    value: float = 0.0


NOTHING_PLAYED = Played()


@dataclass
class TickContext:
    """What a tick is told beside its values.

    dt: seconds since the last tick. beats: beats since the show began, whole and part, never going back;
    beat_s: seconds from one to the next; fallen, bars: how many beats and bar lines fell since the last tick;
    seconds: since the show began. values, hits: of all signals; order: where each stands there. played: what
    hands played since the last tick, by the id of the modulator's part; mine: of that which steps now.
    """

    dt: float = 1.0 / 60.0
    beats: float = 0.0
    beat_s: float = 0.5
    fallen: int = 0
    bars: int = 0
    seconds: float = 0.0
    values: Array = field(default_factory=lambda: np.zeros(0))
    hits: Array = field(default_factory=lambda: np.zeros(0, dtype=np.int64))
    order: Mapping[str, int] = field(default_factory=dict)
    played: Mapping[str, Played] = field(default_factory=dict)
    mine: Played = NOTHING_PLAYED
    palette: Array = field(default_factory=lambda: np.zeros((0, 3)))
    """The colours of the palette in use, linear light, shape (n, 3)."""

    def numbers(self) -> Array:
        """As steps get them, shape (7 + 3 n,)."""
        moment = [self.dt, self.beats, self.beat_s, self.fallen, self.bars, self.seconds, len(self.palette)]
        return np.concatenate([moment, self.palette.ravel()])

    def value_of(self, signal: str) -> float:
        """What a signal is now; one that is gone is at rest."""
        at = self.order.get(signal, -1)
        return float(self.values[at]) if at >= 0 else 0.0

    def hits_of(self, signal: str) -> int:
        """How many hits of a signal fell since the last tick."""
        at = self.order.get(signal, -1)
        return int(self.hits[at]) if at >= 0 else 0

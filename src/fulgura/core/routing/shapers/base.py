"""What every shaper is: one value and its hits in, one value and its hits out, each tick.

A shaper is declared once, as a class: its parameters, and a ``step`` that numba compiles. All steps have one
signature, so that thousands of them run in one compiled loop (see running.py); nothing is looked up by name
there.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from math import exp
from typing import ClassVar

import numpy as np
from numba import float64, int64, njit, types
from numpy.typing import NDArray

from fulgura.core.parameters import Kind

DT, BEATS, BEAT_S, FALLEN, BARS, SECONDS = range(6)
"""Places in the numbers of a moment, as steps get them."""


@dataclass
class Moment:
    """What a tick is told beside its values.

    dt: seconds since the last tick. beats: beats since the show began, whole and part, never going back;
    beat_s: seconds from one to the next; fallen, bars: how many beats and bar lines fell since the last tick;
    seconds: since the show began. values, hits: of all signals; order: where each stands there.
    """

    dt: float = 1.0 / 60.0
    beats: float = 0.0
    beat_s: float = 0.5
    fallen: int = 0
    bars: int = 0
    seconds: float = 0.0
    values: NDArray = field(default_factory=lambda: np.zeros(0))
    hits: NDArray = field(default_factory=lambda: np.zeros(0, dtype=np.int64))
    order: Mapping[str, int] = field(default_factory=dict)

    def numbers(self) -> NDArray:
        """As steps get them, shape (6,)."""
        return np.array([self.dt, self.beats, self.beat_s, self.fallen, self.bars, self.seconds])

    def value_of(self, signal: str) -> float:
        """What a signal is now; one that is gone is at rest."""
        at = self.order.get(signal, -1)
        return float(self.values[at]) if at >= 0 else 0.0

    def hits_of(self, signal: str) -> int:
        """How many hits of a signal fell since the last tick."""
        at = self.order.get(signal, -1)
        return int(self.hits[at]) if at >= 0 else 0


SIGNATURE = types.Tuple((float64, int64))(
    float64, int64, float64[::1], float64[::1], float64[::1], float64[::1], int64[::1]
)


def step(function: Callable) -> staticmethod:
    """Has a shaper's step compiled when it is first used: (value, hits, p, s, now, values, fallen) -> (value,
    hits).

    p: its parameters in the order of their declaration, as ``Shaper.numbers`` gives them; s: what it
    remembers, changed in place; now: a moment's numbers; values, fallen: value and count of hits of every
    signal.
    """
    return staticmethod(njit(cache=True)(function))


class Shaper(Kind):
    """A step of a route. Values between shapers are 0..1 unless a shaper leads them out of it.

    Hits go beside the value: how many fell since the last tick. What counts hits counts these, so that none
    is lost or doubled whatever the tick's length; what changes values lets them through.
    """

    family: ClassVar[str] = "shaper"
    counts_hits: ClassVar[bool] = False
    """True when it does nothing without hits: a level needs a gate before it."""
    says: ClassVar[str]
    """How it reads in a route's sentence; parameters in braces."""
    step: ClassVar[Callable]

    def start(self, seed: int) -> list[float]:
        """What it remembers at first. seed: of everything random in it."""
        return []

    def numbers(self, order: Mapping[str, int]) -> list[float]:
        """Its parameters as numbers: a choice by its place, a toggle as 0 or 1, a signal by its place (-1 for
        none and for one that is gone), points last, x and y in turn.
        """
        found: list[float] = []
        for parameter in self.parameters():
            value = getattr(self, parameter.name)
            match parameter.type:
                case "choice":
                    found.append(float(parameter.choices.index(value)))
                case "signal":
                    found.append(float(order.get(value, -1)))
                case "points":
                    found += [number for point in value for number in point]
                case _:
                    found.append(float(value))
        return found

    def refers_to(self) -> tuple[str, ...]:
        """Signals beside the route's own that it looks at."""
        return tuple(
            name for one in self.parameters() if one.type == "signal" and (name := getattr(self, one.name))
        )

    def run(
        self,
        values: Sequence[float],
        hits: Sequence[int] | None = None,
        moments: Sequence[Moment] | None = None,
        seed: int = 0,
    ) -> tuple[NDArray, NDArray]:
        """Many ticks of this shaper alone: (values, hits) that come out, shape (ticks,) each. For tests and
        for fitting.
        """
        p, s = np.array(self.numbers(moments[0].order if moments else {})), np.array(self.start(seed))
        count = len(values)
        hits = [0] * count if hits is None else hits
        moments = [Moment()] * count if moments is None else moments
        out = [
            type(self).step(float(v), int(h), p, s, m.numbers(), m.values, m.hits)
            for v, h, m in zip(values, hits, moments)
        ]
        return np.array([v for v, _ in out]), np.array([h for _, h in out], dtype=int)


@njit(cache=True)
def toward(last: float, to: float, ms: float, dt: float) -> float:
    """One step of dt seconds toward a value, of which ms milliseconds cover 1 - 1/e; at once when
    they are 0.
    """
    return last + (to - last) * (1.0 - exp(-1000.0 * dt / ms)) if ms > 0.0 else to


@njit(cache=True)
def random_at(seed: float, n: float) -> float:
    """The n-th number of a seeded row, 0 <= x < 1. No state: any number can be asked for alone.

    The finaliser of SplitMix64 (Steele, Lea, Flood, "Fast splittable pseudorandom number generators", OOPSLA
    2014; constants from memory).
    """
    z = (
        np.uint64(np.int64(seed)) * np.uint64(0x9E3779B97F4A7C15)
        + np.uint64(np.int64(n)) * np.uint64(0xD1B54A32D192ED03)
        + np.uint64(0x9E3779B97F4A7C15)
    )
    z = (z ^ (z >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    z = (z ^ (z >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    return np.float64((z ^ (z >> np.uint64(31))) >> np.uint64(11)) / 9007199254740992.0


@njit(cache=True)
def through(points: NDArray, x: float) -> float:
    """The straight line from point to point at x: points (2 n,), x and y in turn, from left to right.

    Level before the first and after the last; two points at one x are a jump.
    """
    last = points.shape[0] - 2
    if x < points[0]:
        return points[1]
    for i in range(0, last, 2):
        a, b = points[i], points[i + 2]
        if a <= x < b:
            return points[i + 1] + (points[i + 3] - points[i + 1]) * (x - a) / (b - a)
    return points[last + 1]

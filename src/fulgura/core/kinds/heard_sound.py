"""The last seconds of an input, as what draws sound reads them."""

from collections.abc import Callable

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.clock import SAMPLE_RATE

LONGEST_S = 10
KEPT = LONGEST_S * SAMPLE_RATE


class HeardSound:
    """The newest ten seconds of an input, left and right; silence before it was opened."""

    def __init__(self) -> None:
        self._ring = np.zeros((KEPT, 2))
        self._next = 0
        self._made: dict[int, Array] = {}

    def __getstate__(self) -> dict[str, object]:
        """Without the sound: a performer that goes on elsewhere has heard nothing yet."""
        return {}

    def __setstate__(self, _: dict[str, object]) -> None:
        self.__init__()  # type: ignore[misc]

    def push(self, block: Array) -> None:
        """Some more samples, shape (n, 2), n at most KEPT."""
        self._made.clear()
        end = self._next + len(block)
        if end <= KEPT:
            self._ring[self._next : end] = block
        else:
            first = KEPT - self._next
            self._ring[self._next :], self._ring[: end - KEPT] = block[:first], block[first:]
        self._next = end % KEPT

    def newest(self, count: int) -> Array:
        """A copy of the newest samples, the oldest first, shape (count, 2)."""
        count = min(count, KEPT)
        start = self._next - count
        if start >= 0:
            return self._ring[start : self._next].copy()
        return np.concatenate([self._ring[start:], self._ring[: self._next]])

    def once(self, count: int, make: Callable[[Array], Array]) -> Array:
        """What is made of so many newest samples: once for all that draw it, until more are heard."""
        if count not in self._made:
            self._made[count] = make(self.newest(count))
        return self._made[count]


def window_of(sound: HeardSound, ms: float, points: int) -> Array:
    """The sound of the last milliseconds at so many points, shape (points, 2).

    Of what lies between two points the farthest from 0 counts, so that no peak is lost; where points lie
    nearer than samples, it is read between them.
    """
    count = max(2, round(ms * SAMPLE_RATE / 1000.0))
    samples = sound.newest(count)
    if count == points:
        return samples
    if count < points:
        at = np.linspace(0.0, count - 1.0, points)
        below = np.minimum(at.astype(int), count - 2)
        share = (at - below)[:, None]
        between: Array = samples[below] * (1.0 - share) + samples[below + 1] * share
        return between
    starts = np.arange(points) * len(samples) // points
    top, bottom = np.maximum.reduceat(samples, starts), np.minimum.reduceat(samples, starts)
    found: Array = np.where(top >= -bottom, top, bottom)
    return found


def strided(sound: HeardSound, ms: float, points: int) -> Array:
    """The same, each point a sample as it was: what two channels draw together must be of one moment."""
    count = max(2, round(ms * SAMPLE_RATE / 1000.0))
    if count <= points:
        return window_of(sound, ms, points)
    samples = sound.newest(count)
    chosen: Array = samples[np.linspace(0, len(samples) - 1, points).astype(int)]
    return chosen

"""Fitting a shaper to what really arrives: a range from its percentiles, a threshold between its small and
its large peaks.
"""

from collections.abc import Mapping, Sequence

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.tick import TickContext
from fulgura.core.show.routes import Route

LOWER, UPPER = 5.0, 95.0
"""Percentiles that become the ends of a range."""
TYPICAL_QUIET, TYPICAL_LOUD = 15.0, 90.0
JUST_BEFORE, LEAST_BEFORE, MOST_BEFORE = 0.8, 12, 98.0
"""From which part of a beat on its end is looked at, how many values that takes, and their percentile."""
LEAST_WIDTH = 0.01


def arriving(
    route: Route, shaper: str, values: Array, hits: Array, order: Mapping[str, int], dt: float
) -> Array:
    """What came in at a shaper of a route, shape (ticks,): the route's signal led through the shapers before
    it.

    values, hits: of all signals, shape (ticks, signals). Raises KeyError when the route's signal is not among
    them.
    """
    at = order[route.signal]
    moments = [
        TickContext(dt=dt, seconds=i * dt, values=v, hits=h, order=order)
        for i, (v, h) in enumerate(zip(values, hits))
    ]
    out, fell = values[:, at], hits[:, at]
    for part in route.shapers:
        if part.id == shaper:
            break
        if part.on:
            out, fell = part.model().run(out, fell, moments)
    return out


def fit_typical(
    values: Sequence[float] | Array, phases: Sequence[float] | Array | None = None
) -> tuple[float, float] | None:
    """(typical quiet, typical loud) of the values: what a new route is fitted to, so that it goes its whole
    way again and again; None when hardly anything moves.

    phases: of the beat at each value, 0 while none is known. With a beat, quiet is what it is just before the
    next one falls, where that is not too far up: what is moved has then come to rest.
    """
    found = fit_range(values, TYPICAL_QUIET, TYPICAL_LOUD)
    if found is None or phases is None:
        return found
    before = np.asarray(values)[np.asarray(phases) > JUST_BEFORE]
    if len(before) < LEAST_BEFORE:
        return found
    low, high = found
    rests = min(float(np.percentile(before, MOST_BEFORE)), low + 0.65 * (high - low))
    return round(max(low, rests), 3), high


def fit_range(
    values: Sequence[float] | Array, lower: float = LOWER, upper: float = UPPER
) -> tuple[float, float] | None:
    """(low, high) that hold nine tenths of the values, or what lies between two other percentiles; None when
    hardly anything moves.
    """
    low, high = np.percentile(values, [lower, upper])
    return (round(float(low), 3), round(float(high), 3)) if high - low >= LEAST_WIDTH else None


def peaks_of(values: Sequence[float] | Array) -> Array:
    """Heights of the peaks: what is higher than before and not lower than after."""
    v = np.concatenate([[0.0], np.asarray(values, dtype=float), [0.0]])
    inner = v[1:-1]
    return inner[(inner > v[:-2]) & (inner >= v[2:]) & (inner > 1e-3)]


def fit_threshold(values: Sequence[float] | Array) -> float | None:
    """The threshold that best parts small peaks from large ones: the largest variance between the two groups.

    N. Otsu, "A threshold selection method from gray-level histograms", IEEE Trans. SMC 9(1), 1979. It lies
    midway between the groups. None with fewer than four peaks, or when they are all alike.
    """
    peaks = np.sort(peaks_of(values))
    if len(peaks) < 4 or peaks[-1] - peaks[0] < LEAST_WIDTH:
        return None
    count = len(peaks)
    sums = np.cumsum(peaks)
    below = np.arange(1, count)
    apart = sums[-1] / count * below - sums[:-1]
    between = apart**2 / (below * (count - below))
    split = int(np.argmax(between)) + 1
    return round(float((peaks[split - 1] + peaks[split]) / 2.0), 3)

"""Small compiled functions that shapers and modulators share."""

from math import exp

import numpy as np
from numba import njit

from fulgura.core.arrays import Array


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
def through(points: Array, x: float) -> float:
    """The straight line from point to point at x: points (2 n,), x and y in turn, from left to right.

    Level before the first and after the last; two points at one x are a jump.
    """
    found: float
    last = points.shape[0] - 2
    if x < points[0]:
        found = points[1]
        return found
    for i in range(0, last, 2):
        a, b = points[i], points[i + 2]
        if a <= x < b:
            found = points[i + 1] + (points[i + 3] - points[i + 1]) * (x - a) / (b - a)
            return found
    found = points[last + 1]
    return found

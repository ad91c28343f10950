"""Levels in dBFS after AES17: 0 dBFS is the RMS of a full-scale sine."""

import math

import numpy as np
from numba import njit

from fulgura.core.arrays import Array

SILENCE_DBFS = -120.0
"""What a level of nothing at all reads."""


def to_dbfs(rms: float) -> float:
    """RMS (linear, full scale = 1) to dBFS after AES17, so that a full-scale sine reads 0.0.

    >>> round(to_dbfs(2**-0.5), 6), round(to_dbfs(0.05), 2), to_dbfs(0.0)
    (0.0, -23.01, -120.0)
    """
    return max(SILENCE_DBFS, 20.0 * math.log10(rms * math.sqrt(2.0))) if rms > 0.0 else SILENCE_DBFS


def peak_dbfs(peak: float) -> float:
    """Largest absolute sample (linear) to dB relative to full scale.

    >>> peak_dbfs(1.0), round(peak_dbfs(0.5), 2)
    (0.0, -6.02)
    """
    return max(SILENCE_DBFS, 20.0 * math.log10(peak)) if peak > 0.0 else SILENCE_DBFS


LOUDEST = 4.0
"""Samples beyond ±4 are taken for damage, not for sound."""


@njit(cache=True)
def measure(samples: Array) -> tuple[float, float, int]:
    """Mean square, largest absolute value, and how many of the samples (n,) are damaged: not a number, or
    absurd.

    When any is damaged the first two say nothing; ``repair`` first.
    """
    square, peak, damaged = 0.0, 0.0, 0
    for value in samples:
        size = abs(value)
        square += value * value
        peak = max(peak, size)
        damaged += not size <= LOUDEST
    return square / max(samples.shape[0], 1), peak, damaged


def repair(samples: Array) -> Array:
    """Replace what is not a number by silence, and bring infinities and absurd values within full scale.

    Live devices and decoders do deliver NaN; one of them would stay in every filter for good.
    """
    found: Array = np.clip(np.nan_to_num(samples, nan=0.0, posinf=1.0, neginf=-1.0), -1.0, 1.0)
    return found


def coefficient(seconds: float, rate_hz: float) -> float:
    """The share of a step that a one-pole with this time constant covers in one sample: 1 - exp(-1 / (tau
    f)).
    """
    return 1.0 if seconds <= 0.0 else 1.0 - math.exp(-1.0 / (seconds * rate_hz))

"""Levels in dBFS after AES17: 0 dBFS is the RMS of a full-scale sine."""

import math

import numpy as np
from numpy.typing import NDArray

SILENCE_DBFS = -120.0
"""What a level of nothing at all reads."""


def to_dbfs(rms: float) -> float:
    """RMS (linear, full scale = 1) to dBFS after AES17, so that a full-scale sine reads 0.0."""
    return max(SILENCE_DBFS, 20.0 * math.log10(rms * math.sqrt(2.0))) if rms > 0.0 else SILENCE_DBFS


def peak_dbfs(peak: float) -> float:
    """Largest absolute sample (linear) to dB relative to full scale."""
    return max(SILENCE_DBFS, 20.0 * math.log10(peak)) if peak > 0.0 else SILENCE_DBFS


def measure(samples: NDArray) -> tuple[float, float]:
    """Mean square and largest absolute value of samples of any shape; (0, 0) when empty."""
    if samples.size == 0:
        return 0.0, 0.0
    flat = samples.reshape(-1)
    return float(np.dot(flat, flat)) / flat.size, float(max(flat.max(), -flat.min()))


def repair(samples: NDArray) -> tuple[NDArray, int]:
    """Replace what is not a number, and bring infinities and absurd values within ±4.

    Live devices and decoders do deliver NaN. Returns the samples (the same array when all is well)
    and how many were repaired, so that the desk can show the count.
    """
    wrong = ~(np.abs(samples) <= 4.0)
    count = int(np.count_nonzero(wrong))
    if count == 0:
        return samples, 0
    return np.clip(np.nan_to_num(samples, nan=0.0, posinf=1.0, neginf=-1.0), -1.0, 1.0), count


def follow(levels: NDArray, state: NDArray, up: NDArray, down: NDArray) -> NDArray:
    """One step of one-pole envelope followers side by side.

    levels, state: shape (n,), the new inputs and the last outputs (start with zeros).
    up, down: shape (n,), the shares from ``coefficient`` for a rising and a falling level.
    Returns the new outputs, shape (n,).
    """
    return state + np.where(levels > state, up, down) * (levels - state)


def coefficient(seconds: float, rate_hz: float) -> float:
    """The share of a step that a one-pole with this time constant covers in one sample: 1 - exp(-1 / (tau f))."""
    return 1.0 if seconds <= 0.0 else 1.0 - math.exp(-1.0 / (seconds * rate_hz))

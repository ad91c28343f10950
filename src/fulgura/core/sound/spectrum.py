"""The spectrum that the score draws: 2048 points, Hann window, log-frequency display bins."""

from functools import lru_cache

import numpy as np
from scipy.fft import rfft, rfftfreq

from fulgura.core.arrays import Array
from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.kinds.display import DISPLAY_BINS, DISPLAY_HIGH_HZ, DISPLAY_LOW_HZ
from fulgura.core.kinds.spectra import hann

POINTS = 2048


FLOOR_DBFS = -90.0


@lru_cache
def window() -> Array:
    """Periodic Hann window, scaled so that a full-scale sine on a bin reads amplitude 1."""
    shape = hann(POINTS)
    found: Array = shape * (2.0 / shape.sum())
    return found


def amplitudes(samples: Array) -> Array:
    """Amplitude of each of the 1025 bins of the last 2048 samples; a full-scale sine on a bin reads 1.0."""
    found: Array = np.abs(rfft(samples[-POINTS:] * window()))
    return found


@lru_cache
def display_edges() -> Array:
    """Edges of the display bins in Hz, shape (97,), evenly spaced in log frequency."""
    return np.geomspace(DISPLAY_LOW_HZ, DISPLAY_HIGH_HZ, DISPLAY_BINS + 1)


@lru_cache
def _grouping() -> tuple[Array, Array, Array, Array]:
    centres = np.sqrt(display_edges()[1:] * display_edges()[:-1])
    step = rfftfreq(POINTS, 1.0 / SAMPLE_RATE)[1]
    position = centres / step
    below = position.astype(int)
    first = np.ceil(display_edges()[:-1] / step).astype(int)
    several = np.ceil(display_edges()[1:] / step).astype(int) - first >= 2
    return below, position - below, first, several


def display(amplitude: Array) -> Array:
    """Bin amplitudes (1025,) to display levels in dBFS, shape (96,), never below -90.

    Wide display bins show their largest bin, so that a partial keeps its height; narrow ones (at the
    low end, where a display bin is finer than the transform) are read between two bins.
    """
    below, share, first, several = _grouping()
    between = amplitude[below] * (1.0 - share) + amplitude[below + 1] * share
    largest = np.maximum.reduceat(amplitude, first)
    shown = np.where(several, largest, between)
    return np.maximum(20.0 * np.log10(np.maximum(shown, 1e-6)), FLOOR_DBFS)

"""Frequency bands as streaming filters: second-order sections designed by scipy, state passed in and out."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numba import njit
from numpy.typing import NDArray

from fulgura.core import SAMPLE_RATE

SECTIONS = 2
"""Second-order sections of one band: a Butterworth of order 4, -3 dB at both edges."""

LOWEST_HZ, HIGHEST_HZ = 20.0, 20_000.0


@lru_cache(512)
def design(low_hz: float, high_hz: float, rate_hz: float = SAMPLE_RATE) -> NDArray:
    """Sections of one band, shape (2, 6), rows (b0, b1, b2, 1, a1, a2) as scipy.signal has them.

    A band that starts at 20 Hz or below is a low-pass, one that ends at 20 kHz or above a high-pass;
    any other a band-pass with -3 dB at both edges. Raises ValueError when the edges are not in order.
    """
    from scipy.signal import butter  # Takes a second or more to import, and the web process never designs a filter.

    if not 0 < low_hz < high_hz:
        raise ValueError(f"A band must start below its end; {low_hz:g} Hz to {high_hz:g} Hz does not.")
    if low_hz <= LOWEST_HZ:
        return butter(2 * SECTIONS, min(high_hz, HIGHEST_HZ), "lowpass", fs=rate_hz, output="sos")
    if high_hz >= HIGHEST_HZ:
        return butter(2 * SECTIONS, low_hz, "highpass", fs=rate_hz, output="sos")
    return butter(SECTIONS, [low_hz, high_hz], "bandpass", fs=rate_hz, output="sos")


@dataclass
class Bank:
    """Many bands over one sound. sections: (bands, 2, 6); state: (bands, 2, 2), zeros at the start."""

    sections: NDArray
    state: NDArray

    @classmethod
    def of(cls, edges: list[tuple[float, float]], rate_hz: float = SAMPLE_RATE) -> "Bank":
        sections = np.array([design(low, high, rate_hz) for low, high in edges]).reshape(len(edges), SECTIONS, 6)
        return cls(sections, np.zeros((len(edges), SECTIONS, 2)))


NO_DENORMALS = 1e-30
"""Added to every sample: states that fade to numbers too small for the processor's fast path cost ten times as much."""


@njit(cache=True, fastmath={"contract"})
def filter_bank(sections: NDArray, state: NDArray, samples: NDArray, squares: NDArray, peaks: NDArray) -> None:
    """Run samples (n,) through every band; state is moved on in place.

    Fills squares and peaks, both (bands,): mean square and largest absolute sample of each band's output.
    Direct form II transposed, as in scipy.signal.sosfilt, which the tests compare it with. Compiled
    because a call of sosfilt for each band of each block costs more than the rest of the analyser; both
    sections are written out, so that the whole recursion stays in registers.
    """
    for band in range(sections.shape[0]):
        one, two = sections[band, 0], sections[band, 1]
        b0, b1, b2, a1, a2 = one[0], one[1], one[2], one[4], one[5]
        d0, d1, d2, c1, c2 = two[0], two[1], two[2], two[4], two[5]
        p0, p1 = state[band, 0, 0], state[band, 0, 1]
        q0, q1 = state[band, 1, 0], state[band, 1, 1]
        square, peak = 0.0, 0.0
        for sample in samples:
            x = sample + NO_DENORMALS
            y = b0 * x + p0
            p0 = b1 * x - a1 * y + p1
            p1 = b2 * x - a2 * y
            z = d0 * y + q0
            q0 = d1 * y - c1 * z + q1
            q1 = d2 * y - c2 * z
            square += z * z
            size = abs(z)
            if size > peak:
                peak = size
        state[band, 0, 0], state[band, 0, 1] = p0, p1
        state[band, 1, 0], state[band, 1, 1] = q0, q1
        squares[band], peaks[band] = square / samples.shape[0], peak

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


SLOPES = {"gentle": 1, "usual": 2, "steep": 4}
"""How a band falls beside its edges: 6, 12 or 24 dB an octave on each side (Butterworth)."""
STEEPEST = max(SLOPES.values())
NOTHING = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
"""A section that lets everything through as it is."""


@lru_cache(512)
def design(low_hz: float, high_hz: float, rate_hz: float = SAMPLE_RATE, slope: str = "usual") -> NDArray:
    """Sections of one band, shape (2, 6), or (4, 6) of a steep one, rows (b0, b1, b2, 1, a1, a2) as scipy.signal has them.

    A band that starts at 20 Hz or below is a low-pass, one that ends at 20 kHz or above a high-pass, both falling
    twice as fast on their one side; any other a band-pass with -3 dB at both edges. Raises ValueError when the edges
    are not in order, KeyError for an unknown slope.
    """
    order = SLOPES[slope]
    from scipy.signal import butter  # Takes a second or more to import, and the web process never designs a filter.

    if not 0 < low_hz < high_hz:
        raise ValueError(f"A band must start below its end; {low_hz:g} Hz to {high_hz:g} Hz does not.")
    if low_hz <= LOWEST_HZ:
        sections = butter(2 * order, min(high_hz, HIGHEST_HZ), "lowpass", fs=rate_hz, output="sos")
    elif high_hz >= HIGHEST_HZ:
        sections = butter(2 * order, low_hz, "highpass", fs=rate_hz, output="sos")
    else:
        sections = butter(order, [low_hz, high_hz], "bandpass", fs=rate_hz, output="sos")
    missing = max(0, SECTIONS - len(sections))
    return np.concatenate([sections, np.tile(NOTHING, (missing, 1))])


@dataclass
class Bank:
    """Many bands over one sound. sections: (bands, 2, 6); state: (bands, 2, 2), zeros at the start.

    Steep bands go through two more sections: steep (bands that are steep,) names them, more and more_state hold those.
    """

    sections: NDArray
    state: NDArray
    steep: NDArray
    more: NDArray
    more_state: NDArray

    @classmethod
    def of(cls, edges: list[tuple], rate_hz: float = SAMPLE_RATE) -> "Bank":
        """edges: rows of low and high in Hz and, where it is not the usual one, a slope."""
        designs = [design(row[0], row[1], rate_hz, *row[2:]) for row in edges]
        steep = [i for i, sections in enumerate(designs) if len(sections) > SECTIONS]
        return cls(
            np.array([sections[:SECTIONS] for sections in designs]).reshape(len(edges), SECTIONS, 6), np.zeros((len(edges), SECTIONS, 2)),
            np.array(steep, dtype=np.int64), np.array([designs[i] for i in steep]).reshape(len(steep), STEEPEST, 6), np.zeros((len(steep), STEEPEST, 2)),
        )


NO_DENORMALS = 1e-30
"""Added to every sample: states that fade to numbers too small for the processor's fast path cost ten times as much."""


@njit(cache=True, fastmath={"contract"})
def filter_bank(sections: NDArray, state: NDArray, samples: NDArray, squares: NDArray, peaks: NDArray) -> None:
    """Run samples (n,) through every band; state is moved on in place.

    Fills squares and peaks, both (bands,): mean square and largest absolute sample of each band's output.
    Direct form II transposed, as in scipy.signal.sosfilt, which the tests compare it with. Compiled
    because a call of sosfilt for each band of each block costs more than the rest of the analyser. Both
    sections are written out, so that the whole recursion stays in registers, and two bands go side by side:
    each waits for its own last sample, and the processor has time for another meanwhile (1.5 times as fast).
    """
    for band in range(0, sections.shape[0], 2):
        # An odd band out is run beside itself, and its numbers written twice.
        other = min(band + 1, sections.shape[0] - 1)
        one, two = sections[band, 0], sections[band, 1]
        b0, b1, b2, a1, a2 = one[0], one[1], one[2], one[4], one[5]
        d0, d1, d2, c1, c2 = two[0], two[1], two[2], two[4], two[5]
        p0, p1, q0, q1 = state[band, 0, 0], state[band, 0, 1], state[band, 1, 0], state[band, 1, 1]
        one, two = sections[other, 0], sections[other, 1]
        f0, f1, f2, e1, e2 = one[0], one[1], one[2], one[4], one[5]
        h0, h1, h2, g1, g2 = two[0], two[1], two[2], two[4], two[5]
        r0, r1, s0, s1 = state[other, 0, 0], state[other, 0, 1], state[other, 1, 0], state[other, 1, 1]
        square, peak, other_square, other_peak = 0.0, 0.0, 0.0, 0.0
        for sample in samples:
            x = sample + NO_DENORMALS
            y = b0 * x + p0
            w = f0 * x + r0
            p0 = b1 * x - a1 * y + p1
            r0 = f1 * x - e1 * w + r1
            p1 = b2 * x - a2 * y
            r1 = f2 * x - e2 * w
            z = d0 * y + q0
            v = h0 * w + s0
            q0 = d1 * y - c1 * z + q1
            s0 = h1 * w - g1 * v + s1
            q1 = d2 * y - c2 * z
            s1 = h2 * w - g2 * v
            square += z * z
            other_square += v * v
            peak = max(peak, abs(z))
            other_peak = max(other_peak, abs(v))
        state[band, 0, 0], state[band, 0, 1], state[band, 1, 0], state[band, 1, 1] = p0, p1, q0, q1
        squares[band], peaks[band] = square / samples.shape[0], peak
        state[other, 0, 0], state[other, 0, 1], state[other, 1, 0], state[other, 1, 1] = r0, r1, s0, s1
        squares[other], peaks[other] = other_square / samples.shape[0], other_peak


@njit(cache=True)
def filter_steep(steep: NDArray, sections: NDArray, state: NDArray, samples: NDArray, squares: NDArray, peaks: NDArray) -> None:
    """Run samples through all four sections of the bands that ``steep`` names; their squares and peaks are overwritten.

    They are few and are heard twice: the two sections that every band has cost less than asking which has more.
    """
    for row in range(steep.shape[0]):
        square, peak = 0.0, 0.0
        for sample in samples:
            x = sample + NO_DENORMALS
            for k in range(sections.shape[1]):
                b = sections[row, k]
                y = b[0] * x + state[row, k, 0]
                state[row, k, 0] = b[1] * x - b[4] * y + state[row, k, 1]
                state[row, k, 1] = b[2] * x - b[5] * y
                x = y
            square += x * x
            peak = max(peak, abs(x))
        squares[steep[row]], peaks[steep[row]] = square / samples.shape[0], peak

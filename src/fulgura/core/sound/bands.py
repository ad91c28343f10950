"""Frequency bands as streaming filters: second-order sections designed by scipy, state passed in and out."""

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray
from scipy.signal import butter

from fulgura.core import SAMPLE_RATE

SECTIONS = 2
"""Second-order sections of one band: a Butterworth of order 4, -3 dB at both edges."""

LOWEST_HZ, HIGHEST_HZ = 20.0, 20_000.0


def design(low_hz: float, high_hz: float, rate_hz: float = SAMPLE_RATE) -> NDArray:
    """Sections of one band, shape (2, 6), rows (b0, b1, b2, 1, a1, a2) as scipy.signal has them.

    A band that starts at 20 Hz or below is a low-pass, one that ends at 20 kHz or above a high-pass;
    any other a band-pass with -3 dB at both edges. Raises ValueError when the edges are not in order.
    """
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


@njit(cache=True)
def filter_bank(sections: NDArray, state: NDArray, samples: NDArray, out: NDArray) -> None:
    """Run samples (n,) through every band into out (bands, n); state is moved on in place.

    Direct form II transposed, as in scipy.signal.sosfilt, which the tests compare it with. Compiled
    because a call of sosfilt for each band of each block costs more than the rest of the analyser.
    """
    for band in range(sections.shape[0]):
        for n in range(samples.shape[0]):
            value = samples[n]
            for s in range(sections.shape[1]):
                section, z = sections[band, s], state[band, s]
                result = section[0] * value + z[0]
                z[0] = section[1] * value - section[4] * result + z[1]
                z[1] = section[2] * value - section[5] * result
                value = result
            out[band, n] = value

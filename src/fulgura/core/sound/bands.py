"""Frequency bands as streaming filters: second-order sections designed by scipy, state passed in and out."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.kinds.listening import SLOPES

SECTIONS = 2
"""Second-order sections of one band: a Butterworth of order 4, -3 dB at both edges."""

LOWEST_HZ, HIGHEST_HZ = 20.0, 20_000.0


STEEPEST = max(SLOPES.values())
NOTHING = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
"""A section that lets everything through as it is."""


@lru_cache(512)
def design(low_hz: float, high_hz: float, rate_hz: float = SAMPLE_RATE, slope: str = "usual") -> Array:
    """Sections of one band, shape (2, 6), or (4, 6) of a steep one, rows (b0, b1, b2, 1, a1, a2) as
    scipy.signal has them.

    A band that starts at 20 Hz or below is a low-pass, one that ends at 20 kHz or above a high-pass, both
    falling twice as fast on their one side; any other a band-pass with -3 dB at both edges. Raises ValueError
    when the edges are not in order, KeyError for an unknown slope.
    """
    order = SLOPES[slope]
    from scipy.signal import (
        butter,
    )  # Takes a second or more to import, and the web process never designs a filter.

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


LANES = 16
"""Bands that are filtered side by side: a number known when it is compiled lets the processor work on several
at once.
"""


@dataclass
class Bank:
    """Many bands over one sound, in groups of LANES; what is over in the last group filters nothing.

    rows: (groups, 10 * LANES), the numbers b0, b1, b2, a1, a2 of the first section, then of the second, each
    for all bands of the group; state: (groups, 4 * LANES), both delays of the first section, then of the
    second, zeros at the start. Steep bands go through two more sections: steep (bands that are steep,) names
    them, more (steep, 4, 6) holds all of their sections, more_state (steep, 4, 2) their delays.
    """

    rows: Array
    state: Array
    steep: Array
    more: Array
    more_state: Array

    @classmethod
    def of(cls, edges: Sequence[tuple[Any, ...]], rate_hz: float = SAMPLE_RATE) -> "Bank":
        """edges: rows of low and high in Hz and, where it is not the usual one, a slope."""
        designs = [design(row[0], row[1], rate_hz, *row[2:]) for row in edges]
        steep = [i for i, sections in enumerate(designs) if len(sections) > SECTIONS]
        groups = -(-len(edges) // LANES)
        numbers = np.zeros((groups * LANES, 5 * SECTIONS))
        for i, sections in enumerate(designs):
            numbers[i] = sections[:SECTIONS, [0, 1, 2, 4, 5]].ravel()
        rows = np.ascontiguousarray(numbers.reshape(groups, LANES, 5 * SECTIONS).swapaxes(1, 2)).reshape(
            groups, 5 * SECTIONS * LANES
        )
        more = np.array([designs[i] for i in steep]).reshape(len(steep), STEEPEST, 6)
        return cls(
            rows,
            np.zeros((groups, 2 * SECTIONS * LANES)),
            np.array(steep, dtype=np.int64),
            more,
            np.zeros((len(steep), STEEPEST, 2)),
        )

    def take_over(self, band: int, other: "Bank", other_band: int) -> None:
        """Go on with the state that a band of the same design has in another bank."""
        self._delays(band)[:] = other._delays(other_band)
        if band in self.steep:
            self.more_state[np.searchsorted(self.steep, band)] = other.more_state[
                np.searchsorted(other.steep, other_band)
            ]

    def listen_back(self, band: int, edge: tuple[Any, ...], samples: Array) -> None:
        """Begin a band, of these edges, as if it had heard these samples (n,)."""
        from scipy.signal import sosfilt

        sections = design(edge[0], edge[1], SAMPLE_RATE, *edge[2:])
        _, state = sosfilt(sections, samples, zi=np.zeros((len(sections), 2)))
        self._delays(band)[:] = state[:SECTIONS].ravel()
        if band in self.steep:
            self.more_state[np.searchsorted(self.steep, band)] = state

    def _delays(self, band: int) -> Array:
        return self.state.reshape(len(self.state), 2 * SECTIONS, LANES)[band // LANES, :, band % LANES]


NO_DENORMALS = 1e-30
"""Added to every sample: states that fade to numbers too small for the processor's fast path cost ten times
as much.
"""


@njit(cache=True, fastmath={"contract", "nnan", "ninf", "nsz"})
def filter_bank(rows: Array, state: Array, samples: Array, squares: Array, peaks: Array) -> None:
    """Run samples (n,) through every band of a ``Bank``; state is moved on in place.

    Fills squares and peaks, both (bands,): mean square and largest absolute sample of each band's output.
    Direct form II transposed, as in scipy.signal.sosfilt, which the tests compare it with. Compiled because a
    call of sosfilt for each band of each block costs more than the rest of the analyser. All of a group's
    numbers lie in one array at distances that the compiler knows: only then does it filter four bands or more
    with one instruction.
    """
    work = np.empty(6 * LANES)
    for group in range(rows.shape[0]):
        row = rows[group]
        work[: 4 * LANES] = state[group]
        work[4 * LANES :] = 0.0
        for sample in samples:
            x = sample + NO_DENORMALS
            for k in range(LANES):
                y = row[k] * x + work[k]
                # What does not wait for y comes first: the recursion then takes two steps, not three.
                work[k] = row[LANES + k] * x + work[LANES + k] - row[3 * LANES + k] * y
                work[LANES + k] = row[2 * LANES + k] * x - row[4 * LANES + k] * y
                z = row[5 * LANES + k] * y + work[2 * LANES + k]
                work[2 * LANES + k] = row[6 * LANES + k] * y + work[3 * LANES + k] - row[8 * LANES + k] * z
                work[3 * LANES + k] = row[7 * LANES + k] * y - row[9 * LANES + k] * z
                work[4 * LANES + k] += z * z
                height = abs(z)
                work[5 * LANES + k] = height if height > work[5 * LANES + k] else work[5 * LANES + k]
        state[group] = work[: 4 * LANES]
        first = group * LANES
        for k in range(min(LANES, squares.shape[0] - first)):
            squares[first + k], peaks[first + k] = work[4 * LANES + k] / samples.shape[0], work[5 * LANES + k]


@njit(cache=True)
def filter_steep(
    steep: Array, sections: Array, state: Array, samples: Array, squares: Array, peaks: Array
) -> None:
    """Run samples through all four sections of the bands that ``steep`` names; their squares and peaks are
    overwritten.

    They are few and are heard twice: the two sections that every band has cost less than asking which has
    more.
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

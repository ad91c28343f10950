"""“Find it for me”: which band best separates a moment of the sound from everything around it."""

from dataclasses import dataclass

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.display import DISPLAY_BINS
from fulgura.core.sound.spectrum import display_edges

NARROWEST_BINS, WIDEST_BINS = 3, 32
"""A third of an octave, and three and a half: what is heard as one place."""
MOMENT_S = 0.05
NEARLY_DB = 1.0
RESTING_PERCENTILE = 90
"""What the band reaches at other times, but for its rarest moments: those may be the same drum again."""


@dataclass(frozen=True)
class Proposal:
    """A band in Hz, and by how many decibels the moment stands out in it."""

    low_hz: float
    high_hz: float
    contrast_db: float


def propose(levels_db: Array, times: Array, t: float, hz: float) -> Proposal | None:
    """The band around hz in which the moment t stands out most.

    levels_db: display levels, shape (frames, 96); times: stream seconds of the frames, shape (frames,).
    Returns None when the moment was not heard, or when nothing stands out there (less than 3 dB).
    """
    moment = np.abs(times - t) <= MOMENT_S
    if not moment.any() or moment.all():
        return None
    power = 10.0 ** (levels_db / 10.0)
    summed = np.concatenate([np.zeros((len(power), 1)), np.cumsum(power, axis=1)], axis=1)
    bin = int(np.clip(np.searchsorted(display_edges(), hz) - 1, 0, DISPLAY_BINS - 1))
    found: list[tuple[float, int, int]] = []
    for first in range(max(0, bin - WIDEST_BINS + 1), bin + 1):
        for last in range(max(bin, first + NARROWEST_BINS - 1), min(DISPLAY_BINS, first + WIDEST_BINS)):
            band = summed[:, last + 1] - summed[:, first]
            resting = np.percentile(band[~moment], RESTING_PERCENTILE)
            found.append(
                (float(10.0 * np.log10((band[moment].max() + 1e-12) / (resting + 1e-12))), first, last)
            )
    # Of all that separate it nearly as well the widest: it catches the next one too when that is a little
    # off.
    most = max(contrast for contrast, _, _ in found)
    best = max(
        (stretch for stretch in found if stretch[0] >= most - NEARLY_DB),
        key=lambda stretch: (stretch[2] - stretch[1], stretch[0]),
    )
    if best[0] < 3.0:
        return None
    edges = display_edges()
    return Proposal(round(float(edges[best[1]]), 1), round(float(edges[best[2] + 1]), 1), round(best[0], 1))

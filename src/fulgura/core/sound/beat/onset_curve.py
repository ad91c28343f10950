"""The onset curve: how much the sound's bands rise, step by step."""

from dataclasses import dataclass, field
from functools import lru_cache
from math import exp

import numpy as np
from numba import njit
from scipy.fft import rfft, rfftfreq

from fulgura.core.arrays import Array
from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.kinds.spectra import hann

HOP = 512
"""Samples between two steps of the beat filter (10.7 ms)."""
RATE = SAMPLE_RATE / HOP
WINDOW = 1024


HOP_S = HOP / SAMPLE_RATE
FLUX_LATENESS_S = 0.012
"""From an onset to the middle of the step whose flux it raises most: measured on clicks, see the tests."""
HEARD_LATE_S = WINDOW / 2 / SAMPLE_RATE + FLUX_LATENESS_S - HOP_S
"""How long ago that which a step hears sounded."""


@lru_cache
def flux_bands() -> Array:
    """Weights (24, 513) that gather the transform's bins into log-spaced bands from 30 Hz to 12 kHz."""
    edges = np.geomspace(30.0, 12_000.0, 26)
    hz = rfftfreq(WINDOW, 1.0 / SAMPLE_RATE)
    rows = []
    for low, centre, high in zip(edges, edges[1:], edges[2:]):
        rows.append(
            np.clip(np.minimum((hz - low) / (centre - low), (high - hz) / (high - centre)), 0.0, None)
        )
        if rows[-1].sum() == 0.0:
            rows[-1][np.argmin(np.abs(hz - centre))] = 1.0
    weights = np.array(rows)
    found: Array = weights / weights.sum(axis=1, keepdims=True)
    return found


@lru_cache
def _window() -> Array:
    return hann(WINDOW)


_LOW_WEIGHT = np.linspace(1.7, 0.5, 24)


@dataclass
class Flux:
    """State of the onset curve: last band levels, and the loudest lately (sets the compression).

    sizes, levels, band_flux: magnitudes of the last step's transform (513,), of its bands (24,), and by how
    much each of these rose, compressed; onset: whether one began.
    """

    bands: Array = field(default_factory=lambda: np.zeros((2, 24)))
    loudest: float = 1e-4
    height: float = 1e-3
    sizes: Array = field(default_factory=lambda: np.zeros(WINDOW // 2 + 1))
    levels: Array = field(default_factory=lambda: np.zeros(24))
    band_flux: Array = field(default_factory=lambda: np.zeros(24))
    onset: bool = False
    ready: bool = True


def flux(state: Flux, samples: Array) -> tuple[float, float]:
    """One step's onset strength from the last 1024 samples: (whole, low end), each about 0..1.

    Compression follows the recent loudest band, so that the curve does not depend on the level.
    """
    weights, first, last = _sparse_bands()
    state.loudest *= _FORGET_LOUDEST
    whole, low, state.loudest = _rise(
        samples,
        _window(),
        weights,
        first,
        last,
        state.bands,
        state.loudest,
        _LOW_WEIGHT,
        state.sizes,
        state.levels,
        state.band_flux,
    )
    state.height = max(whole, state.height * _FORGET_HEIGHT, 4.0)
    state.onset = state.ready and whole > 0.3 * state.height
    state.ready = not state.onset and (state.ready or whole < 0.15 * state.height)
    return whole / state.height, low / state.height


_FORGET_LOUDEST, _FORGET_HEIGHT = exp(-1.0 / (8.0 * RATE)), exp(-1.0 / (6.0 * RATE))


@lru_cache
def _sparse_bands() -> tuple[Array, Array, Array]:
    """The weights with the first and one past the last bin of each band: most of the matrix is zero."""
    weights = flux_bands()
    first = (weights > 0.0).argmax(axis=1)
    return weights, first, weights.shape[1] - (weights[:, ::-1] > 0.0).argmax(axis=1)


@njit(cache=True, fastmath={"contract", "reassoc"})
def _rise(
    samples: Array,
    window: Array,
    weights: Array,
    first: Array,
    last: Array,
    before: Array,
    loudest: float,
    low_weight: Array,
    size: Array,
    levels: Array,
    band_flux: Array,
) -> tuple[float, float, float]:
    """Band levels, compressed, less those of two steps ago, summed over the bands that rose.

    samples: (1024,). Fills size (513,), levels and band_flux (bands,). Compiled: as array operations these
    few hundred numbers cost more in calls than in arithmetic, and so does the transform (rocket-fft is what
    lets compiled code call scipy's).
    """
    spectrum = rfft(samples * window)
    for k in range(size.shape[0]):
        size[k] = np.sqrt(spectrum[k].real ** 2 + spectrum[k].imag ** 2)
    for band in range(levels.shape[0]):
        total = 0.0
        part, weight = size[first[band] : last[band]], weights[band, first[band] : last[band]]
        for k in range(part.shape[0]):
            total += weight[k] * part[k]
        levels[band] = total
        loudest = max(loudest, total)
    loudest = max(loudest, 1e-3)
    whole, low = 0.0, 0.0
    for band in range(levels.shape[0]):
        compressed = np.log1p(levels[band] * (200.0 / loudest))
        band_flux[band] = max(0.0, compressed - before[0, band])
        rise = band_flux[band] * low_weight[band]
        before[0, band], before[1, band] = before[1, band], compressed
        whole += rise
        if band < 8:
            low += rise
    return whole, low, loudest

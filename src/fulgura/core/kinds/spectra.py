"""Spectra as they are drawn: which frequencies, how they lie beside each other, and how loud is how high."""

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

import numpy as np
from scipy.fft import rfft

from fulgura.core.arrays import Array
from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.kinds.heard_sound import HeardSound
from fulgura.core.kinds.providers import TickInput

SCALES = ("by octaves", "evenly in Hz", "as heard")
READS = ("the loudest", "their mean")
BY_OCTAVES, IN_HZ, MEL = range(len(SCALES))
LEAST_POINTS, MOST_POINTS = 256, 32_768
SILENT_DB = -140.0


@lru_cache(64)
def edges(count: int, low_hz: float, high_hz: float, scale: int) -> Array:
    """Edges in Hz of so many bins, shape (count + 1,).

    As heard: evenly in mel, 2595 log10(1 + f / 700) (D. O'Shaughnessy, "Speech Communication", 1987).
    """
    low, high = sorted((low_hz, max(high_hz, low_hz + 1.0)))
    if scale == IN_HZ:
        return np.linspace(low, high, count + 1)
    if scale == MEL:
        mel = np.linspace(np.log10(1.0 + low / 700.0), np.log10(1.0 + high / 700.0), count + 1)
        found: Array = 700.0 * (10.0**mel - 1.0)
        return found
    return np.geomspace(max(low, 1.0), high, count + 1)


def hann(points: int) -> Array:
    """The periodic Hann window, as for spectra: 0.5 - 0.5 cos(2 pi n / N)."""
    found: Array = 0.5 - 0.5 * np.cos(2.0 * np.pi * np.arange(points) / points)
    return found


@lru_cache(64)
def _window(points: int) -> Array:
    """Of two channels' sum: a full-scale sine in both reads 1."""
    shape = hann(points)
    found: Array = shape / shape.sum()
    return found


@lru_cache(64)
def _grouping(
    points: int, count: int, low_hz: float, high_hz: float, scale: int
) -> tuple[Array, Array, Array, Array, Array]:
    found = edges(count, low_hz, high_hz, scale)
    centres = np.sqrt(np.maximum(found[1:], 1.0) * np.maximum(found[:-1], 1.0))
    step = SAMPLE_RATE / points
    position = np.minimum(centres / step, points // 2 - 1.0)
    below = position.astype(int)
    first = np.minimum(np.ceil(found[:-1] / step).astype(int), points // 2)
    last = np.minimum(np.ceil(found[1:] / step).astype(int), points // 2 + 1)
    return below, position - below, first, np.maximum(last - first, 1), centres


def points_of(window_ms: float) -> int:
    """How many samples a transform of about this length has: a power of two."""
    wanted = np.log2(max(1.0, window_ms * SAMPLE_RATE / 1000.0))
    return int(np.clip(2 ** int(round(wanted)), LEAST_POINTS, MOST_POINTS))


def decibels(
    sound: HeardSound,
    count: int,
    low_hz: float,
    high_hz: float,
    scale: int,
    window_ms: float,
    gain_db: float = 0.0,
    tilt_db: float = 0.0,
    mean: bool = False,
) -> Array:
    """Level of each bin in dB, a full-scale sine reads 0; shape (count,).

    Bins that are narrower than the transform are read between two of its lines; in wider ones the loudest
    line counts, so that a tone keeps its height, or, with mean, their mean power, so that noise keeps its.
    tilt_db: so much louder with every octave above 1 kHz.
    """
    points = points_of(window_ms)
    amplitude = sound.once(points, lambda newest: np.abs(rfft(newest.sum(axis=1) * _window(points))))
    below, share, first, several, centres = _grouping(points, count, low_hz, high_hz, scale)
    power = amplitude**2
    if mean:
        total = np.add.reduceat(np.append(power, 0.0), np.minimum(first, len(power) - 1))
        # The last bin ends at its own edge, not at the end of the spectrum.
        total[-1] = power[first[-1] : first[-1] + several[-1]].sum()
        wide = total / several
    else:
        wide = np.maximum.reduceat(power, np.minimum(first, len(power) - 1))
        wide[-1] = power[first[-1] : first[-1] + several[-1]].max(initial=0.0)
    between = (
        amplitude[below] * (1.0 - share) + amplitude[np.minimum(below + 1, len(amplitude) - 1)] * share
    ) ** 2
    shown = np.where(several >= 2, wide, between)
    level: Array = 10.0 * np.log10(np.maximum(shown, 1e-14)) + gain_db
    if tilt_db:
        level = level + tilt_db * np.log2(centres / 1000.0)
    return level


def as_bytes(levels: Array, size: int) -> Array:
    """Levels 0..1 as bytes, filled up with nothing; what is no number is nothing. shape (size,)."""
    found = np.zeros(size, dtype=np.uint8)
    found[: len(levels)] = np.clip(np.nan_to_num(levels), 0.0, 1.0) * 255.0 + 0.5
    return found


class FollowedSpectrum:
    """Levels 0..1 of bins from their floor to their ceiling, which rise and fall in their own time."""

    def __init__(self) -> None:
        self.held: Array = np.zeros(0)

    def step(self, values: Mapping[str, Any], heard: TickInput, count: int) -> Array:
        """One tick: shape (count,). values: of a part that is SpectrumDrawn."""
        level = decibels(
            heard.sound_of(values["input"]),
            count,
            round(float(values["low_hz"]), 1),
            round(float(values["high_hz"]), 1),
            int(values["scale"]),
            values["window"],
            values["gain"],
            values["tilt"],
            int(values["reads"]) == 1,
        )
        floor, ceiling = values["floor"], max(values["ceiling"], values["floor"] + 1.0)
        wanted = np.clip((level - floor) / (ceiling - floor), 0.0, 1.0)
        if len(self.held) != count:
            self.held = np.zeros(count)
        dt = heard.context.dt
        rise = dt * 1000.0 / values["attack"] if values["attack"] > 0.0 else 1.0
        fall = dt / values["fall"] if values["fall"] > 0.0 else 1.0
        self.held = np.clip(wanted, self.held - fall, self.held + rise)
        return self.held

"""What else is in the sound beside bands: brightness, noisiness, density, novelty, build-up and drop, pitch,
space.

Centroid and flatness as in G. Peeters, "A large set of audio features for sound description" (IRCAM, 2004);
novelty as the distance between what is heard now and what was heard before, after J. Foote, "Automatic audio
segmentation using a measure of audio novelty" (ICME 2000), in a causal form; chroma after T. Fujishima,
"Realtime chord recognition of musical sound" (ICMC 1999). Everything is heard from the past alone.
"""

from functools import lru_cache

import numpy as np
from numba import njit
from scipy.fft import rfft

from fulgura.core.arrays import Array
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.descriptors import DESCRIPTORS
from fulgura.core.kinds.spectra import hann
from fulgura.core.sound.levels import coefficient

_BRIGHTNESS, _NOISINESS, _DENSITY, _NOVELTY, _BUILD, _DROP, _PITCH, _WIDTH, _PHASE = range(len(DESCRIPTORS))

STEP_HZ = SAMPLE_RATE / (2 * BLOCK)
"""Steps a second: one every 512 samples, as the beat's."""
CHROMA_POINTS = 4096
CHROMA_EVERY = 10
"""Steps between two looks at the notes: they need a long window and change slowly."""
DARKEST_HZ, BRIGHTEST_HZ = 100.0, 8_000.0
_PROFILE = 24
_SILENCE = 1e-9
_SWAY = 0.4
_SPACE = coefficient(0.3, SAMPLE_RATE / BLOCK)
_SHORT, _MIDDLE, _LONG = (coefficient(seconds, STEP_HZ) for seconds in (0.08, 1.2, 6.0))
_PAST = coefficient(5.0, STEP_HZ)
_COUNT = coefficient(2.0, STEP_HZ)
_FALL = 1.0 - coefficient(0.7, STEP_HZ)


@lru_cache
def _classes() -> Array:
    """Pitch class of each bin of the long transform, -1 outside 60 Hz to 2 kHz (A4 = 440 Hz, ISO 16)."""
    hz = np.arange(CHROMA_POINTS // 2 + 1) * SAMPLE_RATE / CHROMA_POINTS
    note = np.round(69 + 12 * np.log2(np.maximum(hz, 1.0) / 440.0)).astype(int)
    return np.where((hz >= 60.0) & (hz <= 2_000.0), note % 12, -1)


@lru_cache
def _chroma_window() -> Array:
    return hann(CHROMA_POINTS)


class Descriptors:
    """One input's descriptors: ``values`` is in the order of DESCRIPTORS."""

    def __init__(self) -> None:
        self.values = np.zeros(len(DESCRIPTORS))
        self.values[_PHASE] = 1.0
        self.chroma = np.zeros(12)
        self.steps = 0
        self._trend = np.zeros((3, 3))
        self._profiles = np.zeros((2, _PROFILE))
        self._space = np.zeros(3)
        # A ring: only when the notes are looked at is it put in order.
        self._long, self._ordered, self._at = np.zeros(CHROMA_POINTS), np.zeros(CHROMA_POINTS), 0

    def hear(self, block: Array, mono: Array) -> None:
        """Every block: stereo image from (n, channels), and the long window's samples from mono (n,)."""
        _space(block, self._space, self.values)
        self._long[self._at : self._at + BLOCK] = mono
        self._at = (self._at + BLOCK) % CHROMA_POINTS

    def step(self, sizes: Array, profile: Array, onset: bool, total: float) -> None:
        """Every second block, from the beat's transform.

        sizes: bin magnitudes of 1024 samples under a Hann window (513,); profile: its 24 band levels; onset:
        whether one began; total: mean square of the sound.
        """
        self.steps += 1
        _step(sizes, profile, onset, total, self._trend, self._profiles, self.values)
        if self.steps % CHROMA_EVERY == 0:
            self._notes(total > _SILENCE)

    def _notes(self, sounding: bool) -> None:
        if not sounding:
            self.chroma *= 0.8
            return
        self.values[_PITCH] = (
            _notes(self._long, self._at, _chroma_window(), self._ordered, _classes(), self.chroma) / 12.0
        )


@njit(cache=True)
def _step(
    sizes: Array, profile: Array, onset: bool, total: float, trend: Array, profiles: Array, values: Array
) -> None:
    """One step of everything that follows the spectrum; trend, profiles and values are moved on in place."""
    sounding = total > _SILENCE
    bright, flatness, low = 0.0, 0.0, 0.0
    if sounding:
        centroid, flatness, low = _shape(sizes)
        bright = min(1.0, max(0.0, np.log(centroid / DARKEST_HZ) / np.log(BRIGHTEST_HZ / DARKEST_HZ)))
        values[_NOVELTY] = _change(profiles, profile, _MIDDLE, _LONG)
    else:
        values[_NOVELTY] *= _FALL
    values[_BRIGHTNESS] += _SHORT * (bright - values[_BRIGHTNESS])
    values[_NOISINESS] += _SHORT * (flatness - values[_NOISINESS])
    onsets = 16.0 * trend[2, 0] + _COUNT * (STEP_HZ * onset - 16.0 * trend[2, 0])
    trend[2, 0] = onsets / 16.0
    values[_DENSITY] = min(1.0, trend[2, 0])
    _trends(10.0 * np.log10(low * total + _SILENCE), 10.0 * np.log10(total + _SILENCE), bright, trend, values)


@njit(cache=True)
def _trends(low_db: float, all_db: float, bright: float, trend: Array, values: Array) -> None:
    """Build-up: level and brightness above where they were some bars ago. Drop: the low end leaps back.

    trend: slow means of low end and whole in dB and of brightness, over a beat or two and over some bars;
    then density, seconds since the low end was weak, and whether anything was heard yet.
    """
    short, past, other = trend[0], trend[1], trend[2]
    now = (low_db, all_db, bright)
    if other[2] == 0.0:
        other[2] = 1.0
        other[1] = 1e9
        for k in range(3):
            short[k] = past[k] = now[k]
    leap = low_db - short[0]
    for k in range(3):
        short[k] += _MIDDLE * (now[k] - short[k])
        past[k] += _PAST * (now[k] - past[k])
    climb = max(0.0, (short[1] - past[1]) / 9.0) + max(0.0, (short[2] - past[2]) / 0.25)
    # A groove sways; only what climbs beyond that is a build-up.
    climb = 2.0 * max(0.0, climb - _SWAY)
    wanted = min(1.0, climb) if short[2] >= past[2] - 0.02 and short[1] > -60.0 else 0.0
    build = values[_BUILD]
    values[_BUILD] = build + _SHORT * (wanted - build)
    # A break or a build-up has little low end beside the rest; a drop brings it back at once.
    weak = short[1] > -60.0 and (short[0] < past[0] - 6.0 or (build > 0.4 and short[0] < short[1] - 9.0))
    other[1] = 0.0 if weak else other[1] + 1.0 / STEP_HZ
    values[_DROP] *= _FALL
    if leap > 12.0 and other[1] < 0.5 and low_db > past[0] - 3.0 and values[_DROP] < 0.05:
        values[_DROP] = 1.0


@njit(cache=True)
def _space(block: Array, space: Array, values: Array) -> None:
    """Running energies of left, right and their product; from them width and phase."""
    left, right, both = 0.0, 0.0, 0.0
    last = 1 if block.shape[1] > 1 else 0
    for i in range(block.shape[0]):
        a, b = np.float64(block[i, 0]), np.float64(block[i, last])
        left += a * a
        right += b * b
        both += a * b
    n = block.shape[0]
    space[0] += _SPACE * (left / n - space[0])
    space[1] += _SPACE * (right / n - space[1])
    space[2] += _SPACE * (both / n - space[2])
    left, right, both = space[0], space[1], space[2]
    if left + right > _SILENCE:
        middle, side = max(0.0, left + right + 2.0 * both), max(0.0, left + right - 2.0 * both)
        values[_WIDTH] = side / (side + middle + 1e-30)
        values[_PHASE] = 0.5 + 0.5 * both / np.sqrt(left * right) if min(left, right) > _SILENCE else 0.5


@njit(cache=True, fastmath={"contract", "reassoc"})
def _shape(sizes: Array) -> tuple[float, float, float]:
    """(spectral centroid in Hz, spectral flatness 0..1, share below 165 Hz) of magnitudes (513,) from 47 Hz
    to 16 kHz, by power.
    """
    step = SAMPLE_RATE / (2.0 * (sizes.shape[0] - 1))
    total, moment, logs, low, product = 1e-30, 0.0, 0.0, 0.0, 1.0
    last = int(16_000.0 / step)
    for k in range(1, last):
        power = sizes[k] * sizes[k]
        total += power
        moment += power * k
        low += power if k <= 3 else 0.0
        # One logarithm of eight numbers' product instead of eight: they lie between 1e-20 and 1e6, so it
        # stays in range.
        product *= power + 1e-20
        if k % 8 == 0:
            logs += np.log(product)
            product = 1.0
    logs += np.log(product)
    count = last - 1
    return moment / total * step, min(1.0, np.exp(logs / count) / (total / count)), low / total


@njit(cache=True)
def _change(profiles: Array, profile: Array, middle: float, long: float) -> float:
    """1 less the cosine between the recent and the long mean of the band profile, stretched to 0..1."""
    dot, a, b = 0.0, 1e-12, 1e-12
    for i in range(profile.shape[0]):
        profiles[0, i] += middle * (profile[i] - profiles[0, i])
        profiles[1, i] += long * (profile[i] - profiles[1, i])
        dot += profiles[0, i] * profiles[1, i]
        a += profiles[0, i] ** 2
        b += profiles[1, i] ** 2
    found: float = min(1.0, 6.0 * max(0.0, 1.0 - dot / np.sqrt(a * b)))
    return found


@njit(cache=True)
def _in_order(ring: Array, at: int, window: Array, out: Array) -> None:
    """The ring's samples from the oldest (which is at ``at``) to the newest, under the window."""
    size = ring.shape[0]
    for i in range(size - at):
        out[i] = ring[at + i] * window[i]
    for i in range(size - at, size):
        out[i] = ring[at + i - size] * window[i]


@njit(cache=True)
def _notes(ring: Array, at: int, window: Array, ordered: Array, classes: Array, chroma: Array) -> int:
    """Lean the chroma (12,) toward the power of each pitch class in the ring's samples; returns the
    strongest.
    """
    _in_order(ring, at, window, ordered)
    spectrum = rfft(ordered)
    heard = np.zeros(12)
    for k in range(classes.shape[0]):
        if classes[k] >= 0:
            heard[classes[k]] += spectrum[k].real ** 2 + spectrum[k].imag ** 2
    scale = 1.0 / max(heard.max(), 1e-30)
    for k in range(12):
        chroma[k] += 0.5 * (heard[k] * scale - chroma[k])
    return int(np.argmax(chroma))

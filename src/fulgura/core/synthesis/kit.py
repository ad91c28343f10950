"""Synthesised drums and tones: what the demo tracks and the house band are made of.

Every function returns mono float64 samples at 48 kHz and is deterministic: noise comes from a seeded
generator.
"""

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.clock import SAMPLE_RATE


def _time(seconds: float) -> Array:
    return np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE


def _soft_ends(samples: Array, seconds: float = 0.002) -> Array:
    """Fade the last milliseconds out, so that no sound ends in a click."""
    ramp = min(len(samples), int(seconds * SAMPLE_RATE))
    samples[-ramp:] *= np.linspace(1.0, 0.0, ramp)
    return samples


def _above(hz: float, order: int, samples: Array) -> Array:
    """A Butterworth high-pass."""
    from scipy.signal import (
        butter,
        sosfilt,
    )  # Takes a second or more to import; only who makes sounds waits for it.

    found: Array = sosfilt(butter(order, hz, "highpass", fs=SAMPLE_RATE, output="sos"), samples)
    return found


def kick(seconds: float = 0.32, pitch_hz: float = 48.0) -> Array:
    """A sine that falls from about four times its pitch in 30 ms, with a short click."""
    t = _time(seconds)
    phase = 2 * np.pi * (pitch_hz * t + 3.2 * pitch_hz * 0.03 * (1 - np.exp(-t / 0.03)))
    click = np.random.default_rng(11).standard_normal(len(t)) * np.exp(-t / 0.002) * 0.12
    return _soft_ends(np.sin(phase) * np.exp(-t / 0.11) + click)


def snare(seconds: float = 0.24, pitch_hz: float = 185.0) -> Array:
    """Two body partials and a longer burst of noise above 1.5 kHz."""
    t = _time(seconds)
    body = (np.sin(2 * np.pi * pitch_hz * t) + 0.6 * np.sin(2 * np.pi * 1.6 * pitch_hz * t)) * np.exp(
        -t / 0.05
    )
    noise = np.random.default_rng(12).standard_normal(len(t))
    noise = _above(1500, 2, noise) * np.exp(-t / 0.07)
    return _soft_ends(0.5 * body + 0.45 * noise)


def hat(seconds: float = 0.08, decay_s: float = 0.022) -> Array:
    """Noise above 7.5 kHz that dies at once."""
    t = _time(seconds)
    noise = np.random.default_rng(13).standard_normal(len(t))
    bright = _above(7500, 4, noise)
    return _soft_ends(bright * np.exp(-t / decay_s) * 0.6)


def bass(hz: float, seconds: float) -> Array:
    """A round bass note with a little second and third partial."""
    t = _time(seconds)
    tone = np.sin(2 * np.pi * hz * t) + 0.35 * np.sin(4 * np.pi * hz * t) + 0.15 * np.sin(6 * np.pi * hz * t)
    return _soft_ends(tone * np.minimum(t / 0.02, 1.0) * np.exp(-t / (0.8 * seconds)), 0.01)


def chord(hz: list[float], seconds: float, attack_s: float = 0.05) -> Array:
    """A stab or pad: slightly detuned partials under a low-pass."""
    t = _time(seconds)
    tone = np.zeros(len(t))
    for base in hz:
        for detune in (0.997, 1.0, 1.003):
            for partial in (1, 2, 3, 4):
                tone += np.sin(2 * np.pi * base * detune * partial * t + base + partial) / partial
    shape = np.minimum(t / attack_s, 1.0) * np.exp(-t / (0.5 * seconds))
    return _soft_ends(tone * shape / (4.0 * len(hz)), 0.02)


def horn(hz: float, seconds: float) -> Array:
    """A fog horn: odd-heavy partials that swell and sag."""
    t = _time(seconds)
    sag = hz * (1 - 0.02 * np.clip((t - 0.7 * seconds) / (0.3 * seconds), 0, 1))
    phase = 2 * np.pi * np.cumsum(sag) / SAMPLE_RATE
    tone = sum(np.sin(k * phase) / k**1.2 for k in (1, 2, 3, 5, 7, 9))
    return _soft_ends(tone * np.minimum(t / 0.4, 1.0) * np.minimum((seconds - t) / 0.5, 1.0) * 0.3, 0.01)

"""What a clip is mixed with and how: other strokes, colour, a bed of bass and chords."""

import shutil
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, sosfilt

from fulgura.core.clock import SAMPLE_RATE
from training.material.sampled import FONTS, render

if TYPE_CHECKING:
    from training.material.rhythms import Recipe


def varied(voices: dict[str, list[NDArray]], r: np.random.Generator) -> dict[str, list[NDArray]]:
    """The same kit tuned, weighted and coloured anew, each voice for itself: dark snares, bright toms."""
    out = {}
    for voice, sounds in voices.items():
        factor, gain = r.uniform(0.75, 1.3), 10 ** (r.normal(0, 3.0) / 20)
        corner, tilt = r.uniform(300, 3000), 10 ** (r.normal(0, 4.0) / 20)
        low = butter(1, corner, "lowpass", fs=SAMPLE_RATE, output="sos")
        tuned = [np.interp(np.arange(0, len(x) - 1, factor), np.arange(len(x)), x) for x in sounds]
        out[voice] = [gain * (tilt * x + (1.0 - tilt) * sosfilt(low, x)) for x in tuned]
    return out


def coloured(sound: NDArray, r: np.random.Generator) -> NDArray:
    """A tilt of a few dB and some drive, as mixing desks and loud systems do."""
    low = sosfilt(butter(1, r.uniform(300, 2000), "lowpass", fs=SAMPLE_RATE, output="sos"), sound)
    sound = low * 10 ** (r.normal(0, 2.5) / 20) + (sound - low) * 10 ** (r.normal(0, 2.5) / 20)
    drive = r.choice((0.0, 1.0, 2.5))
    return np.tanh(sound / np.abs(sound).max() * drive) if drive else sound


def rms(x: NDArray) -> float:
    return float(np.sqrt(np.mean(x * x)))


def bed(recipe: "Recipe", beats: NDArray, beats_a_bar: int, r: np.random.Generator, length: int) -> NDArray:
    """Bass notes and held chords, in time: sampled when a font is there, else plain partials."""
    events = []
    root = int(r.integers(33, 45))
    bass_steps = r.choice(2, size=beats_a_bar * 2, p=(0.5, 0.5))
    for bar in range(len(beats) // beats_a_bar):
        note = root + int(r.choice((0, 0, 3, 5, 7, -2)))
        at = bar * beats_a_bar
        bar_s = (beats[min(at + beats_a_bar, len(beats) - 1)] - beats[at]) or 2.0
        for step, plays in enumerate(bass_steps):
            if plays:
                events.append(
                    (
                        beats[at] + step / len(bass_steps) * bar_s + abs(r.normal(0, 0.004)),
                        0,
                        note,
                        96,
                        bar_s / len(bass_steps) * 0.9,
                    )
                )
        for beat in r.choice((0.0, 0.25, 0.375, 0.5, 0.75), size=2, replace=False):
            for third in (12, 15, 19, 22):
                events.append((beats[at] + beat * bar_s, 1, note + third, 80, bar_s * 0.3))
        for third in (24, 31):
            events.append((beats[at], 2, note + third, 70, bar_s))
    font = next((path for path in FONTS.values() if path.exists()), None)
    if font is not None and shutil.which("fluidsynth"):
        programs = {
            0: int(r.choice((33, 34, 38, 39))),
            1: int(r.choice((0, 4, 7, 16, 27))),
            2: int(r.choice((48, 50, 89, 91))),
        }
        return render(
            font, [e for e in events if e[0] < length / SAMPLE_RATE - 0.5], programs, length / SAMPLE_RATE
        )
    out = np.zeros(length)
    for t, channel, note, velocity, seconds in events:
        x = np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE
        hz = 440.0 * 2 ** ((note - 69) / 12)
        attack = (0.008, 0.005, 0.3)[channel]
        tone = (
            sum(np.sin(2 * np.pi * k * hz * x) / k for k in (1, 2, 3, 4))
            * np.minimum(x / attack, 1.0)
            * np.minimum((seconds - x) / 0.02, 1.0)
        )
        start = int(t * SAMPLE_RATE)
        end = min(length, start + len(x))
        if end > start:
            out[start:end] += tone[: end - start] * velocity / 127 * (1.0, 0.3, 0.2)[channel]
    return out

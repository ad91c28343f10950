"""Drum kits to play rhythms with: synthesised here, rendered from General MIDI sound fonts, or recorded ones.

Sampled kits are there when Debian's packages fluidsynth, timgm6mb-soundfont, fluid-soundfont-gm,
csound-soundfont, musescore-general-soundfont and avldrums.lv2-soundfont (fonts), timidity and freepats (one
more set of patches), hydrogen-data and hydrogen-drumkits (recorded kits, each a folder with a drumkit.xml),
sonic-pi-samples and exadrums (single strokes) are installed. They are only listened to here.
"""

import shutil
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, sosfilt

from fulgura.core.clock import SAMPLE_RATE
from training.material.sampled import (
    FONTS,
    HANDS,
    ONE_KIT,
    RECORDED,
    SINGLES,
    font_kit,
    recorded_kit,
    strokes_kit,
)

KITS = (0, 8, 16, 24, 25, 32, 40)
"""General MIDI 2 drum sets by program number (memory): standard, room, power, electronic, analogue, jazz,
brush.
"""
HELD_OUT = (
    "arena",
    "own-6",
    "own-7",
    "set-ColomboAcousticDrumkit",
    "set-GMRockKit",
    "set-Millo_MultiLayered2",
    "set-VariBreaks",
    "strokes-5",
    "patches",
    "plain",
)
"""Kits that training/drums.py never uses, so that listening.py can judge on kits that the network has
not heard.
"""
PUT_TOGETHER = ("strokes-",)
"""Kits of strokes that do not belong together."""


def available_kits() -> list[str]:
    """Synthesised kits always; sampled ones where their packages, and for fonts the program fluidsynth, are
    there.
    """
    kits = [f"own-{i}" for i in range(8)]
    if shutil.which("fluidsynth"):
        kits += [
            f"{font}-{program}"
            for font, path in FONTS.items()
            if path.exists()
            for program in (KITS[:1] if font in ONE_KIT else KITS)
        ]
    kits += sorted(
        f"set-{file.parent.name}" for file in RECORDED.glob("*/drumkit.xml") if file.parent.name not in HANDS
    )
    return kits + [
        f"{name}-{i}" for name, (folder, count, _) in SINGLES.items() if folder.exists() for i in range(count)
    ]


@lru_cache(None)
def kit(name: str) -> dict[str, list[NDArray]]:
    """Voice -> several samples of it, mono, float64, peak of the loudest voice about 1."""
    if "+" in name:
        # Dealt out voice by voice, as cards: kick of one, snare of another. A soft stroke stays with its loud
        # one.
        parts = [kit(part) for part in name.split("+")]
        voices = sorted({voice.removesuffix("-soft") for part in parts for voice in part})
        dealt = {
            voice: next(part for part in (*parts[i % len(parts) :], *parts) if voice in part)
            for i, voice in enumerate(voices)
        }
        return {
            voice: sounds
            for base, part in dealt.items()
            for voice, sounds in part.items()
            if voice.removesuffix("-soft") == base
        }
    if name.startswith("set-"):
        return recorded_kit(name.removeprefix("set-"))
    family, number = name.rsplit("-", 1)
    if family == "own":
        return _own_kit(int(number))
    return strokes_kit(family, int(number)) if family in SINGLES else font_kit(family, int(number))


def _own_kit(seed: int) -> dict[str, list[NDArray]]:
    r = np.random.default_rng(1000 + seed)

    def time(seconds: float) -> NDArray:
        return np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE

    def noise(t: NDArray, low: float, high: float, decay: float) -> NDArray:
        return sosfilt(
            butter(2, [low, high], "bandpass", fs=SAMPLE_RATE, output="sos"), r.standard_normal(len(t))
        ) * np.exp(-t / decay)

    kits: dict[str, list[NDArray]] = {}
    t = time(0.5)
    pitch, sweep, fall = r.uniform(42, 65), r.uniform(1.5, 5.0), r.uniform(0.01, 0.04)
    phase = 2 * np.pi * (pitch * t + sweep * pitch * fall * (1 - np.exp(-t / fall)))
    kits["kick"] = [
        np.sin(phase) * np.exp(-t / r.uniform(0.07, 0.2)) + noise(t, 800, 6000, 0.004) * r.uniform(0.1, 0.6)
    ]
    body = r.uniform(160, 240)
    kits["snare"] = [
        0.5 * r.uniform(0.5, 1.2) * np.sin(2 * np.pi * body * t) * np.exp(-t / r.uniform(0.03, 0.09))
        + noise(t, r.uniform(700, 2000), 12_000, r.uniform(0.04, 0.12)) * r.uniform(0.5, 1.0)
        for _ in range(2)
    ]
    low = r.uniform(5000, 8500)
    kits["hat"] = [noise(t, low, 18_000, r.uniform(0.012, 0.035)) for _ in range(2)]
    kits["open"] = [noise(t, low, 18_000, r.uniform(0.1, 0.3))]
    kits["ride"] = [
        noise(t, 3500, 16_000, 0.25) * 0.6
        + sum(np.sin(2 * np.pi * hz * t) for hz in r.uniform(2500, 7000, 4)) * np.exp(-t / 0.2) * 0.08
    ]
    kits["tom"] = [
        np.sin(2 * np.pi * (hz * t + 0.4 * hz * 0.03 * (1 - np.exp(-t / 0.03)))) * np.exp(-t / 0.15)
        for hz in r.uniform(80, 200, 3)
    ]
    kits["clap"] = [
        sum(  # type: ignore[list-item]
            np.roll(noise(t, 900, 5000, 0.05 if i == 2 else 0.008), int(0.011 * i * SAMPLE_RATE))
            for i in range(3)
        )
    ]
    kits["shaker"] = [noise(t, 4500, 12_000, 0.03) * np.minimum(t / 0.015, 1.0)]
    kits["rim"] = [
        np.sin(2 * np.pi * r.uniform(400, 1700) * t) * np.exp(-t / 0.01) + noise(t, 1000, 6000, 0.006)
    ]
    kits["bell"] = [
        sum(np.sin(2 * np.pi * hz * t) for hz in (r.uniform(500, 600), r.uniform(780, 880)))
        * np.exp(-t / 0.1)
    ]
    kits["conga"] = [
        np.sin(2 * np.pi * hz * t) * np.exp(-t / 0.1) + noise(t, 500, 3000, 0.004) * 0.3
        for hz in r.uniform(180, 420, 3)
    ]
    kits["crash"] = [noise(np.concatenate([t, t + 0.5, t + 1.0]), 2500, 16_000, 0.6)]
    return {voice: [x / np.abs(x).max() for x in sounds] for voice, sounds in kits.items()}

"""What is played: recipes of clips, drawn by chance or written down."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import soundfile
from scipy.signal import resample_poly

from fulgura.core.clock import SAMPLE_RATE
from training.material.grooves import STYLES, drawn_style
from training.material.pieces import pieces
from training.material.rhythms import GROOVE, PATTERNS, SECONDS, SUDDEN, LabelledClip, Recipe
from training.material.sampled import STROKES

LOOPS = {
    "amen": 4,
    "amen_full": 16,
    "breakbeat": 4,
    "compus": 16,
    "electric": 4,
    "industrial": 2,
    "mehackit1": 4,
    "mehackit2": 4,
    "mika": 16,
    "safari": 16,
    "garzul": 16,
    "tabla": 16,
}
"""Recorded drum loops of Debian's sonic-pi-samples (loop_<name>.flac), and the beats that each holds: not
from a published count, but so many as give its length a usual tempo.
"""


def loops(seconds: float = SECONDS) -> list[LabelledClip]:
    """Each recorded loop over and over; its beats are even parts of its length, which swing that is played
    may leave by a little.
    """
    clips = []
    for name, beats in LOOPS.items():
        file = STROKES / f"loop_{name}.flac"
        if not file.exists():
            continue
        sound, rate = soundfile.read(file, always_2d=True)
        mono = resample_poly(sound.mean(axis=1), SAMPLE_RATE, rate)
        samples = np.tile(mono, int(np.ceil(seconds * SAMPLE_RATE / len(mono))))[: int(seconds * SAMPLE_RATE)]
        clips.append(
            LabelledClip(
                f"loop-{name}",
                (0.5 * samples / np.abs(samples).max()).astype(np.float32),
                np.arange(0.0, seconds, len(mono) / SAMPLE_RATE / beats),
                {},
                "loops",
            )
        )
    return clips


def _chosen_kit(kits: list[str], r: np.random.Generator, teaching: bool) -> str:
    kit = str(r.choice(kits))
    return f"{kit}+{r.choice(kits)}" if teaching and r.random() < 0.5 else kit


def recipes(kits: list[str], seed: int = 1, count: int = 60, teaching: bool = False) -> Iterator[Recipe]:
    """A spread of tempi, meters, swings, levels, noises, rooms and beds over the kits.

    teaching: half of the patterns are random, and every kit is varied.
    """
    r = np.random.default_rng(seed)
    names = list(PATTERNS) + ["random"] * (len(PATTERNS) if teaching else 0)
    for i in range(count):
        pattern = names[i % len(names)]
        bpm = float(r.uniform(72, 174))
        if pattern.startswith("broken"):
            bpm = float(r.uniform(150, 176))
        elif pattern in ("waltz", "jazz", "shuffle"):
            bpm = float(r.uniform(84, 160))
        elif pattern == "six":
            bpm = float(r.uniform(60, 90))
        elif pattern == "four-sixteenths":
            bpm = float(r.uniform(110, 140))
        elif pattern == "half":
            bpm = float(r.uniform(130, 160))
        special = r.random()
        end = 0.0
        if special < 0.07:
            end = bpm * float(r.uniform(0.88, 1.14))
        elif special < 0.14:
            end = float(r.uniform(80, 170))
        yield Recipe(
            f"{i:02d}-{pattern}-{bpm:.0f}",
            pattern,
            bpm,
            _chosen_kit(kits, r, teaching),
            int(r.integers(1 << 30)),
            swing=(
                float(r.choice((0.5, 0.5, 0.56, 0.62, 0.66)))
                if pattern in PATTERNS and PATTERNS[pattern][1] == 16
                else 0.5
            ),
            jitter=float(r.choice((0.0, 0.003, 0.006, 0.01))),
            level_db=float(r.choice((0, -3, -6, -12, -20, -30, -40))),
            snr_db=float(r.choice((60, 60, 40, 25, 15, 10))),
            room_s=float(r.choice((0, 0, 0.3, 0.8, 1.5))),
            bed=float(r.choice((0, 0, 0.5, 0.9))),
            end_bpm=end,
            jump=special >= 0.07,
            breakdown=bool(special > 0.93),
            vary=teaching,
        )


def records(kits: list[str], seed: int, count: int) -> Iterator[Recipe]:
    """Two of ``recipes`` that keep their tempi, one cut into the other; their tempi differ and neither is in
    three.
    """
    r = np.random.default_rng(seed)
    steady = [
        replace(recipe, end_bpm=0.0, jump=False, breakdown=False)
        for recipe in recipes(kits, seed, 4 * count)
        if recipe.pattern not in ("waltz", "six")
    ]
    r.shuffle(steady)
    pairs = [
        (first, other)
        for first, other in zip(steady[::2], steady[1::2])
        if abs(other.bpm / first.bpm - 1.0) >= SUDDEN
    ]
    for first, other in pairs[:count]:
        yield replace(first, name=f"{first.name} then {other.name}", then=other)


def grooves(kits: list[str], seed: int, count: int) -> Iterator[Recipe]:
    """Songs of the styles of grooves.py: what the beat is taught on."""
    r = np.random.default_rng(seed)
    for i in range(count):
        style = drawn_style(r)
        low, high = STYLES[style].bpm
        bpm, special = float(np.exp(r.uniform(np.log(low), np.log(high)))), r.random()
        end = 0.0
        if special < 0.1:
            end = bpm * float(r.uniform(0.85, 1.18))
        elif special < 0.25:
            end = float(r.uniform(70, 176))
        yield Recipe(
            f"{i}-{style}-{bpm:.0f}",
            GROOVE + style,
            bpm,
            _chosen_kit(kits, r, True),
            int(r.integers(1 << 30)),
            swing=float(r.choice((0.5, 0.5, 0.56, 0.62, 0.66))),
            jitter=float(r.choice((0.0, 0.003, 0.006, 0.01, 0.015))),
            level_db=-6.0,
            snr_db=float(r.choice((60, 60, 40, 25, 15, 10))),
            room_s=float(r.choice((0, 0, 0.3, 0.8, 1.5))),
            bed=float(r.choice((0, 0, 0.3, 0.6, 0.9, 1.5))),
            end_bpm=end,
            jump=special >= 0.1,
            breakdown=bool(special > 0.93),
            vary=True,
        )


def written(kits: list[str], seed: int, each: int = 8) -> Iterator[Recipe]:
    """The pieces of pieces.py, each so many times at tempi, swings, levels, noises, rooms and on kits of
    chance.
    """
    r = np.random.default_rng(seed)
    for file in pieces() if kits else ():
        for i in range(each):
            yield Recipe(
                f"{i}-{file.stem}",
                str(file),
                float(r.uniform(72, 174)),
                str(r.choice(kits)),
                int(r.integers(1 << 30)),
                swing=float(r.choice((0.5, 0.5, 0.58, 0.66))),
                jitter=float(r.choice((0.0, 0.003, 0.006, 0.01))),
                level_db=float(r.choice((0, -6, -12, -20, -40))),
                snr_db=float(r.choice((60, 40, 25, 15))),
                room_s=float(r.choice((0, 0, 0.3, 0.8))),
                bed=float(r.choice((0, 0, 0.5, 0.9))),
            )

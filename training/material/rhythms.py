"""Our own open material to listen to: rhythms with their truth by construction, for tuning and for the
tables.

What plays them is kits.py's. Everything follows from the seed.
"""

from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from scipy.signal import fftconvolve

from fulgura.core.clock import SAMPLE_RATE
from training.material.grooves import song
from training.material.kits import kit
from training.material.mixing import bed, coloured, rms, varied
from training.material.pieces import Stroke, from_bar
from training.material.sampled import MIX

SECONDS = 30.0
TRUTH = {"kick": "kick", "snare": "snare", "hat": "hat", "open": "hat"}
EITHER_WAY = {
    "clap": "snare",
    "rim": "snare",
    "ride": "hat",
    "crash": "hat",
    "shaker": "hat",
    **{f"{voice} ghost": name for voice, name in TRUTH.items()},
}
"""Voices that a detector may take for its own or leave: they are counted neither for nor against it."""


@dataclass
class LabelledClip:
    """name; samples float32 (n,); hits and beats in seconds; what it is made of."""

    name: str
    samples: NDArray
    beats: NDArray
    hits: dict[str, NDArray]
    group: str
    change_s: float = 0.0
    either_way: dict[str, NDArray] = field(default_factory=dict)
    beats_a_bar: int = 0
    """0 where nobody says which beats are ones; else every so many-th is, from the first on."""


@dataclass(frozen=True)
class Recipe:
    """One clip before it is played. pattern: what a bar plays, see PATTERNS; jitter in seconds; level in
    dBFS.
    """

    name: str
    pattern: str
    bpm: float
    kit: str
    seed: int
    swing: float = 0.5
    jitter: float = 0.003
    level_db: float = -6.0
    snr_db: float = 60.0
    room_s: float = 0.0
    bed: float = 0.0
    end_bpm: float = 0.0
    jump: bool = False
    breakdown: bool = False
    vary: bool = False
    """Whether every voice is tuned, weighted and coloured anew: more kits than there are."""
    then: "Recipe | None" = None
    """Another record that is cut in near the middle, wherever in the bar either of them is."""


# A bar in steps of its grid; a letter is a loudness: X 1.0, x 0.75, o 0.5, - nothing.
PATTERNS: dict[str, tuple[int, int, dict[str, str]]] = {
    "four": (4, 16, {"kick": "X---X---X---X---", "snare": "----X-------X---", "hat": "--x---x---x---x-"}),
    "four-sixteenths": (
        4,
        16,
        {"kick": "X---X---X---X---", "clap": "----X-------X---", "hat": "xoxoxoxoxoxoxoxo"},
    ),
    "rock": (4, 16, {"kick": "X-------X-x-----", "snare": "----X-------X---", "hat": "x-x-x-x-x-x-x-x-"}),
    "rock-open": (
        4,
        16,
        {
            "kick": "X--x----X-------",
            "snare": "----X-------X---",
            "hat": "x-x-x-x-x-x-x---",
            "open": "--------------x-",
        },
    ),
    "funk": (4, 16, {"kick": "X-x---x---x--x--", "snare": "----X--o-o--X---", "hat": "xoxoxoxoxoxoxoxo"}),
    "hop": (4, 16, {"kick": "X------x--X-----", "snare": "----X-------X---", "hat": "x-x-x-xxx-x-x-x-"}),
    "half": (4, 16, {"kick": "X-----x---------", "snare": "--------X-------", "hat": "x-x-x-x-x-x-x-x-"}),
    "broken": (4, 16, {"kick": "X---------x-----", "snare": "----X-------X---", "hat": "x-x-x-x-x-x-x-x-"}),
    "broken-two": (
        4,
        16,
        {"kick": "X-X-------X-----", "snare": "----X--o-o--X---", "ride": "x-x-x-x-x-x-x-x-"},
    ),
    "two-step": (
        4,
        16,
        {
            "kick": "X---------X--x--",
            "snare": "----X-------X---",
            "hat": "--x-xxx---x-x-x-",
            "shaker": "xoxoxoxoxoxoxoxo",
        },
    ),
    "one-drop": (4, 16, {"kick": "--------X-------", "snare": "--------X-------", "hat": "x-x-x-x-x-x-x-x-"}),
    "toms": (4, 16, {"kick": "X---X---X---X---", "tom": "--x--x--x-x--x-x", "snare": "------------X---"}),
    "shuffle": (4, 12, {"kick": "X-----X-----", "snare": "---X-----X--", "hat": "x-xx-xx-xx-x"}),
    "waltz": (3, 12, {"kick": "X-----------", "snare": "----X---X---", "hat": "x-x-x-x-x-x-"}),
    "jazz": (
        4,
        12,
        {"ride": "x--x-xx--x-x", "hat": "---x-----x--", "kick": "X-----o-----", "snare": "-----o------"},
    ),
    "six": (2, 12, {"kick": "X-----x-----", "snare": "------X-----", "hat": "x-x-x-x-x-x-"}),
}
GROOVE = "groove: "
"""What a recipe's pattern begins with that is a style of grooves.py."""
LOUD = {"X": 1.0, "x": 0.75, "o": 0.5}
SUDDEN = 0.02
"""By how much a tempo must change for it to be a new one: listeners barely notice less (from memory: C.
Drake, M.-C. Botte, "Tempo sensitivity in auditory sequences", Perception & Psychophysics 54, 1993).
"""
SOFT, GHOST = 0.5, 0.3
"""Up to which loudness a soft stroke is taken, where a kit has one; below which a stroke is a ghost note,
more felt than heard.
"""


@dataclass
class _Canvas:
    samples: NDArray
    hits: dict[str, list[float]] = field(default_factory=dict)

    def add(self, t: float, sound: NDArray, gain: float, name: str) -> None:
        start = int(round(t * SAMPLE_RATE))
        end = min(len(self.samples), start + len(sound))
        if start < 0 or end <= start:
            return
        self.samples[start:end] += sound[: end - start] * gain
        self.hits.setdefault(name, []).append(start / SAMPLE_RATE)


def play(recipe: Recipe, seconds: float = SECONDS) -> LabelledClip:
    """Synthesise a clip with its truth."""
    if recipe.then is not None:
        return _cut(
            play(replace(recipe, then=None), seconds),
            play(recipe.then, seconds),
            np.random.default_rng(recipe.seed),
        )
    r = np.random.default_rng(recipe.seed)
    canvas = _Canvas(np.zeros(int(seconds * SAMPLE_RATE)))
    voices = varied(kit(recipe.kit), r) if recipe.vary else kit(recipe.kit)
    beats_a_bar, per_beat, score = _score(recipe, r)
    beats, change_s = _beat_times(recipe, seconds)
    _strike(recipe, canvas, voices, (beats_a_bar, per_beat, score), beats, r)
    sound = _recorded(recipe, canvas.samples, beats, beats_a_bar, r)
    return LabelledClip(
        recipe.name,
        sound.astype(np.float32),
        beats[beats < seconds - 0.1],
        _named(canvas, TRUTH),
        recipe.kit,
        change_s,
        _named(canvas, EITHER_WAY),
        beats_a_bar,
    )


def _strike(recipe, canvas, voices, written, beats, r: np.random.Generator) -> None:
    """Every stroke of a clip onto its canvas. written: beats a bar, steps a beat, and bars of (voice, place,
    loudness).
    """
    beats_a_bar, per_beat, score = written
    own = recipe.kit.startswith("own")
    first = r.integers(0, 60)
    for bar in range(len(beats) // beats_a_bar + 1):
        silent = recipe.breakdown and 12 <= beats[min(bar * beats_a_bar, len(beats) - 1)] < 18
        for voice, beat, loudness in score[bar % len(score)]:
            if silent and voice != "hat":
                continue
            step, beat = round(beat * per_beat), bar * beats_a_bar + beat
            whole, part = int(beat), beat - int(beat)
            if whole + 1 >= len(beats):
                continue
            if per_beat == 4 and step % 2:
                # Swing delays every second sixteenth.
                part += (recipe.swing - 0.5) / 2
            t = beats[whole] + part * (beats[whole + 1] - beats[whole]) + r.normal(0, recipe.jitter)
            loud = loudness * 10 ** (r.normal(0, 1.0) / 20)
            soft = voices.get(f"{voice}-soft") if loudness <= SOFT else None
            choices = soft or voices.get(voice)
            if choices is None:
                continue
            sound = choices[(first + (step % 2)) % len(choices)] if len(choices) > 1 else choices[0]
            gain = (MIX[voice] if own else 1.0) * (min(1.0, loudness / SOFT) if soft else loud)
            canvas.add(t, sound, gain, f"{voice} ghost" if loudness < GHOST else voice)
        if bar % 8 == 0 and bar and "crash" in voices and bar * beats_a_bar < len(beats):
            canvas.add(beats[bar * beats_a_bar], voices["crash"][0], 0.3 if own else 0.8, "crash")


def _recorded(recipe, sound, beats, beats_a_bar: int, r: np.random.Generator):
    """The clip as a room and a desk would give it: bed, room, colour, noise, level."""
    if recipe.bed:
        below = bed(recipe, beats, beats_a_bar, r, len(sound))
        sound = sound + below * recipe.bed * rms(sound) / max(rms(below), 1e-9)
    if recipe.room_s:
        t = np.arange(int(recipe.room_s * SAMPLE_RATE)) / SAMPLE_RATE
        tail = r.standard_normal(len(t)) * np.exp(-6.9 * t / recipe.room_s)
        tail[: int(0.004 * SAMPLE_RATE)] = 0.0
        wet = fftconvolve(sound, tail)[: len(sound)]
        sound = sound + wet * 0.35 * rms(sound) / max(rms(wet), 1e-9)
    if recipe.vary:
        sound = coloured(sound, r)
    noise = r.standard_normal(len(sound))
    sound = sound + noise * rms(sound) / rms(noise) * 10 ** (-recipe.snr_db / 20)
    return sound / np.abs(sound).max() * 10 ** (recipe.level_db / 20)


def _cut(first: LabelledClip, second: LabelledClip, r: np.random.Generator) -> LabelledClip:
    """From one record to another that has been running, in 20 ms and about as loud: what is known of it is
    its beats only.
    """
    seconds = len(first.samples) / SAMPLE_RATE
    cut, start, fade = (
        float(r.uniform(0.43, 0.57)) * seconds,
        float(r.uniform(0.0, 0.27)) * seconds,
        SAMPLE_RATE // 50,
    )
    here, there = round(cut * SAMPLE_RATE), round(start * SAMPLE_RATE)
    gain = rms(first.samples) / rms(second.samples) * 10 ** (r.uniform(-3.0, 3.0) / 20)
    coming = np.zeros(len(first.samples))
    coming[here:] = gain * second.samples[there : there + len(coming) - here]
    rising = np.clip((np.arange(len(coming)) - here) / fade, 0.0, 1.0)
    sound = first.samples * (1.0 - rising) + coming * rising
    beats = np.concatenate(
        [first.beats[first.beats < cut], second.beats[second.beats >= start] - start + cut]
    )
    level = np.abs(first.samples).max() / np.abs(sound).max()
    return LabelledClip(
        first.name, (level * sound).astype(np.float32), beats[beats < seconds - 0.1], {}, first.group, cut
    )


def _named(canvas: _Canvas, names: dict[str, str]) -> dict[str, NDArray]:
    """The times of the voices that go by each name, in order."""
    return {
        name: np.array(
            sorted(t for voice, times in canvas.hits.items() if names.get(voice) == name for t in times)
        )
        for name in set(names.values())
        if any(names.get(v) == name for v in canvas.hits)
    }


def _score(recipe: Recipe, r: np.random.Generator) -> tuple[int, float, list[list[Stroke]]]:
    """(beats a bar, steps a beat, bars that are played over and over) of a piece, a pattern or of one by
    chance.
    """
    if recipe.pattern.endswith(".h2song"):
        return 4, 4.0, from_bar(Path(recipe.pattern), int(r.integers(64)), 64)
    if recipe.pattern.startswith(GROOVE):
        return song(recipe.pattern.removeprefix(GROOVE), r)
    beats_a_bar, steps, lanes = PATTERNS[recipe.pattern] if recipe.pattern in PATTERNS else _random_pattern(r)
    per_beat = steps / beats_a_bar
    return (
        beats_a_bar,
        per_beat,
        [
            [
                (voice, step / per_beat, LOUD[letter])
                for voice, line in lanes.items()
                for step, letter in enumerate(line)
                if letter != "-"
            ]
        ],
    )


def _random_pattern(r: np.random.Generator) -> tuple[int, int, dict[str, str]]:
    """Any voice at any place: so that a listener cannot learn what usually comes next."""
    steps = int(r.choice((12, 16, 16)))
    lanes = {}
    for voice, share in (
        ("kick", 0.3),
        ("snare", 0.22),
        ("hat", 0.5),
        ("open", 0.08),
        *(
            (str(v), 0.15)
            for v in r.choice(("ride", "tom", "clap", "shaker", "rim", "bell", "conga"), 2, replace=False)
        ),
    ):
        weights = r.random(steps)
        lanes[voice] = "".join(str(r.choice(list("Xxo"))) if w < share else "-" for w in weights)
    return 4, steps, lanes


def _beat_times(recipe: Recipe, seconds: float) -> tuple[NDArray, float]:
    times, t, change = [], 0.05, 0.0
    while t < seconds + 1.0:
        times.append(t)
        bpm = recipe.bpm
        if recipe.end_bpm and not recipe.jump:
            bpm += (recipe.end_bpm - recipe.bpm) * min(1.0, t / seconds)
        elif recipe.end_bpm and t > seconds / 2:
            change = change or (t if abs(recipe.end_bpm / recipe.bpm - 1.0) >= SUDDEN else 0.0)
            bpm = recipe.end_bpm
        t += 60.0 / bpm
    return np.array(times), change

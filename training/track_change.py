"""Teaches the networks of ``fulgura.core.sound.models.track_change``; training/chain.py runs it.

Lessons are songs of grooves.py and rhythms of rhythms.py on all kits but those that listening.py keeps back.
Cuts are made where they are heard, in the levels of the onset curve's bands: anywhere in one song, to
anywhere in another at another tempo, about as loud. What is no cut: moments of songs that go on, before and
after a cut, with breakdowns, and with a bed of bass and chords that comes in or stops on a beat. Moments that
a first network takes for cuts, as crashes and fills, are then taught besides (after K.-K. Sung, T. Poggio,
"Example-based learning for view-based human face detection", IEEE TPAMI 20(1), 1998). Takes about forty
minutes, and PyTorch (see configurations.py). The shipped three are of two draws of songs together, 3510
clips.
"""

import sys
import time
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fulgura.core.sound.beat import onset_curve
from fulgura.core.sound.models import perceptron, track_change
from training.configurations import Configuration
from training.drums import taught_kits
from training.material.recipes import grooves, recipes
from training.material.rhythms import SUDDEN, Recipe, play
from training.metre import teach

CUTS, MOMENTS, BED_CHANGES = 3, 30, 3
"""Of each song: cuts to others, moments in which it goes on, and changes of its bed either way."""
BREAKDOWNS, BEDS = 0.25, 0.35
"""How many songs have a breakdown, and how many are heard with another bed as well."""
OFF_STEPS, LOUDER_DB = 6, 4.0
"""How far from a cut's moment it is asked about at most, and by how much the other is louder or softer at
most.
"""
FADE, LONG_FADE, LONG_FADES = 2, 40, 0.3
"""Steps that a cut takes, and the most that some of them do."""
HARD = -4.0
"""Log odds of a first network from which on a moment that is no cut is taught besides."""
OUT = Path(track_change.__file__).with_name("track_change.npz")


@dataclass
class Song:
    """bpm; beats in seconds; levels of the onset curve's bands (steps, 24) for a mean level of 1, and with
    another bed, if there is one.
    """

    bpm: float
    beats: NDArray
    levels: NDArray
    other: NDArray | None = None


def chosen(kits: list[str], seed: int, count: int) -> Iterator[tuple[Recipe, Recipe | None]]:
    """Songs, and the same with another bed."""
    r = np.random.default_rng(seed)
    for song in (
        *grooves(kits, seed, count // 2),
        *recipes(kits, seed + 1, count - count // 2, teaching=True),
    ):
        song = replace(song, breakdown=bool(r.random() < BREAKDOWNS))
        yield (
            song,
            (
                replace(song, bed=0.0 if song.bed else float(r.choice((0.3, 0.6, 0.9))))
                if r.random() < BEDS
                else None
            ),
        )


def heard(recipes: tuple[Recipe, Recipe | None]) -> Song:
    """A song as the onset curve hears it."""
    first, other = recipes
    clip = play(first)
    return Song(first.bpm, clip.beats, levels(clip.samples), levels(play(other).samples) if other else None)


def levels(samples: NDArray) -> NDArray:
    """The levels of the onset curve's bands at every step (steps, 24), for a mean level of 1."""
    padded, state = (
        np.concatenate([np.zeros(onset_curve.WINDOW - onset_curve.HOP), samples.astype(float)]),
        onset_curve.Flux(),
    )
    found = np.zeros((len(samples) // onset_curve.HOP, track_change.BANDS), np.float32)
    for step in range(len(found)):
        onset_curve.flux(state, padded[step * onset_curve.HOP : step * onset_curve.HOP + onset_curve.WINDOW])
        found[step] = state.levels
    return found / np.sqrt(np.mean(samples.astype(float) ** 2))


def in_logs(heard: NDArray) -> NDArray:
    """As ``track_change.heard`` keeps levels."""
    return np.log(
        heard
        + track_change.FLOOR * np.maximum.accumulate(heard.max(axis=1))[:, None]
        + track_change.LEAST_LEVEL
    )


def joined(first: NDArray, second: NDArray, at: int, start: int, gain: float, fade: int) -> NDArray:
    """Levels of the first up to a step, then of the second from its step start on; what sounds together adds
    up in power.
    """
    rest = min(len(first) - at, len(second) - start)
    rising = np.clip((np.arange(rest) + 0.5) / fade, 0.0, 1.0)[:, None]
    both = np.sqrt(
        (first[at : at + rest] * (1.0 - rising)) ** 2 + (second[start : start + rest] * gain * rising) ** 2
    )
    return np.concatenate([first[:at], both])


def seen(logs: NDArray, step: int) -> NDArray:
    """What the network sees after so many steps."""
    stretches: list[NDArray] = []
    for back in range(track_change.BEFORE + 1):
        part = logs[max(0, step - (back + 1) * track_change.STEPS) : max(0, step - back * track_change.STEPS)]
        stretches.append(
            track_change.quantiles(part) if len(part) >= track_change.STEPS // 2 else stretches[-1]
        )
    return track_change.features(np.array(stretches))


def lessons(songs: list[Song], seed: int) -> tuple[NDArray, NDArray]:
    """(features (n, FEATURES), whether it was a cut) of songs that are cut into one another."""
    r, x, y = np.random.default_rng(seed), [], []

    def say(logs: NDArray, step: int, is_cut: bool) -> None:
        x.append(seen(logs, step))
        y.append(int(is_cut))

    for song in songs:
        for _ in range(CUTS):
            other = songs[int(r.integers(len(songs)))]
            if abs(other.bpm / song.bpm - 1.0) < SUDDEN:
                continue
            at, start, fade = (
                int(r.integers(190, 1800)),
                int(r.integers(900)),
                FADE if r.random() >= LONG_FADES else int(r.integers(FADE, LONG_FADE)),
            )
            logs = in_logs(
                joined(
                    song.levels, other.levels, at, start, 10 ** (r.uniform(-LOUDER_DB, LOUDER_DB) / 20), fade
                )
            )
            say(logs, at + track_change.STEPS + int(r.integers(-OFF_STEPS, OFF_STEPS + 1)), True)
            say(logs, max(track_change.LEAST, at - int(r.integers(200))), False)
            say(logs, min(len(logs), at + 2 * track_change.STEPS + int(r.integers(200))), False)
        logs = in_logs(song.levels)
        for step in r.integers(track_change.LEAST, len(logs), MOMENTS):
            say(logs, int(step), False)
        for first, other in (
            ((song.levels, song.other), (song.other, song.levels)) if song.other is not None else ()
        ):
            for beat in r.choice(song.beats, BED_CHANGES):
                at = round(beat * onset_curve.RATE)
                if 190 <= at <= len(first) - track_change.STEPS - OFF_STEPS:
                    say(
                        in_logs(joined(first, other, at, at, 1.0, FADE)),
                        at + track_change.STEPS + int(r.integers(-OFF_STEPS, OFF_STEPS + 1)),
                        False,
                    )
    return np.array(x), np.array(y)


def hard(network: tuple[NDArray, ...], songs: list[Song]) -> NDArray:
    """Features (n, FEATURES) of the moments of songs that go on which a network may take for cuts."""
    rows, answers = [], np.zeros(2, np.float32)
    for song in songs:
        logs = in_logs(song.levels)
        for step in range(track_change.LEAST, len(logs), track_change.EVERY):
            row = seen(logs, step)
            perceptron.ask(row, *network, answers)
            if answers[1] - answers[0] > HARD:
                rows.append(row)
    return np.array(rows, np.float32).reshape(-1, track_change.FEATURES)


def taught(songs: list[Song], passes: int, seeds: tuple[int, ...]) -> list[list[NDArray]]:
    """The networks' weights."""
    many = max(1, len(songs) // 90)
    parts = [songs[i::many] for i in range(many)]
    with ProcessPoolExecutor(2) as pool:
        x, y = (np.concatenate(some) for some in zip(*pool.map(lessons, parts, range(len(parts)))))
        first = tuple(w[None] for w in teach(x, y, 2, passes, max(seeds) + 1))
        besides = np.concatenate(list(pool.map(partial(hard, first), parts)))
    print(
        f"  {len(x)} moments, {y.mean():.3f} of them cuts, and {len(besides)} hard ones",
        file=sys.stderr,
        flush=True,
    )
    x, y = np.concatenate([x, besides]), np.concatenate([y, np.zeros(len(besides), y.dtype)])
    return [teach(x, y, 2, passes, seed) for seed in seeds]


def run(configuration: Configuration) -> None:
    """Teach as the configuration says, and write the weights."""
    started = time.time()
    kits = taught_kits(configuration.recorded, configuration.own)
    with ProcessPoolExecutor(2) as pool:
        songs = list(pool.map(heard, chosen(kits, configuration.draws[0], configuration.clips), chunksize=8))
    print(f"  {len(songs)} songs in {time.time() - started:.0f} s", file=sys.stderr, flush=True)
    np.savez(OUT, **perceptron.pack(taught(songs, configuration.passes, configuration.seeds)))

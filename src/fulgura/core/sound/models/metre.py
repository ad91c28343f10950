"""Which beat is the one, and whether the beats lie on the beat at all: judged by what is heard in each
quarter of the last beats.

Features that follow the beat, and a network that says of each whether it is a one, are after F. Krebs, S.
Böck, M. Dorfer, G. Widmer, "Downbeat tracking using beat-synchronous features and recurrent neural networks",
ISMIR 2016; here a perceptron looks at eight beats at once, and the same is asked of the places half way
between. The weights are taught by ``training/metre.py`` on rhythms with truth by construction.
"""

from dataclasses import dataclass, field

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.sound.models import perceptron
from fulgura.core.sound.models.perceptron import Weights

GROUPS = 4
HEARD = 3 + GROUPS
"""What is kept of each step: the three drums' activations, and how much the onset curve's bands rose, in four
groups.
"""
PARTS, BEATS = 4, 8
FEATURES = BEATS * PARTS * HEARD
OFF, BEAT, ONE = range(3)
"""What a beat of a row of beats can be: no beat, as half way between two; one of the bar's others; the bar's
one.
"""
LEAST, QUIET = 3, 0.05
"""Beats before the first of which can be said whether it is the one; what must at least be heard in a beat
that is judged.
"""
RING = 1024
"""Steps that are kept: 10.9 s, ten of the slowest beats."""


@njit(cache=True)
def keep_step(ring: Array, step: int, band_flux: Array, drums: Array) -> None:
    """Keep one step: rises (24,) of the onset curve's bands, drums (3,) activations; ring (RING, 7)
    float32.
    """
    row = ring[step % ring.shape[0]]
    for k in range(3):
        row[k] = drums[k]
    many = band_flux.shape[0] // GROUPS
    for group in range(GROUPS):
        total = 0.0
        for k in range(group * many, (group + 1) * many):
            total += band_flux[k]
        row[3 + group] = total / many


def only_lately(ring: Array, newest: int, steps: int, rest: float) -> None:
    """All that was heard before the last so many steps counts so much, 0..1, of what it did."""
    before = np.ones(len(ring), bool)
    before[np.arange(newest - steps + 1, newest + 1) % len(ring)] = False
    ring[before] *= rest


@njit(cache=True)
def part_features(ring: Array, newest: int, first: float, last: float, into: Array) -> None:
    """The most that was heard of each kind around each quarter of a beat, into (PARTS * HEARD,).

    first, last: where the beat and the next one lie, in steps; newest: the last step that is kept.
    """
    into[:] = 0.0
    length, kinds = last - first, ring.shape[1]
    for part in range(PARTS):
        begin, end = (
            int(np.ceil(first + (part - 0.5) / PARTS * length)),
            int(np.ceil(first + (part + 0.5) / PARTS * length)),
        )
        for step in range(max(begin, newest - ring.shape[0] + 1, 0), min(max(end, begin + 1), newest + 1)):
            row = ring[step % ring.shape[0]]
            for k in range(kinds):
                into[part * kinds + k] = max(into[part * kinds + k], row[k])


@njit(cache=True)
def beat_features(ring: Array, newest: int, end: float, interval: float, into: Array) -> None:
    """What was heard in the last even beats before end, both in steps, into (BEATS, PARTS * HEARD); nothing
    before the first step.
    """
    many = into.shape[0]
    for k in range(many):
        first = end - (many - k) * interval
        into[k] = 0.0
        if first >= 0.0:
            part_features(ring, newest, first, first + interval, into[k])


@dataclass
class Metre:
    """What was heard lately, step by step; beats, between: the features (8, 28) of the beat that was judged
    last and the seven before it, and of as many half way between them. The weights are read from the disk
    here and never while it plays.
    """

    ring: Array = field(default_factory=lambda: np.zeros((RING, HEARD), np.float32))
    beats: Array = field(default_factory=lambda: np.zeros((BEATS, PARTS * HEARD), np.float32))
    between: Array = field(default_factory=lambda: np.zeros((BEATS, PARTS * HEARD), np.float32))
    weights: Weights = field(default_factory=lambda: perceptron.weights("metre.npz"))


def judge(state: Metre, newest: int, last: float, interval: float) -> tuple[Array, Array]:
    """Log probabilities (3,) of OFF, BEAT and ONE for the beat that ends at last, and for a beat from half
    way before its beginning to half way after; both in steps, and gone by.

    What was heard is laid out anew for each beat: those before it were at other places if the beat has moved
    since.
    """
    return _asked(state, newest, last, interval, state.beats), _asked(
        state, newest, last - 0.5 * interval, interval, state.between
    )


def _asked(state: Metre, newest: int, end: float, interval: float, beats: Array) -> Array:
    beat_features(state.ring, newest, end, interval, beats)
    answers = np.zeros(3, np.float32)
    perceptron.ask(beats.ravel(), *state.weights, answers)
    found: Array = answers - np.logaddexp.reduce(answers)
    return found


def heard_any(state: Metre) -> bool:
    """Whether anything began in the beat that was judged last: nothing can be said of silence or of a held
    tone.
    """
    return bool(state.beats[-1].max() > QUIET)


def on_beat(log_probabilities: Array) -> float:
    """Log odds of there being a beat."""
    return float(np.logaddexp(log_probabilities[BEAT], log_probabilities[ONE]) - log_probabilities[OFF])

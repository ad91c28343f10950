"""Which tempo: the few that are likeliest are compared by what was heard in each quarter of the last eight
beats of each.

That several rows of beats are kept and the one wins that explains best what was heard is after S. Dixon,
"Automatic extraction of tempo and beat from expressive performances", J. New Music Research 30(1), 2001; here
they are the peaks of the filter's belief (tempo.py), and a perceptron that was taught with right and wrong
rows says how well each explains it. The weights are taught by ``training/hypotheses.py`` on rhythms with
truth by construction.
"""

from dataclasses import dataclass, field

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.sound.models import perceptron
from fulgura.core.sound.models.metre import BEATS, HEARD, PARTS, beat_features
from fulgura.core.sound.models.perceptron import Weights

ON, OFF, LEVEL, WRONG = range(4)
"""What a row of even beats can be: on the beats; half way between them; half or twice as many; at another
tempo.
"""
HYPOTHESES = 6
LEVEL_RIGHT = 0.05
"""How right half or twice the tempo is: a little, so that a listener who counts so is not torn away by a
single fill.
"""


@dataclass
class TempoHypotheses:
    """The likeliest tempi when last compared: interval in steps, phase 0..1 and share of the belief
    (HYPOTHESES, 3); which of them every interval of the filter belongs to, -1 for none, and log odds of each
    being right (HYPOTHESES,). The weights are read from the disk here and never while it plays.
    """

    found: Array = field(default_factory=lambda: np.zeros((HYPOTHESES, 3)))
    belongs: Array = field(default_factory=lambda: np.zeros(0, np.int64))
    odds: Array = field(default_factory=lambda: np.zeros(HYPOTHESES))
    weights: Weights = field(default_factory=lambda: perceptron.weights("hypotheses.npz"))


def compare(
    state: TempoHypotheses,
    ring: Array,
    newest: int,
    belief: Array,
    offsets: Array,
    circle: Array,
    near: float,
    level_right: float,
) -> None:
    """Find the likeliest tempi and say of each how likely it is right by what was heard.

    ring, newest: see ``metre.part_features``; belief, offsets, circle, near: see tempo.py; level_right: how
    right, 0..1, half and twice the tempo are.
    """
    if len(state.belongs) != len(offsets) - 1:
        state.belongs = np.zeros(len(offsets) - 1, np.int64)
    _strongest(belief, offsets, circle, near, state.found, state.belongs)
    seen, answers = np.zeros((BEATS, PARTS * HEARD), np.float32), np.zeros(4, np.float32)
    for candidate, (interval, phase, _) in enumerate(state.found):
        beat_features(ring, newest, newest - phase * interval, interval, seen)
        perceptron.ask(seen.ravel(), *state.weights, answers)
        likely = np.exp(answers - np.logaddexp.reduce(answers))
        right = likely[ON] + likely[OFF] + level_right * likely[LEVEL]
        state.odds[candidate] = np.log(right + 1e-6) - np.log(1.0 - right + 1e-6)


def odds_of(state: TempoHypotheses, interval: float, near: float) -> float:
    """Log odds of a tempo's being right, by its interval in steps; of one that is not among the likeliest as
    of the least likely.
    """
    apart = np.abs(state.found[:, 0] / interval - 1.0)
    nearest = int(np.argmin(apart))
    return float(state.odds[nearest] if apart[nearest] <= near else state.odds.min())


@njit(cache=True)
def _strongest(
    belief: Array, offsets: Array, circle: Array, near: float, found: Array, belongs: Array
) -> None:
    """Fills found and belongs, see TempoHypotheses: the strongest tempo with all that are near it, then the
    strongest of the others.
    """
    count = offsets.shape[0] - 1
    mass = np.zeros(count)
    for i in range(count):
        mass[i] = belief[offsets[i] : offsets[i + 1]].sum()
    total = mass.sum()
    belongs[:] = -1
    for candidate in range(found.shape[0]):
        best, most = 0, -1.0
        for i in range(1, count - 1):
            around = mass[i - 1] + mass[i] + mass[i + 1]
            if belongs[i] < 0 and around > most:
                best, most = i, around
        centre = float(offsets[best + 1] - offsets[best])
        share, interval, x, y = 0.0, 0.0, 0.0, 0.0
        for i in range(count):
            length = offsets[i + 1] - offsets[i]
            if belongs[i] >= 0 or abs(length / centre - 1.0) > near:
                continue
            belongs[i] = candidate
            share += mass[i]
            interval += mass[i] * length
            mass[i] = 0.0
            for s in range(offsets[i], offsets[i + 1]):
                x += belief[s] * circle[0, s]
                y += belief[s] * circle[1, s]
        phase = np.arctan2(y, x) / (2.0 * np.pi)
        found[candidate, 0] = interval / share if share > 0.0 else centre
        found[candidate, 1], found[candidate, 2] = phase - np.floor(phase), share / total


@njit(cache=True)
def favour(belief: Array, offsets: Array, belongs: Array, strengths: Array) -> None:
    """Make tempi likelier, or less so, in place: strengths (HYPOTHESES,) are the logs of the factors. The
    belief's sum stays.
    """
    before, after = 0.0, 0.0
    for i in range(belongs.shape[0]):
        factor = np.exp(strengths[belongs[i]]) if belongs[i] >= 0 else 1.0
        for s in range(offsets[i], offsets[i + 1]):
            before += belief[s]
            belief[s] *= factor
            after += belief[s]
    for s in range(belief.shape[0]):
        belief[s] *= before / after

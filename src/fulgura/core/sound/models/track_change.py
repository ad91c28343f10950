"""Was another record cut in? Judged by what is heard in each band, not by its rhythm.

Audio novelty (J. Foote, "Automatic audio segmentation using a measure of audio novelty", ICME 2000) in a
causal form: of every band the quantiles of its level in the last three quarters of a second are set beside
those of the stretches before, and beside how much these differ among themselves. A perceptron that was taught
with records cut together, and with fills, crashes and breakdowns of records that go on, says whether it is
another one. The weights are taught by ``training/track_change.py``.
"""

from dataclasses import dataclass, field

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.sound.models import perceptron
from fulgura.core.sound.models.perceptron import Weights

BANDS = 24
STEPS, BEFORE = 70, 5
"""Steps of the onset curve in one stretch (0.75 s), and how many stretches are looked back upon."""
EVERY, REST = 10, 281
"""Steps between two looks, so that stretches end where looks were taken; and after a cut until the next may
be found (3 s).
"""
LOOKS = BEFORE * STEPS // EVERY + 1
"""Looks that are kept."""
LEAST = STEPS * 5 // 2
"""Steps that must have been heard before anything can be said."""
QUANTILES = np.array([0.1, 0.5, 0.9])
KINDS = 4
"""What the network sees of each band and quantile: how far the last stretch is from the mean of those before,
and from the nearest of them; how far these are apart; and where their mean lies.
"""
FEATURES = KINDS * len(QUANTILES) * BANDS
ENOUGH = -2.0
"""Log odds from which on it is taken for a cut. On other clips than those of the tables 93 of 100 cuts are
found within a second, half of them in 0.55 s, and about one look in 1500 at a record that goes on is taken
for one.
"""
FLOOR, LEAST_LEVEL = 1e-5, 1e-8
"""Levels are seen down to 100 dB below the loudest of the last seconds."""


@dataclass
class TrackChange:
    """levels: log levels of the bands in the last STEPS steps, a ring; evidence: how well what was heard in
    these fits each kind of place in a beat, a ring (see tempo.py); seen: the quantiles of the bands at each
    of the last looks, a ring; steps: how many were heard since sound began; found: the one at which a cut was
    found last. The weights are read from the disk here and never while it plays.
    """

    levels: Array = field(default_factory=lambda: np.zeros((STEPS, BANDS), np.float32))
    evidence: Array = field(default_factory=lambda: np.ones((STEPS, 4)))
    seen: Array = field(default_factory=lambda: np.zeros((LOOKS, len(QUANTILES) * BANDS), np.float32))
    steps: int = 0
    found: int = -REST
    weights: Weights = field(default_factory=lambda: perceptron.weights("track_change.npz"))


def begin(state: TrackChange) -> None:
    """Sound began after silence: what comes is not set beside what was before."""
    state.steps, state.found = 0, -REST


def heard(state: TrackChange, levels: Array, loudest: float, likely: Array) -> float:
    """Take one step: levels (24,) of the bands, the loudest lately, likely (4,).

    Returns how likely it is that another record was cut in within the last STEPS steps, at least a half; 0
    where that is not found.
    """
    _keep(state.levels, state.evidence, state.steps % STEPS, levels, FLOOR * loudest + LEAST_LEVEL, likely)
    state.steps += 1
    if state.steps % EVERY:
        return 0.0
    look = state.steps // EVERY
    state.seen[look % LOOKS] = quantiles(state.levels[: state.steps])
    if state.steps < LEAST or state.steps - state.found < REST:
        return 0.0
    odds = log_odds(state, look)
    if odds < ENOUGH:
        return 0.0
    state.found = state.steps
    return float(1.0 / (1.0 + np.exp(ENOUGH - odds)))


def log_odds(state: TrackChange, look: int) -> float:
    """Of another record's having been cut in lately, as the network says, which was taught for STEPS steps
    ago; look: the number of the last one, from LEAST steps on. What is much unlike is beyond doubt sooner.
    """
    answers = np.zeros(2, np.float32)
    # Stretches of which less than half was heard are taken to have been as the one after them.
    whole = min(BEFORE, (state.steps - STEPS // 2) // STEPS)
    perceptron.ask(
        features(
            state.seen[[(look - min(back, whole) * STEPS // EVERY) % LOOKS for back in range(BEFORE + 1)]]
        ),
        *state.weights,
        answers,
    )
    return float(answers[1] - answers[0])


def lately(state: TrackChange) -> Array:
    """The evidence (STEPS, 4) of the last STEPS steps, the oldest first."""
    return np.roll(state.evidence, -(state.steps % STEPS), axis=0)


def quantiles(levels: Array) -> Array:
    """The QUANTILES of levels (steps, 24), in any order, of every band, the lower of two; shape (72,)."""
    found: Array = np.sort(levels, axis=0)[(QUANTILES * (len(levels) - 1)).astype(int)].ravel()
    return found


@njit(cache=True)
def features(stretches: Array) -> Array:
    """What the network sees of the quantiles (BEFORE + 1, 72) of the last stretch and of those before, the
    latest first: (FEATURES,) float32.
    """
    many, size = stretches.shape
    found, overall = np.empty(KINDS * size, np.float32), np.float32(0.0)
    for k in range(size):
        now, mean, spread, nearest = stretches[0, k], np.float32(0.0), np.float32(0.0), np.float32(np.inf)
        for back in range(1, many):
            mean += stretches[back, k] / np.float32(many - 1)
        for back in range(1, many):
            spread += (stretches[back, k] - mean) ** 2 / np.float32(many - 1)
            nearest = min(nearest, abs(now - stretches[back, k]))
        found[k], found[size + k], found[2 * size + k], found[3 * size + k] = (
            now - mean,
            nearest,
            np.sqrt(spread),
            mean,
        )
        overall += mean / np.float32(size)
    found[3 * size :] -= overall
    return found


@njit(cache=True)
def _keep(kept: Array, evidence: Array, index: int, levels: Array, floor: float, likely: Array) -> None:
    """One step into both rings; compiled, as in numpy these few numbers cost more in calls than in
    arithmetic.
    """
    for band in range(levels.shape[0]):
        kept[index, band] = np.log(levels[band] + floor)
    evidence[index] = likely

"""Was another record cut in? Judged by what is heard in each band, not by its rhythm.

Audio novelty (J. Foote, "Automatic audio segmentation using a measure of audio novelty", ICME 2000) in a causal form: of every
band the quantiles of its level in the last three quarters of a second are set beside those of the stretches before, and beside
how much these differ among themselves. A perceptron that was taught with records cut together, and with fills, crashes and
breakdowns of records that go on, says whether it is another one. The weights are taught by ``bench/teach_cut.py``.
"""

from dataclasses import dataclass, field

import numpy as np
from numba import njit
from numpy.typing import NDArray

from fulgura.core.sound import perceptron

BANDS = 24
STEPS, BEFORE = 70, 5
"""Steps of the onset curve in one stretch (0.75 s), and how many stretches are looked back upon."""
EVERY, REST = 12, 281
"""Steps between two looks, and after a cut until the next may be found (3 s)."""
LEAST = STEPS * 5 // 2
"""Steps that must have been heard before anything can be said."""
QUANTILES = np.array([0.1, 0.5, 0.9])
KINDS = 4
"""What the network sees of each band and quantile: how far the last stretch is from the mean of those before, and from the nearest of
them; how far these are apart; and where their mean lies."""
FEATURES = KINDS * len(QUANTILES) * BANDS
ENOUGH = -2.0
"""Log odds from which on it is taken for a cut. On other clips than those of the tables 93 of 100 cuts are found within a second, half
of them in 0.55 s, and about one look in 1500 at a record that goes on is taken for one."""
FLOOR, LEAST_LEVEL = 1e-5, 1e-8
"""Levels are seen down to 100 dB below the loudest of the last seconds."""


@dataclass
class Cut:
    """levels: log levels of the bands in the last steps, a ring; evidence: how well what was heard in the last STEPS steps fits each
    kind of place in a beat, a ring (see tempo.py); steps: how many were heard since sound began; found: the one at which a cut was
    found last. The weights are read from the disk here and never while it plays."""

    levels: NDArray = field(default_factory=lambda: np.zeros(((BEFORE + 1) * STEPS, BANDS), np.float32))
    evidence: NDArray = field(default_factory=lambda: np.ones((STEPS, 4)))
    steps: int = 0
    found: int = -REST
    weights: tuple[NDArray, ...] = field(default_factory=lambda: perceptron.weights("cut.npz"))


def begin(state: Cut) -> None:
    """Sound began after silence: what comes is not set beside what was before."""
    state.steps, state.found = 0, -REST


def heard(state: Cut, levels: NDArray, loudest: float, likely: NDArray) -> float:
    """Take one step: levels (24,) of the bands, the loudest lately, likely (4,).

    Returns how likely it is that another record was cut in within the last STEPS steps, at least a half; 0 where that is not found.
    """
    state.levels[state.steps % len(state.levels)] = np.log(levels + (FLOOR * loudest + LEAST_LEVEL))
    state.evidence[state.steps % STEPS] = likely
    state.steps += 1
    if state.steps % EVERY or state.steps < LEAST or state.steps - state.found < REST:
        return 0.0
    odds = log_odds(state)
    if odds < ENOUGH:
        return 0.0
    state.found = state.steps
    return float(1.0 / (1.0 + np.exp(ENOUGH - odds)))


def log_odds(state: Cut) -> float:
    """Of another record's having been cut in lately, as the network says, which was taught for STEPS steps ago; needs LEAST steps. What is
    much unlike is beyond doubt sooner."""
    seen, answers = np.zeros(FEATURES, np.float32), np.zeros(2, np.float32)
    features(state.levels, state.steps, QUANTILES, seen)
    perceptron.ask(seen, *state.weights, answers)
    return float(answers[1] - answers[0])


def lately(state: Cut) -> NDArray:
    """The evidence (STEPS, 4) of the last STEPS steps, the oldest first."""
    return np.roll(state.evidence, -(state.steps % STEPS), axis=0)


@njit(cache=True)
def features(levels: NDArray, steps: int, quantiles: NDArray, into: NDArray) -> None:
    """What the network sees, into (FEATURES,); levels: the ring ((BEFORE + 1) * STEPS, BANDS), to which steps rows were written.

    Stretches of which less than half was heard are taken to have been as the one after them.
    """
    rows, bands, many = levels.shape[0], levels.shape[1], quantiles.shape[0]
    stretch = np.empty(STEPS, np.float32)
    found = np.zeros((BEFORE + 1, many, bands), np.float32)
    for band in range(bands):
        for back in range(BEFORE + 1):
            there = min(STEPS, steps - back * STEPS)
            if there < STEPS // 2:
                found[back, :, band] = found[back - 1, :, band]
                continue
            part = stretch[:there]
            for k in range(there):
                part[k] = levels[(steps - 1 - back * STEPS - k) % rows, band]
            part.sort()
            for q in range(many):
                found[back, q, band] = part[int(quantiles[q] * (there - 1))]
    size, overall, place = many * bands, 0.0, 0
    for q in range(many):
        for band in range(bands):
            now, mean, nearest, spread = found[0, q, band], 0.0, np.inf, 0.0
            for back in range(1, BEFORE + 1):
                mean += found[back, q, band] / BEFORE
                nearest = min(nearest, abs(now - found[back, q, band]))
            for back in range(1, BEFORE + 1):
                spread += (found[back, q, band] - mean) ** 2 / BEFORE
            into[place], into[size + place], into[2 * size + place], into[3 * size + place] = now - mean, nearest, np.sqrt(spread), mean
            overall += mean / size
            place += 1
    into[3 * size :] -= np.float32(overall)

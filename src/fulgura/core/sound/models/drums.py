"""Which drum was that: a few small networks that together hear kick, snare and hat in the levels of twelve
bands.

Each is a multilayer perceptron over the last eight blocks, in the manner of drum transcription by activation
functions (C.-W. Wu et al., "A review of automatic drum transcription", IEEE/ACM TASLP 26(9), 2018), kept so
small that it costs a few microseconds a block. The weights are taught by ``training/drums.py`` on sounds with
truth by construction.
"""

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.listening import DRUMS
from fulgura.core.sound.models import perceptron
from fulgura.core.sound.models.perceptron import Weights

EDGES_HZ = (
    20.0,
    60.0,
    110.0,
    200.0,
    350.0,
    600.0,
    1_100.0,
    2_000.0,
    3_500.0,
    6_000.0,
    9_000.0,
    13_000.0,
    20_000.0,
)
BANDS = tuple(zip(EDGES_HZ, EDGES_HZ[1:]))
FRAMES = 8
"""Blocks that the network sees: 43 ms."""
FEATURES = len(BANDS) * (FRAMES + 2)
PAST = 8
"""Blocks of which is kept what the networks log_odds."""
NEVER = -20.0
"""Log odds before anything was log_odds."""
_RANGE = 1e6
"""Levels are seen down to 60 dB below the recent loudest."""
_FLOOR = 1e-10
"""Mean square below which the recent loudest never falls: the noise of 16 bits."""
_BLOCK_S = BLOCK / SAMPLE_RATE
_FORGET = float(np.exp(-_BLOCK_S / 3.0))
_SLOW = float(1.0 - np.exp(-_BLOCK_S / 0.25))

STATE = np.dtype(
    [
        ("loudest", "f8"),
        ("band_loudest", "f8", (len(BANDS),)),
        ("slow", "f8", (len(BANDS),)),
        ("recent", "f4", (FRAMES, len(BANDS))),
    ]
)


def new_state() -> Array:
    """State (1,) of an analysis that has heard nothing."""
    return np.zeros(1, dtype=STATE)


def unasked_log_odds() -> Array:
    """Log odds (PAST, 3) of networks that were not asked yet."""
    return np.full((PAST, len(DRUMS)), NEVER)


@njit(cache=True)
def look(state: Array, squares: Array, features: Array) -> None:
    """One block's step: squares (12,) are the mean squares of BANDS; features (120,) float32 are filled.

    Everything is relative to the loudest of the last seconds, so that the level does not matter.
    """
    own = state[0]
    bands = squares.shape[0]
    total = 0.0
    for b in range(bands):
        total += squares[b]
    own.loudest = max(total, own.loudest * _FORGET, _FLOOR)
    scale = 1.0 / np.log1p(_RANGE)
    for k in range(FRAMES - 1, 0, -1):
        for b in range(bands):
            own.recent[k, b] = own.recent[k - 1, b]
    for b in range(bands):
        own.band_loudest[b] = max(squares[b], own.band_loudest[b] * _FORGET)
        level = np.log1p(_RANGE * squares[b] / own.loudest) * scale
        own.slow[b] += _SLOW * (level - own.slow[b])
        own.recent[0, b] = level
        features[FRAMES * bands + b] = np.log1p(_RANGE * own.band_loudest[b] / own.loudest) * scale
        features[(FRAMES + 1) * bands + b] = own.slow[b]
    for k in range(FRAMES):
        for b in range(bands):
            features[k * bands + b] = own.recent[k, b]


@njit(cache=True)
def hear(
    state: Array,
    squares: Array,
    features: Array,
    w1: Array,
    b1: Array,
    w2: Array,
    b2: Array,
    w3: Array,
    b3: Array,
    log_odds: Array,
) -> None:
    """One block's step: ``look``, then the networks' mean log odds of each drum come first in log_odds (PAST,
    3), before older ones.
    """
    look(state, squares, features)
    for k in range(log_odds.shape[0] - 1, 0, -1):
        log_odds[k] = log_odds[k - 1]
    perceptron.ask(features, w1, b1, w2, b2, w3, b3, log_odds[0])


@njit(cache=True)
def lately(log_odds: Array, activations: Array) -> None:
    """Each drum's activation (0..1) into activations (3,): the higher of the last two blocks."""
    for i in range(activations.shape[0]):
        activations[i] = 1.0 / (1.0 + np.exp(-max(log_odds[0, i], log_odds[1, i])))


def weights() -> Weights:
    """(w1, b1, w2, b2, w3, b3) as taught, float32; the first index of each is the network."""
    return perceptron.weights("drums.npz")

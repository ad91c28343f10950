"""Hits: what was struck, and when; caught with an adaptive threshold and a dead time.

Two ways of listening. A *drum* detector watches what the networks of ``drums`` take for it until those of
``verification`` are sure. A *band* detector follows the rise of its band's log energy over a few blocks (A.
Klapuri, "Sound onset detection by applying psychoacoustic knowledge", ICASSP 1999); its threshold follows the
rise's recent mean and recent peaks (causal form of J. P. Bello et al., "A tutorial on onset detection in
music signals", IEEE TSAP 13(5), 2005).
"""

from dataclasses import dataclass
from math import log
from typing import Literal

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.kinds.listening import DRUMS
from fulgura.core.sound.hit_steps import NOTICED, band_step, crossing_step, drum_step, probability, rise_of

Rejection = Literal["below threshold", "too soon", "another sound", "too quiet"]
REASONS: tuple[Rejection | None, ...] = (None, "below threshold", "too soon", "another sound", "too quiet")
NOTHING = -1


@dataclass(frozen=True)
class Detector:
    """What is listened for.

    name: what its hits are called; listens: a drum's name, or the name of the band whose rise counts.
    sensitivity: 0..1, higher catches softer hits. dead_time_s: after a hit, nothing is counted for so long.
    least_dbfs: what is quieter in the detector's own band never counts (RMS of the block). absolute_dbfs:
    when given, a hit is what brings that band to this level, and nothing else is asked; the level that the
    desk shows.
    """

    name: str
    listens: str
    sensitivity: float = 0.5
    dead_time_s: float = 0.1
    least_dbfs: float = -120.0
    absolute_dbfs: float | None = None


@dataclass(frozen=True)
class Hit:
    """An onset. t: when it sounded; at: when the detector said so (both stream seconds).

    strength: 0..1 beside the recent loudest; of a peak that stayed below, how far its curve came. threshold:
    how far it had to come, on that scale. reason: None when it was caught, else why it was not.
    """

    detector: str
    t: float
    at: float
    strength: float
    threshold: float
    reason: Rejection | None = None


SETTING = np.dtype(
    [
        ("drum", "i8"),
        ("band", "i8"),
        ("noticed", "f8"),
        ("threshold", "f8"),
        ("sensitivity", "f8"),
        ("dead_time_s", "f8"),
        ("least", "f8"),
        ("absolute", "f8"),
    ]
)
STATE = np.dtype(
    [
        ("envelope", "f8"),
        ("before", "f8", (3,)),
        ("reference", "f8"),
        ("mean", "f8"),
        ("peak", "f8"),
        ("rising", "f8"),
        ("rising_t", "f8"),
        ("last_t", "f8"),
        ("waiting", "b1"),
        ("other_t", "f8"),
        ("other", "f8"),
        ("told_t", "f8"),
        ("loudest", "f8"),
        ("looks", "i8"),
        ("energy", "f8"),
    ]
)
"""Everything a detector remembers between blocks: one row each."""
FOUND = np.dtype([("detector", "i8"), ("reason", "i8"), ("t", "f8"), ("strength", "f8"), ("threshold", "f8")])
"""What one block brought: a row for each detector whose peak ended, from the first on; the row behind them
says NOTHING.
"""

OWN_BANDS = np.array([[0, 3], [3, 9], [9, 12]])
"""The bands of ``drums.BANDS`` whose loudness is a drum's strength: first and one past the last."""


def log_odds(probability: float) -> float:
    """The natural log of how much likelier something is than not; probability above 0 and below 1.

    >>> log_odds(0.5), round(log_odds(0.9), 3)
    (0.0, 2.197)
    """
    return log(probability / (1.0 - probability))


def drum_threshold(drum: str, sensitivity: float) -> float:
    """How sure it must be that this was the drum, 0..1: each drum's best at the middle sensitivity, and up or
    down in log odds.
    """
    return probability(log_odds(BEST_THRESHOLD[drum]) + _leaning(sensitivity))


def _leaning(sensitivity: float) -> float:
    return 6.0 * (0.5 - sensitivity)


BEST_THRESHOLD = {"kick": 0.57, "snare": 0.55, "hat": 0.5}
"""Found on 96 clips of bench/rhythms.py and 36 of written pieces on sampled kits, which are in no table: flat
about here. Higher misses dark snares, lower takes toms for them.
"""


def settings_of(detectors: tuple[Detector, ...], bands: tuple[str, ...]) -> Array:
    """The detectors' numbers as rows of SETTING; bands: names of the analyser's bands.

    Raises ValueError for a detector that listens to neither a drum nor one of the bands.
    """
    rows = []
    for d in detectors:
        drum = DRUMS.index(d.listens) if d.listens in DRUMS else -1
        if drum < 0 and d.listens not in bands:
            raise ValueError(
                f"The detector {d.name} listens to {d.listens}, which is neither a drum nor a band."
            )
        band = -1 if drum >= 0 else bands.index(d.listens)
        threshold = log_odds(drum_threshold(d.listens, d.sensitivity)) if drum >= 0 else 0.0
        absolute = 0.0 if d.absolute_dbfs is None else _mean_square(d.absolute_dbfs)
        rows.append(
            (
                drum,
                band,
                NOTICED + 0.5 * _leaning(d.sensitivity),
                threshold,
                d.sensitivity,
                d.dead_time_s,
                _mean_square(d.least_dbfs),
                absolute,
            )
        )
    return np.array(rows, dtype=SETTING)


def _mean_square(dbfs: float) -> float:
    """Of a level in dBFS after AES17, where a full-scale sine is 0."""
    return 0.5 * 10 ** (dbfs / 10)


def new_states(count: int) -> Array:
    """Rows of STATE that have heard nothing."""
    states = np.zeros(count, dtype=STATE)
    states["last_t"] = states["other_t"] = states["told_t"] = -10.0
    return states


@njit(cache=True)
def needs_verification(settings: Array, states: Array, drum_log_odds: Array) -> bool:
    """Whether this block's ``detect`` needs a second look; drum_log_odds (3,): log odds of the first."""
    for i in range(settings.shape[0]):
        drum = settings[i].drum
        if drum >= 0 and (
            states[i].looks > 0 or not states[i].waiting and drum_log_odds[drum] >= settings[i].noticed
        ):
            return True
    return False


@njit(cache=True)
def detect(
    settings: Array,
    states: Array,
    squares: Array,
    first_drum_band: int,
    drum_log_odds: Array,
    verified_log_odds: Array,
    t: float,
    found: Array,
) -> int:
    """One block's step of all detectors; states are moved on in place, found is filled. Returns how many
    found something.

    squares: mean square of the analyser's bands, then, from first_drum_band on, those of ``drums.BANDS``;
    drum_log_odds, verified_log_odds (3,): log odds of each drum at the first and, where it
    ``needs_verification``, at the second look; t: stream time of the block's end. Level does not matter:
    energy is measured against the band's own recent loudest, so the same sound 20 dB quieter gives the same
    hits.
    """
    count = 0
    for i in range(settings.shape[0]):
        setting, state, row = settings[i], states[i], found[count]
        row.detector, row.reason = i, NOTHING
        if setting.drum >= 0:
            energy = 0.0
            for b in range(OWN_BANDS[setting.drum, 0], OWN_BANDS[setting.drum, 1]):
                energy += squares[first_drum_band + b]
        else:
            energy = squares[setting.band]
        rise = rise_of(state, energy)
        if setting.absolute > 0.0:
            count += crossing_step(setting, state, t, row)
        elif setting.drum >= 0:
            count += drum_step(
                setting,
                state,
                energy,
                rise,
                drum_log_odds[setting.drum],
                verified_log_odds[setting.drum],
                t,
                row,
            )
        else:
            count += band_step(setting, state, energy, rise, t, row)
    return count

"""Hits: what was struck, and when; caught with an adaptive threshold and a dead time.

Two ways of listening. A *drum* detector watches what the networks of ``drums`` take for it until those of
``verification`` are sure. A *band* detector follows the rise of its band's log energy over a few blocks (A.
Klapuri, "Sound onset detection by applying psychoacoustic knowledge", ICASSP 1999); its threshold follows the
rise's recent mean and recent peaks (causal form of J. P. Bello et al., "A tutorial on onset detection in
music signals", IEEE TSAP 13(5), 2005).
"""

from dataclasses import dataclass
from math import exp, log, sqrt
from typing import Any, Literal

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.listening import DRUMS

STEP_S = BLOCK / SAMPLE_RATE
FLOOR = 1e-8
"""Mean square below which nothing counts as a hit (-77 dBFS)."""

Reason = Literal["below threshold", "too soon", "another sound", "too quiet"]
REASONS: tuple[Reason | None, ...] = (None, "below threshold", "too soon", "another sound", "too quiet")
CAUGHT, BELOW, TOO_SOON, OTHER, QUIET = range(5)
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
    reason: Reason | None = None


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

_MEAN_DECAY = exp(-STEP_S / 1.2)
_PEAK_DECAY = exp(-STEP_S / 3.0)
_REFERENCE_DECAY = exp(-STEP_S / 4.0)
_RELEASE = exp(-STEP_S / 0.035)
"""An envelope that falls no faster than this does not ripple with a low drum's own wave."""
_DEPTH = 3.0
"""Compression: the higher, the more a quiet rise counts beside a loud one."""
_LEAST_RISE = 0.35
"""No band detector's threshold is lower: smaller rises are ripple."""
OWN_BANDS = np.array([[0, 3], [3, 9], [9, 12]])
"""The bands of ``drums.BANDS`` whose loudness is a drum's strength: first and one past the last."""
_OTHER_RISE = 0.6
"""A rise in a drum's own bands that is shown as another sound when the network does not take it for the drum.
"""
LATENESS_S = np.array([0.0112, 0.0114, 0.0088])
"""From an onset to the end of the block in which kick, snare and hat are usually noticed (medians, measured
on kits that the network has not heard).
"""
NOTICED, CALM = log(0.2 / 0.8), log(0.1 / 0.9)
"""Log odds of a drum from which on it is looked at again, and below which the next one may be noticed; the
sensitivity moves them half as far as the threshold, or a keen detector would never be calm.
"""
LOOKS = 5
"""So many blocks one is looked at: 21 ms after it was noticed, nothing more is waited for."""
DOUBT = 0.5
"""How much surer, in log odds, one must be for every block sooner that it is told."""


def log_odds(probability: float) -> float:
    """The natural log of how much likelier something is than not; probability above 0 and below 1."""
    return log(probability / (1.0 - probability))


def drum_threshold(drum: str, sensitivity: float) -> float:
    """How sure it must be that this was the drum, 0..1: each drum's best at the middle sensitivity, and up or
    down in log odds.
    """
    return _probability(log_odds(BEST_THRESHOLD[drum]) + _leaning(sensitivity))


@njit(cache=True)
def _probability(odds: float) -> float:
    return 1.0 / (1.0 + exp(-odds))


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
        rise = _rise(state, energy)
        if setting.absolute > 0.0:
            count += _crossing(setting, state, t, row)
        elif setting.drum >= 0:
            count += _drum(
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
            count += _band(setting, state, energy, rise, t, row)
    return count


@njit(cache=True)
def _rise(state: Any, energy: float) -> float:
    """How much the band's compressed loudness rose over the last blocks."""
    state.envelope = max(energy, state.envelope * _RELEASE)
    state.reference = max(state.envelope, state.reference * _REFERENCE_DECAY, FLOOR)
    # Both are seen beside the same reference, or the first sound after silence would be no rise at all.
    before = min(state.before[0], state.before[1], state.before[2])
    rise = log(1.0 + _DEPTH * sqrt(state.envelope / state.reference)) - log(
        1.0 + _DEPTH * sqrt(before / state.reference)
    )
    state.before[0], state.before[1], state.before[2] = state.before[1], state.before[2], state.envelope
    rise = max(0.0, rise)
    return rise


@njit(cache=True)
def _drum(
    setting: Any,
    state: Any,
    energy: float,
    rise: float,
    drum_log_odds: float,
    verified_log_odds: float,
    t: float,
    found: Any,
) -> int:
    """What may be the drum is looked at until it is sure, or long enough; what rose without being noticed is
    told later.
    """
    told = 0
    if rise > _OTHER_RISE and state.other == 0.0 and t - state.other_t > 0.1:
        state.other, state.other_t = rise, t
    if state.looks > 0:
        state.looks += 1
    elif state.waiting:
        state.waiting = drum_log_odds >= setting.noticed - NOTICED + CALM
    elif drum_log_odds >= setting.noticed:
        state.looks, state.rising, state.energy, state.rising_t = (
            1,
            drum_log_odds,
            0.0,
            max(0.0, t - LATENESS_S[setting.drum]),
        )
    if state.looks > 0:
        state.rising, state.energy = max(drum_log_odds, state.rising), max(energy, state.energy)
        sure = verified_log_odds >= setting.threshold + DOUBT * (LOOKS - state.looks)
        if sure or state.looks == LOOKS:
            state.loudest = max(state.energy, state.loudest)
            found.t, found.threshold, found.strength = (
                state.rising_t,
                _probability(setting.threshold),
                min(1.0, sqrt(state.energy / max(state.loudest, FLOOR))),
            )
            if not sure:
                found.reason = OTHER if state.rising >= setting.threshold else BELOW
                found.strength = min(_probability(verified_log_odds), found.threshold)
            elif state.rising_t - state.last_t < setting.dead_time_s:
                found.reason = TOO_SOON
            elif state.energy < setting.least:
                found.reason = QUIET
            else:
                found.reason, state.last_t = CAUGHT, state.rising_t
            state.looks, state.waiting, state.told_t, told = 0, True, t, 1
    if state.other > 0.0 and state.looks == 0 and t - state.other_t > 0.03:
        if told == 0 and abs(state.told_t - state.other_t) > 0.06:
            found.reason, found.t, found.threshold, found.strength = (
                OTHER,
                state.other_t - STEP_S,
                _probability(setting.threshold),
                _probability(drum_log_odds),
            )
            told = 1
        state.other = 0.0
    state.loudest *= _PEAK_DECAY
    return told


@njit(cache=True)
def _band(setting: Any, state: Any, energy: float, rise: float, t: float, found: Any) -> int:
    """A band's hit is told when its rise has passed its peak."""
    # The threshold is taken before this block's own rise is learnt, or a lone hit would raise the bar over
    # itself.
    threshold = max(2.2 * state.mean, (1.0 - setting.sensitivity) * 0.9 * state.peak, _LEAST_RISE)
    state.mean = _MEAN_DECAY * state.mean + (1.0 - _MEAN_DECAY) * rise
    told = 0
    if rise > state.rising and energy > FLOOR:
        if state.rising == 0.0:
            state.rising_t = t
            state.loudest = 0.0
        state.rising = rise
        state.loudest = max(state.loudest, energy)
    elif state.rising > 0.0:
        if state.rising > 0.5 * threshold:
            onset = max(0.0, state.rising_t - STEP_S)
            if state.rising < threshold:
                found.reason = BELOW
            elif onset - state.last_t < setting.dead_time_s:
                found.reason = TOO_SOON
            elif state.loudest < setting.least:
                found.reason = QUIET
            else:
                found.reason, state.last_t = CAUGHT, onset
            scale = max(state.peak, state.rising, threshold)
            found.t, found.threshold, found.strength = onset, threshold / scale, state.rising / scale
            told = 1
        state.peak = max(state.peak, state.rising)
        state.rising = 0.0
    state.peak *= _PEAK_DECAY
    return told


_BELOW_AGAIN = 0.5
"""A band that has fallen to this share of its threshold's energy (3 dB) may pass it anew."""
_NEAR = 0.25
"""A peak within 6 dB of the threshold is shown as one that stayed below."""
_TOLD_WITHIN_S = 3 * STEP_S
"""A hit is told when the band rises no further, or after so long: its strength is that of its peak, not of
the threshold.
"""


@njit(cache=True)
def _crossing(setting: Any, state: Any, t: float, found: Any) -> int:
    """A hit is what brings the envelope to a fixed level."""
    level, told = state.envelope, 0
    state.loudest = max(level, state.loudest * _PEAK_DECAY)
    scale = max(state.loudest, setting.absolute)
    if state.waiting:
        if state.rising > 0.0 and (level <= state.rising or t - state.rising_t >= _TOLD_WITHIN_S):
            onset = max(0.0, state.rising_t - STEP_S)
            if onset - state.last_t < setting.dead_time_s:
                found.reason = TOO_SOON
            else:
                found.reason, state.last_t = CAUGHT, onset
            found.t, found.threshold, found.strength = (
                onset,
                sqrt(setting.absolute / scale),
                sqrt(max(level, state.rising) / scale),
            )
            state.rising, told = 0.0, 1
        elif state.rising > 0.0:
            state.rising = level
        elif level < setting.absolute * _BELOW_AGAIN:
            state.waiting = False
    elif level >= setting.absolute:
        state.waiting, state.rising, state.rising_t = True, level, t
    elif level > state.rising and level > state.before[1]:  # It rises: a tail that falls is no peak.
        state.rising, state.rising_t = level, t
    elif state.rising > 0.0 and level < 0.5 * state.rising:
        if state.rising > _NEAR * setting.absolute:
            found.reason, found.t, found.threshold, found.strength = (
                BELOW,
                max(0.0, state.rising_t - STEP_S),
                sqrt(setting.absolute / scale),
                sqrt(state.rising / scale),
            )
            told = 1
        state.rising = 0.0
    return told

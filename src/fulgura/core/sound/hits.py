"""Hits: onsets of kick, snare and hat, caught with an adaptive threshold and a dead time.

The detection function is the rise of a band's log energy over a few blocks (energy-based onset detection with
logarithmic compression: A. Klapuri, "Sound onset detection by applying psychoacoustic knowledge", ICASSP 1999);
the threshold follows its recent mean and recent peaks (causal form of J. P. Bello et al., "A tutorial on onset
detection in music signals", IEEE TSAP 13(5), 2005).
"""

from dataclasses import dataclass, replace
from math import exp, log, sqrt
from typing import Literal

import numpy as np
from numba import njit
from numpy.typing import NDArray

from fulgura.core import BLOCK, SAMPLE_RATE

STEP_S = BLOCK / SAMPLE_RATE
FLOOR = 1e-6
"""Mean square below which nothing counts as a hit (-57 dBFS)."""

Reason = Literal["below threshold", "too soon", "masked", "no attack"]


@dataclass(frozen=True)
class Detector:
    """What one kind of hit listens for. Frequencies in Hz, times in seconds.

    share: the share of the sound's total energy that the band must hold when it rises; keeps the splash of
    another drum from counting.
    attack_hz: a second band that must rise at the same moment, by attack times the first band's amplitude: a
    drum starts with a click or a sweep, a bass note does not.
    lateness_s: how much later than the true onset the band's rise is first measured (filter delay).
    """

    name: str
    low_hz: float
    high_hz: float
    sensitivity: float = 0.5
    dead_time_s: float = 0.12
    share: float = 0.0
    attack_hz: tuple[float, float] | None = None
    attack: float = 0.0
    lateness_s: float = 0.0


@dataclass(frozen=True)
class Hit:
    """An onset. t: when it sounded; at: when the detector said so (both stream seconds).

    strength: 0..1 beside the recent loudest. reason: None when it was caught, else why it was not.
    """

    detector: str
    t: float
    at: float
    strength: float
    threshold: float
    reason: Reason | None = None


REASONS: tuple[Reason | None, ...] = (None, "below threshold", "too soon", "masked", "no attack")
CAUGHT, BELOW, TOO_SOON, MASKED, NO_ATTACK = range(5)
NOTHING = -1

SETTING = np.dtype([("sensitivity", "f8"), ("dead_time_s", "f8"), ("share", "f8"), ("attack", "f8"), ("lateness_s", "f8"), ("band", "i8"), ("attack_band", "i8")])
STATE = np.dtype([
    ("envelope", "f8"), ("loud", "f8", (3,)), ("strikes", "f8", (4,)), ("reference", "f8"), ("mean", "f8"), ("peak", "f8"),
    ("rising", "f8"), ("rising_t", "f8"), ("rising_share", "f8"), ("rising_attack", "f8"), ("last_t", "f8"),
])
"""Everything a detector remembers between blocks: one row each."""
FOUND = np.dtype([("reason", "i8"), ("t", "f8"), ("strength", "f8"), ("threshold", "f8")])
"""What one block brought for each detector; reason is NOTHING when no peak ended."""

_MEAN_DECAY = exp(-STEP_S / 1.2)
_PEAK_DECAY = exp(-STEP_S / 3.0)
_REFERENCE_DECAY = exp(-STEP_S / 4.0)
_RELEASE = exp(-STEP_S / 0.035)
"""An envelope that falls no faster than this does not ripple with a low drum's own wave."""
_DEPTH = 3.0
"""Compression: the higher, the more a quiet rise counts beside a loud one."""
_LEAST = 0.35
"""No threshold is lower: smaller rises are ripple."""


def settings_of(detectors: tuple[Detector, ...], first: int = 0) -> NDArray:
    """The detectors' numbers as rows of SETTING; first: where in the bank their bands begin (see ``edges``)."""
    rows, band = [], first
    for d in detectors:
        rows.append((d.sensitivity, d.dead_time_s, d.share, d.attack, d.lateness_s, band, band + 1 if d.attack_hz else -1))
        band += len(edges(d))
    return np.array(rows, dtype=SETTING)


def edges(detector: Detector) -> list[tuple[float, float]]:
    """The bands a detector needs, in order: its own, then its attack band if it has one."""
    return [(detector.low_hz, detector.high_hz), *([detector.attack_hz] if detector.attack_hz else [])]


def new_states(count: int) -> NDArray:
    """Rows of STATE that have heard nothing."""
    states = np.zeros(count, dtype=STATE)
    states["last_t"] = -10.0
    return states


@njit(cache=True)
def detect(settings: NDArray, states: NDArray, squares: NDArray, total: float, t: float, found: NDArray) -> int:
    """One block's step of all detectors; states are moved on in place, found is filled. Returns how many found a peak.

    squares: mean square of every band of the bank, in which the settings say where each detector's own are; total:
    that of the whole sound; t: stream time of the block's end. Level does not matter: energy is measured against the band's
    own recent loudest, so the same sound 20 dB quieter gives the same hits.
    """
    count = 0
    for i in range(settings.shape[0]):
        setting, state = settings[i], states[i]
        energy = squares[setting.band]
        found[i].reason = NOTHING
        state.envelope = max(energy, state.envelope * _RELEASE)
        state.reference = max(state.envelope, state.reference * _REFERENCE_DECAY, FLOOR)
        loud = log(1.0 + _DEPTH * sqrt(state.envelope / state.reference))
        rise = max(0.0, loud - min(state.loud[0], state.loud[1], state.loud[2]))
        state.loud[0], state.loud[1], state.loud[2] = state.loud[1], state.loud[2], loud
        strike = sqrt(squares[setting.attack_band]) if setting.attack_band >= 0 else 0.0
        attack = (strike - min(state.strikes[0], state.strikes[1], state.strikes[2], state.strikes[3])) / sqrt(max(state.envelope, FLOOR))
        for k in range(3):
            state.strikes[k] = state.strikes[k + 1]
        state.strikes[3] = strike

        # The threshold is taken before this block's own rise is learnt, or a lone hit would raise the bar over itself.
        threshold = max(2.2 * state.mean, (1.0 - setting.sensitivity) * 0.9 * state.peak, _LEAST)
        state.mean = _MEAN_DECAY * state.mean + (1.0 - _MEAN_DECAY) * rise

        if rise > state.rising and energy > FLOOR:
            if state.rising == 0.0:
                state.rising_t = t
            state.rising = rise
            state.rising_share = max(state.rising_share, energy / max(total, FLOOR))
            state.rising_attack = max(state.rising_attack, attack)
        elif state.rising > 0.0:
            if state.rising > 0.5 * threshold:
                _judge(setting, state, threshold, found[i])
                count += 1
            state.peak = max(state.peak, state.rising)
            state.rising = state.rising_share = state.rising_attack = 0.0
        state.peak *= _PEAK_DECAY
    return count


@njit(cache=True)
def _judge(setting, state, threshold, found) -> None:
    """Decide on the peak that has just passed."""
    t = max(0.0, state.rising_t - STEP_S - setting.lateness_s)
    if state.rising < threshold:
        reason = BELOW
    elif t - state.last_t < setting.dead_time_s:
        reason = TOO_SOON
    elif state.rising_share < setting.share:
        reason = MASKED
    elif state.rising_attack < setting.attack:
        reason = NO_ATTACK
    else:
        reason = CAUGHT
        state.last_t = t
    found.reason, found.t, found.threshold = reason, t, threshold
    found.strength = min(1.0, state.rising / max(state.peak, state.rising))


def tuned(detector: Detector, sensitivity: float, dead_time_s: float) -> Detector:
    """The same detector with the performer's own sensitivity (0..1) and dead time."""
    return replace(detector, sensitivity=sensitivity, dead_time_s=dead_time_s)

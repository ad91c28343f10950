"""How one detector moves on by one block: a band's rise, a drum's looks, a level that is crossed."""

from math import exp, log, sqrt
from typing import Any

import numpy as np
from numba import njit

from fulgura.core.clock import BLOCK, SAMPLE_RATE

STEP_S = BLOCK / SAMPLE_RATE
FLOOR = 1e-8
"""Mean square below which nothing counts as a hit (-77 dBFS)."""
CAUGHT, BELOW, TOO_SOON, OTHER, QUIET = range(5)
"""What becomes of a peak: it counts, or why it does not."""

_MEAN_DECAY = exp(-STEP_S / 1.2)
_PEAK_DECAY = exp(-STEP_S / 3.0)
_REFERENCE_DECAY = exp(-STEP_S / 4.0)
_RELEASE = exp(-STEP_S / 0.035)
"""An envelope that falls no faster than this does not ripple with a low drum's own wave."""
_DEPTH = 3.0
"""Compression: the higher, the more a quiet rise counts beside a loud one."""
_LEAST_RISE = 0.35
"""No band detector's threshold is lower: smaller rises are ripple."""
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


@njit(cache=True)
def probability(odds: float) -> float:
    """How likely something is, 0..1, whose natural log odds these are."""
    return 1.0 / (1.0 + exp(-odds))


@njit(cache=True)
def rise_of(state: Any, energy: float) -> float:
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
def drum_step(
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
                probability(setting.threshold),
                min(1.0, sqrt(state.energy / max(state.loudest, FLOOR))),
            )
            if not sure:
                found.reason = OTHER if state.rising >= setting.threshold else BELOW
                found.strength = min(probability(verified_log_odds), found.threshold)
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
                probability(setting.threshold),
                probability(drum_log_odds),
            )
            told = 1
        state.other = 0.0
    state.loudest *= _PEAK_DECAY
    return told


@njit(cache=True)
def band_step(setting: Any, state: Any, energy: float, rise: float, t: float, found: Any) -> int:
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
def crossing_step(setting: Any, state: Any, t: float, found: Any) -> int:
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

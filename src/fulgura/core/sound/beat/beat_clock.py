"""Tempo and beat, causally: a hidden Markov model over tempo and beat phase, run forward only.

State space and transitions after F. Krebs, S. Böck, G. Widmer, "An efficient state-space model for joint
tempo and meter tracking", ISMIR 2015; observations after N. Whiteley, A. T. Cemgil, S. Godsill, "Bayesian
modelling of temporal structure in musical audio", ISMIR 2006, fed by a log-compressed spectral flux instead
of a trained network. Beats that have gone by are judged by networks: one counts the bar and keeps the filter
off the off-beat (metre.py), one says which of the likeliest tempi what was heard fits (hypotheses.py), and
one whether another record was cut in (track_change.py). A phase-locked clock rides on the filter, so that
beats are announced before they sound.
"""

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.sound.beat.beat_judge import judge_beats
from fulgura.core.sound.beat.beat_state import LEAST_SURE, SOONEST, Beat, BeatState, bar_position
from fulgura.core.sound.beat.onset_curve import HEARD_LATE_S, HOP_S, RATE, flux
from fulgura.core.sound.beat.tempo_filter import (
    LEAK,
    MIX,
    NEAR,
    NO_DRUMS,
    SETTLE_EVERY,
    USUAL_ONSET,
    advance,
    beat_grid,
    circle_of,
    first_belief,
    read_belief,
    settle,
    state_space,
    weigh,
)
from fulgura.core.sound.models import track_change
from fulgura.core.sound.models.metre import keep_step, only_lately

READ_EVERY = 2
"""Steps between two looks at what the filter believes: the clock runs on by itself between."""


HEARD_SHARE = 0.15
"""How much of the belief must lie near a held tempo before the beat is put in step with what is heard."""


PATIENCE = 0.75
"""Beats for which the clock and the filter have been apart when the clock gives in."""


HORIZON_S = 0.06
"""How long before a beat sounds it is announced."""


def track(state: BeatState, samples: Array, now: float, drums: Array | None = None) -> Beat | None:
    """One step of the tracker.

    samples: the last 1024 samples; now: stream time at their end, in seconds; drums: activations of kick,
    snare and hat since the last step, shape (3,). Call every 512 samples. Returns a beat when one is due
    within 60 ms and has not been announced.
    """
    whole, low = flux(state.flux, samples)
    keep_step(state.metre.ring, state.steps, state.flux.band_flux, NO_DRUMS if drums is None else drums)
    return follow(state, whole, low, float(np.dot(samples, samples)) / len(samples) > 1e-7, now, drums)


def follow(
    state: BeatState, whole: float, low: float, sounding: bool, now: float, drums: Array | None = None
) -> Beat | None:
    """One step of the tracker from the onset curve; see ``track``."""
    _, offsets, change, prior = state_space(state.centre_bpm)
    if sounding and state.silent_s >= 1.0:
        state.began_t, state.beginning = now - HEARD_LATE_S, True
        track_change.begin(state.track_change)
    state.silent_s = 0.0 if sounding else state.silent_s + HOP_S
    state.heard += (float(sounding) - state.heard) / (4.0 * RATE)
    state.mean_flux += (whole - state.mean_flux) / (3.0 * RATE)
    state.mean_square_flux += (whole * whole - state.mean_square_flux) / (3.0 * RATE)
    onset = MIX[0] * whole + MIX[1] * low if sounding else USUAL_ONSET
    weigh(onset, drums if drums is not None and sounding else NO_DRUMS, state.likely)
    advance(state.belief, offsets, change, beat_grid(), state.likely)
    state.steps += 1
    if state.steps % SETTLE_EVERY == 0:
        settle(state.belief, offsets, prior, LEAK * SETTLE_EVERY)
    another = track_change.heard(state.track_change, state.flux.levels, state.flux.loudest, state.likely)
    if another > 0.0 and state.mode == "auto":
        _begin_anew(state, another)
    if state.steps % READ_EVERY == 0:
        wanted = state.held_s * RATE if state.mode == "held" else 0.0
        steps, phase, share, sharp = read_belief(state.belief, offsets, circle_of(), NEAR, wanted)
        if not wanted:
            state.heard_s = steps / RATE
        _steer(state, steps / RATE, phase, share, sharp, now)
    judge_beats(state, now)
    return _announce(state, now)


def _begin_anew(state: BeatState, likely: float) -> None:
    """Another record seems to have been cut in: so much is believed what one would who had heard nothing
    before it.
    """
    _, offsets, change, prior = state_space(state.centre_bpm)
    anew = first_belief(state.centre_bpm)
    for step, evidence in enumerate(track_change.lately(state.track_change), 1):
        advance(anew, offsets, change, beat_grid(), evidence)
        if step % SETTLE_EVERY == 0:
            settle(anew, offsets, prior, LEAK * SETTLE_EVERY)
    state.belief *= (1.0 - likely) / state.belief.sum()
    state.belief += anew * (likely / anew.sum())
    only_lately(state.metre.ring, state.steps - 1, track_change.STEPS, 1.0 - likely)
    state.told.clear()


def _steer(state: BeatState, interval_s: float, phase: float, share: float, sharp: float, now: float) -> None:
    """Pull the clock toward the filter: gently while they agree, at once when they have parted for a beat."""
    # The beat region spans the first twelfth of the period, so the filter's phase runs that much ahead.
    heard_t = now - HEARD_LATE_S
    due = heard_t + (1.0 - phase) * interval_s + state.shift_s
    # Onsets make the curve uneven; that of noise or of a held tone stays near its mean, and has no beats to
    # trust.
    spread = max(0.0, state.mean_square_flux - state.mean_flux**2) ** 0.5 / max(state.mean_flux, 1e-6)
    lively = min(1.0, max(0.0, (spread - 0.5) / 0.4))
    # A beat that a hand gave is sure in silence too: what runs on it runs on.
    nothing = share < HEARD_SHARE or state.silent_s >= 1.0
    runs_on = state.mode == "locked" or (state.mode == "held" and nothing)
    target = (
        1.0
        if runs_on
        else share
        * sharp
        * min(1.0, state.heard * 1.5)
        * lively
        * (LEAST_SURE + (1.0 - LEAST_SURE) * state.fits)
    )
    state.confidence += (target - state.confidence) * 0.06
    if state.next_t < 0.0:
        state.interval_s, state.next_t = interval_s, due
        return
    if runs_on:
        # Nothing is heard at the tempo that was given, or nothing is to be listened to: run on.
        return
    off = (due - state.next_t) / interval_s
    off -= round(off)
    ratio = interval_s / state.interval_s
    if abs(off) < 0.12 and 0.94 < ratio < 1.06:
        state.astray = 0
        state.interval_s *= ratio**0.12
        state.next_t += 0.12 * off * interval_s
    else:
        state.astray += READ_EVERY
        if state.astray > interval_s * RATE * PATIENCE:
            state.astray = 0
            # What spoke for a one spoke for another count; the one stays where it is until something speaks
            # against it.
            state.ones[:] = 0.0
            state.interval_s = interval_s
            state.next_t += off * interval_s if 0.94 < ratio < 1.06 else 0.0
            if not 0.94 < ratio < 1.06:
                state.next_t = due
            while state.next_t < state.last_t + SOONEST * interval_s:
                state.next_t += interval_s


def _announce(state: BeatState, now: float) -> Beat | None:
    if state.next_t - now > HORIZON_S:
        return None
    t = state.next_t
    state.next_t += state.interval_s
    if t < now - HORIZON_S or t < state.last_t + SOONEST * state.interval_s:
        return None
    state.last_t = t
    state.count += 1
    state.told.append((t, state.count % state.beats_a_bar))
    return Beat(t, now, bar_position(state, state.count))

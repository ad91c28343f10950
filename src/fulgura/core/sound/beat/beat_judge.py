"""Beats that have gone by are judged by what was heard in them."""

from math import exp

import numpy as np

from fulgura.core.sound.beat.beat_state import FITS_SHARE, BeatState
from fulgura.core.sound.beat.onset_curve import HEARD_LATE_S, HOP_S
from fulgura.core.sound.beat.tempo_filter import NEAR, USUAL_BPM, circle_of, lean, state_space
from fulgura.core.sound.models import hypotheses
from fulgura.core.sound.models.metre import BEAT, LEAST, ONE, heard_any, judge, on_beat

ONE_KEPT, SURE_ONE = 0.95, 4.0
"""Share that is left of what spoke for each beat of the bar when the next is heard; log odds by which another
must be likelier to be the one before it moves: what is the same from two beats must not make it wander.
"""
MOST_SAID = 8.0
"""Log odds that a single beat may count for."""
BEGAN_AFTER_S = 4.0
"""Sound that begins after a second of silence or more begins with the one (common practice: most pieces do,
some have an upbeat). That is said so much later, once the tempo has settled, and for as much as a single beat
may count.
"""
LEAN, MOST_LEAN = 0.25, 12.0
"""How much the belief leans to where beats are judged to lie rather than half way between, for each of log
odds; and the most of these that one beat counts for. All of these were chosen on other clips than those of
the tables.
"""
DOUBT, MOST_DOUBT = 0.7, 4.0
"""How much less likely a tempo becomes with each beat for each of the log odds against it, and the most of
these that count. One that fits is not helped: what has just ended fits for some beats more.
"""


BY_HAND_S = 0.03
"""A beat that was nudged by more than this is where the performer wants it."""


def judge_beats(state: BeatState, now: float) -> None:
    """Judge each beat as soon as the next has sounded: is it the one, and is it a beat rather than half way
    between two?
    """
    while len(state.told) > 1 and now > state.told[1][0]:
        (first, at), (last, _) = state.told.pop(0), state.told[0]
        newest, interval = state.steps - 1, state.interval_s / HOP_S
        # In steps and where it was heard, without what is nudged by hand.
        end = newest + (last - state.shift_s - now + HEARD_LATE_S) / HOP_S
        beat, between = judge(state.metre, newest, end, interval)
        if not heard_any(state.metre):
            continue
        state.ones *= ONE_KEPT
        since = round((first - state.began_t) / state.interval_s)
        if since >= LEAST:
            state.ones[at] += bounded(beat[ONE] - beat[BEAT], MOST_SAID)
        if state.beginning and first - state.began_t > BEGAN_AFTER_S:
            state.ones[(at - since) % state.beats_a_bar] += MOST_SAID
            state.beginning = False
        by_hand, apart = (
            state.mode == "locked" or state.marked or abs(state.shift_s) >= BY_HAND_S,
            on_beat(beat) - on_beat(between),
        )
        fits = 1.0 if by_hand else likelihood(0.5 * apart)
        if state.mode != "locked":
            fits *= likelihood(compare_tempi(state))
        state.fits += FITS_SHARE * (fits - state.fits)
        best = int(np.argmax(state.ones[: state.beats_a_bar]))
        if not state.marked and state.ones[best] - state.ones[state.one] > SURE_ONE:
            state.one = best
        if not by_hand:
            lean(
                state.belief,
                state_space(state.centre_bpm)[1],
                circle_of(),
                interval,
                (newest - end) / interval,
                LEAN * bounded(apart, MOST_LEAN),
            )


def compare_tempi(state: BeatState) -> float:
    """Doubt the tempi that what was heard does not fit, unless one is given; whether half or twice is right
    is for the performer, once chosen.

    Returns the log odds of the tempo that is told.
    """
    offsets = state_space(state.centre_bpm)[1]
    chosen = state.mode == "held" or state.centre_bpm != USUAL_BPM
    hypotheses.compare(
        state.hypotheses,
        state.metre.ring,
        state.steps - 1,
        state.belief,
        offsets,
        circle_of(),
        NEAR,
        1.0 if chosen else hypotheses.LEVEL_RIGHT,
    )
    if state.mode == "auto":
        hypotheses.favour(
            state.belief,
            offsets,
            state.hypotheses.belongs,
            DOUBT * np.clip(state.hypotheses.odds, -MOST_DOUBT, 0.0),
        )
    return hypotheses.odds_of(state.hypotheses, state.interval_s / HOP_S, NEAR)


def likelihood(log_odds: float) -> float:
    """How likely something is, 0..1, whose natural log odds these are."""
    return 1.0 / (1.0 + exp(-log_odds))


def bounded(log_odds: float, most: float) -> float:
    """Log odds that are never surer than ``most``: what is heard later can still turn them."""
    return min(max(float(log_odds), -most), most)

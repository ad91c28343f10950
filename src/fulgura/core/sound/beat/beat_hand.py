"""Hands on the beat: chosen, scaled, tapped, nudged, marked."""

from fulgura.core.sound.beat.beat_state import SOONEST, BeatState
from fulgura.core.sound.beat.tempo_filter import HIGHEST_BPM, LOWEST_BPM, USUAL_BPM, first_belief


def choose(state: BeatState, mode: str, bpm: float, beats_a_bar: int) -> None:
    """Take over how the beat is to be found (see BeatState.mode); bpm counts when it is held."""
    if mode == "held" and (state.mode != "held" or state.held_s != 60.0 / bpm):
        state.interval_s = state.held_s = 60.0 / bpm
    if beats_a_bar != state.beats_a_bar:
        state.beats_a_bar, state.one, state.marked = beats_a_bar, 0, False
        state.ones[:] = 0.0
        state.told.clear()
    state.mode = mode


def scale_tempo(state: BeatState, factor: float) -> None:
    """Halve (0.5) or double (2) the tempo that is heard: the filter leans toward the new one from now on."""
    bpm = min(max(state.bpm * factor, LOWEST_BPM), HIGHEST_BPM)
    state.centre_bpm = round(bpm, 1)
    state.belief = first_belief(state.centre_bpm)
    state.interval_s = 60.0 / bpm


def align(state: BeatState, t: float, interval_s: float) -> None:
    """Put a beat at stream time t, and the next ones at the interval: what tapping asks for."""
    state.interval_s, state.shift_s = interval_s, 0.0
    state.next_t = t + interval_s
    while state.next_t < state.last_t + SOONEST * interval_s:
        state.next_t += interval_s


def follow(state: BeatState, next_t: float, interval_s: float, in_bar: int | None) -> None:
    """Put the next beat at a stream time, as somebody else counts. in_bar: which of the bar it is, from 0 on;
    None where that is not known.
    """
    state.interval_s, state.shift_s = interval_s, 0.0
    state.next_t = next_t
    while state.next_t < state.last_t + SOONEST * interval_s:
        state.next_t += interval_s
        in_bar = None if in_bar is None else in_bar + 1
    if in_bar is not None:
        state.one, state.marked = (state.count + 1 - in_bar) % state.beats_a_bar, True


def nudge(state: BeatState, seconds: float) -> None:
    """Tell every beat so much later (or sooner), from now on."""
    state.shift_s += seconds
    state.next_t += seconds


def mark_downbeat(state: BeatState, now: float) -> None:
    """The beat nearest to now is the first of the bar, until the sound's own accents are trusted again."""
    nearest = state.count if abs(now - state.last_t) <= abs(state.next_t - now) else state.count + 1
    state.one, state.marked = nearest % state.beats_a_bar, True


def listen_anew(state: BeatState) -> None:
    """Forget what was chosen by hand: tempo, nudge and the marked one."""
    state.centre_bpm, state.shift_s, state.marked = USUAL_BPM, 0.0, False

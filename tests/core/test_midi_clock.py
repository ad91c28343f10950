"""A MIDI clock: its tempo, its beat, its place in the song (MIDI 1.0, The MIDI Association, 1996: 24 ticks a
quarter note; the song position pointer counts sixteenths, six ticks each). Jitter as issue and common
practice have it: 2 ms.
"""

from functools import partial

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fulgura.core.show.events import MidiSaid, TempoSaid
from fulgura.core.show.inputs import TempoSetting
from fulgura.core.timing.midi_clock import A_BEAT, ClockIn
from tests.core.surfaces import Hands, small_show


def ticks_of(bpm, seconds: float) -> np.ndarray:
    """When ticks are due, in seconds. bpm: a number, or the tempo at a time."""
    tempo = bpm if callable(bpm) else lambda t: bpm
    t, out = 0.0, []
    while t < seconds:
        out.append(t)
        t += 60.0 / A_BEAT / tempo(t + 0.5 * 60.0 / A_BEAT / tempo(t))
    return np.array(out)


@pytest.mark.parametrize("bpm", [60.0, 92.0, 124.0, 174.0, 200.0])
@pytest.mark.parametrize("jitter", ["even", "normal"])
def test_the_tempo_is_within_a_twentieth_of_a_beat_a_minute_after_two_bars(bpm, jitter):
    """2 ms of jitter: even between -2 and 2 ms, or normal with a deviation of 2 ms."""
    off, late = [], []
    for seed in range(60):
        chance = np.random.default_rng(seed)
        due = ticks_of(bpm, 8.01 * 60 / bpm)
        noise = (
            chance.uniform(-0.002, 0.002, len(due)) if jitter == "even" else chance.normal(0, 0.002, len(due))
        )
        clock = ClockIn()
        clock.start()
        for t in np.sort(due + noise):
            clock.tick(float(t))
        place = clock.at(float(due[-1]))
        off.append(place.bpm - bpm)
        late.append((place.ticks - (len(due) - 1)) * place.period_s)
    # Of normal jitter no estimator does better than the Cramér-Rao bound of a line through 192 ticks.
    bound = bpm * 0.002 * (12 / 192**3) ** 0.5 / (2.5 / bpm)
    assert np.percentile(np.abs(off), 95) < (0.05 if jitter == "even" else 2.2 * bound)
    assert np.abs(late).max() < 0.005


def ramp(way: float, t: float) -> float:
    return 120.0 + way * max(0.0, t - 4.0)


def test_a_ramp_of_a_beat_a_minute_each_second_is_followed():
    for way in (1.0, -1.0):
        tempo = partial(ramp, way)
        due = ticks_of(tempo, 24.0)
        noise = np.random.default_rng(1).uniform(-0.002, 0.002, len(due))
        clock, off, late = ClockIn(), [], []
        clock.start()
        for number, (at, t) in enumerate(zip(due, due + noise)):
            clock.tick(float(t))
            if at > 5.0 and number % 5 == 0:
                place = clock.at(float(at))
                off.append(place.bpm - tempo(at))
                late.append((place.ticks - number) * place.period_s)
        assert np.percentile(np.abs(off), 95) < 0.6 and np.percentile(np.abs(late), 95) < 0.005
        assert np.abs(late).max() < 0.008


def test_another_tempo_is_taken_within_two_beats():
    due = np.concatenate([ticks_of(100.0, 6.0), 6.0 + ticks_of(140.0, 6.0)])
    clock = ClockIn()
    for t in due:
        clock.tick(float(t))
        if t > 6.0 + 2 * 60 / 140:
            assert clock.at(float(t)).bpm == pytest.approx(140.0, abs=1.0), t


@given(st.integers(0, 16383), st.integers(0, 500), st.integers(0, 300))
def test_the_song_position_is_exact(sixteenths, before, after):
    clock = ClockIn()
    t = 0.0

    def run(count: int) -> None:
        nonlocal t
        for _ in range(count):
            t += 0.02
            clock.tick(t)

    clock.start()
    run(before)
    clock.stop()
    run(3)  # Many devices tick on while they stand.
    assert clock.sixteenth == max(0, before - 1) // 6
    clock.song_position(sixteenths)
    clock.go_on()
    run(after + 1)
    assert clock.sixteenth == sixteenths + after // 6


def test_a_clock_that_stops_is_gone_and_one_that_comes_back_begins_anew():
    clock = ClockIn()
    for t in ticks_of(120.0, 3.0):
        clock.tick(float(t))
    assert clock.alive(3.2) and not clock.alive(3.7)
    for t in 10.0 + ticks_of(90.0, 2.0):
        clock.tick(float(t))
    assert clock.at(12.0).bpm == pytest.approx(90.0, abs=0.01)


def send_clock(
    hands: Hands, bpm: float, seconds: float, start: bool = True, jitter: float = 0.002
) -> list[float]:
    """Ticks as the engine hears them, with what was late by how much; phases off the true beat, in
    seconds.
    """
    begun = (hands.performer.number + 1) / 60
    if start:
        hands.midi(0xFA, controller="Clock")
    due = begun + ticks_of(bpm, seconds)
    arrives = np.sort(due + np.random.default_rng(3).uniform(-jitter, jitter, len(due)))
    off, at = [], 0
    while hands.performer.number / 60 < begun + seconds - 0.05:
        now = (hands.performer.number + 1) / 60
        while at < len(arrives) and arrives[at] <= now:
            hands.act(MidiSaid(controller="Clock", data=[0xF8], age_s=now - arrives[at]))
            at += 1
        hands.ticks()
        beat = hands.performer.main.analyser
        true = (hands.performer.number / 60 - begun) * bpm / 60
        wrong = ((beat.time - beat.beat.next_t) / beat.beat.interval_s - true) % 1.0
        off.append(min(wrong, 1 - wrong) * 60 / bpm)
    return off


def test_the_beat_follows_a_midi_clock_within_five_milliseconds_and_runs_on_without_it():
    hands = Hands(small_show(tempo=TempoSetting(mode="midi")))
    off = send_clock(hands, 124.0, 8.0)
    assert np.percentile(off[240:], 95) < 0.005
    state = hands.performer.surface.tempo.state(
        hands.show, hands.performer.main, hands.performer.surface.seconds
    )
    assert state["rules"] == "midi" and state["there"] and state["from"] == "Clock" and state["placed"]
    assert {row["source"]: row["bpm"] for row in state["sources"]}["midi"] == pytest.approx(124.0, abs=0.3)
    beats = hands.performer.beats.position
    hands.seconds(4.0)
    state = hands.performer.surface.tempo.state(
        hands.show, hands.performer.main, hands.performer.surface.seconds
    )
    assert not state["there"] and "runs on" in state["says"]
    assert hands.performer.beats.position - beats == pytest.approx(4.0 * 124 / 60, abs=0.1)


def test_the_bar_begins_with_the_song():
    hands = Hands(small_show(tempo=TempoSetting(mode="midi")))
    send_clock(hands, 120.0, 4.6)
    # After 4.6 s at 120 BPM, 9.1 beats have gone by: the second of the bar has just begun.
    assert hands.performer.main.bar_phase * 4 == pytest.approx(1.1, abs=0.15)


def test_a_clock_without_a_start_gives_the_tempo_alone():
    hands = Hands(small_show(tempo=TempoSetting(mode="midi")))
    send_clock(hands, 100.0, 4.0, start=False)
    assert hands.performer.main.analyser.beat.bpm == pytest.approx(100.0, abs=0.3)
    assert not hands.performer.main.analyser.beat.marked


def test_tempo_and_beats_by_osc():
    hands = Hands(small_show(tempo=TempoSetting(mode="osc")))
    hands.ticks(3)
    hands.act(TempoSaid(bpm=90.0))
    hands.act(TempoSaid(beat=1, age_s=0.01))
    begun = hands.performer.number
    hands.seconds(2.0)
    beat = hands.performer.main.analyser
    gone = (hands.performer.number - begun - 1) / 60 + 0.01
    phase = ((beat.time - beat.beat.next_t) / beat.beat.interval_s) % 1.0
    assert beat.beat.bpm == pytest.approx(90.0)
    assert phase == pytest.approx((gone * 1.5) % 1.0, abs=0.03)
    hands.seconds(9.0)
    state = hands.performer.surface.tempo.state(
        hands.show, hands.performer.main, hands.performer.surface.seconds
    )
    assert state["says"].startswith("The tempo by OSC has fallen away")


def test_a_sequencers_quarters_set_off_one_change_each_while_it_is_silent():
    """J19: MIDI clock at 124 BPM and no sound: a beat each 484 ± 10 ms."""
    hands = Hands(small_show(tempo=TempoSetting(mode="midi")))
    at = hands.performer.router.order["beat"]
    begun, fell, sent = 1 / 60, [], 0
    hands.midi(0xFA)
    due = begun + ticks_of(124.0, 9.0)
    for _ in range(520):
        now = (hands.performer.number + 1) / 60
        while due[sent] <= now:
            hands.act(MidiSaid(controller="Clock", data=[0xF8], age_s=now - due[sent]))
            sent += 1
        (frame,) = hands.ticks()
        if frame.signals[at] > 0:
            fell.append(frame.time)
    gaps = np.diff(fell[4:])
    assert len(gaps) >= 11 and abs(gaps.mean() - 0.4839) < 0.002
    # A frame is 16.7 ms long: a beat falls in the one after it.
    assert np.abs(gaps - 0.4839).max() < 0.010 + 1 / 60

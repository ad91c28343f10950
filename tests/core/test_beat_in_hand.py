"""The beat in the performer's hand: taps, held and locked tempo, halving, nudging, the marked one, meters."""

import numpy as np
import pytest

from fulgura.core.clock import BLOCK, SAMPLE_RATE, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.inputs import TempoSetting
from fulgura.core.sound.analyser import Analyser
from fulgura.core.sound.beat import beat_hand, beat_state
from fulgura.core.synthesis import kit
from fulgura.core.timing.taps import Taps
from fulgura.demo.show import demo_show
from fulgura.demo.tracks import lamp_room


def drums(bpm: float, seconds: float, accent_every: int = 4) -> np.ndarray:
    """Kicks on each beat, the first of each bar louder, hats between."""
    out = np.zeros(int(seconds * SAMPLE_RATE))
    for k in range(int(seconds * bpm / 60 * 2)):
        start = int(k * 30 / bpm * SAMPLE_RATE)
        sound = kit.kick() * (0.9 if k // 2 % accent_every == 0 else 0.55) if k % 2 == 0 else kit.hat() * 0.4
        out[start : start + len(sound)] += sound[: len(out) - start]
    return out


def hear(analyser: Analyser, samples: np.ndarray) -> list[beat_state.Beat]:
    return [
        beat
        for i in range(0, len(samples) - BLOCK + 1, BLOCK)
        for beat in analyser.push(samples[i : i + BLOCK]).beats
    ]


def gaps(beats: list[beat_state.Beat]) -> np.ndarray:
    return np.diff([beat.t for beat in beats])


def test_three_taps_make_a_tempo_and_a_pause_begins_anew():
    taps = Taps()
    assert taps.tap(10.0) is None and taps.tap(10.5) is None
    assert taps.tap(11.0) == pytest.approx(120.0)
    assert taps.tap(11.52) == pytest.approx(120.0, abs=1)
    assert taps.tap(20.0) is None and len(taps.times) == 1


def test_one_slip_of_the_finger_does_not_change_the_tempo():
    taps = Taps()
    for t in (0.0, 0.5, 1.0, 1.68, 2.0, 2.5, 3.0):
        bpm = taps.tap(t)
    assert bpm == pytest.approx(120.0)


@pytest.mark.parametrize("gap", [0.1, 1.9])
def test_taps_that_are_no_tempo_are_not_taken_for_one(gap):
    taps = Taps()
    assert [taps.tap(k * gap) for k in range(4)] == [None] * 4


def test_a_held_tempo_stays_whatever_plays():
    analyser = Analyser()
    beat_hand.choose(analyser.beat, "held", 90.0, 4)
    beats = hear(analyser, drums(137.0, 14))
    np.testing.assert_allclose(gaps(beats[4:]), 60 / 90, atol=0.03)


def test_a_held_tempo_finds_the_phase_of_what_plays():
    analyser = Analyser()
    beat_hand.choose(analyser.beat, "held", 120.5, 4)
    beats = [beat.t for beat in hear(analyser, drums(120.0, 20)) if beat.t > 12]
    off = (np.array(beats) + 0.25) % 0.5 - 0.25
    assert np.abs(off).max() < 0.06


def test_a_locked_beat_runs_on_through_another_record():
    analyser = Analyser()
    hear(analyser, drums(120.0, 12))
    beat_hand.choose(analyser.beat, "locked", 120.0, 4)
    interval = analyser.beat.interval_s
    beats = hear(analyser, drums(97.0, 12))
    np.testing.assert_allclose(gaps(beats), interval, atol=1e-9)


def seen_each_tick(performer, samples, seconds: int, read) -> list[float]:
    """What is read of a performer after each tick while it hears the samples."""
    block, seen = 0, []
    for frame in range(1, seconds * 60):
        while block < blocks_due(frame):
            performer.hear(samples[block * BLOCK : (block + 1) * BLOCK])
            block += 1
        performer.tick()
        seen.append(read(performer))
    return seen


def test_a_locked_beat_moves_what_follows_it_in_silence_too():
    show = demo_show().model_copy(update={"tempo": TempoSetting(mode="locked")})
    samples = np.concatenate([drums(120.0, 8), np.zeros(12 * SAMPLE_RATE)])
    phases = seen_each_tick(Performer(show), samples, 19, lambda performer: performer.main.bar_phase)
    late = np.diff(phases[-4 * 60 :]) % 1.0
    assert late.min() > 0.0 and late.max() < 0.05


def test_half_and_double_are_kept():
    analyser = Analyser()
    hear(analyser, drums(120.0, 12))
    assert analyser.beat.bpm == pytest.approx(120, abs=1)
    beat_hand.scale_tempo(analyser.beat, 0.5)
    hear(analyser, drums(120.0, 16))
    assert analyser.beat.bpm == pytest.approx(60, abs=1)
    beat_hand.scale_tempo(analyser.beat, 2.0)
    hear(analyser, drums(120.0, 16))
    assert analyser.beat.bpm == pytest.approx(120, abs=1)


def test_a_nudge_moves_every_beat_and_stays():
    plain, nudged = Analyser(), Analyser()
    samples = drums(120.0, 24)
    hear(plain, samples[: 10 * SAMPLE_RATE]), hear(nudged, samples[: 10 * SAMPLE_RATE])
    beat_hand.nudge(nudged.beat, 0.04)
    a, b = hear(plain, samples[10 * SAMPLE_RATE :]), hear(nudged, samples[10 * SAMPLE_RATE :])
    later = [y.t - min((x.t for x in a), key=lambda t: abs(t - y.t)) for y in b]
    np.testing.assert_allclose(later[2:], 0.04, atol=0.012)


def test_the_marked_one_is_the_one_from_then_on():
    analyser = Analyser()
    samples = drums(120.0, 30)
    hear(analyser, samples[: int(12.1 * SAMPLE_RATE)])
    # 12.1 s is next to beat 24, which the accents make a one; marking the beat after it moves the bar by one.
    hear(analyser, samples[int(12.1 * SAMPLE_RATE) : int(12.55 * SAMPLE_RATE)])
    beat_hand.mark_downbeat(analyser.beat, 12.5)
    beats = hear(analyser, samples[int(12.55 * SAMPLE_RATE) :])
    for beat in beats[1:]:
        number = round(beat.t / 0.5)
        assert beat.bar_position == (number - 25) % 4 + 1
    beat_hand.listen_anew(analyser.beat)
    assert not analyser.beat.marked


@pytest.mark.parametrize(("meter", "beats_a_bar"), [("4/4", 4), ("3/4", 3), ("6/8", 2)])
def test_bars_follow_the_meter(meter, beats_a_bar):
    show = demo_show().model_copy(update={"tempo": TempoSetting(meter=meter)})
    performer, samples, block = Performer(show), drums(120.0, 16, beats_a_bar), 0
    seen = []
    for frame in range(1, 15 * 60):
        while block < blocks_due(frame):
            performer.hear(samples[block * BLOCK : (block + 1) * BLOCK])
            block += 1
        told = performer.tick()
        assert 0.0 <= performer.main.bar_phase < 1.0 + 1e-9
        seen += [beat.bar_position for beat in told.beats[0] if told.time > 10]
    assert set(seen) == set(range(1, beats_a_bar + 1))
    assert [b - a for a, b in zip(seen, seen[1:])].count(1) >= len(seen) * (1 - 1 / beats_a_bar) - 2


def test_a_hand_on_the_beat_reaches_the_analyser_through_the_performer():
    performer = Performer(demo_show())
    for what, value in (
        ("nudge", 0.02),
        ("downbeat", 0.0),
        ("half", 0.0),
        ("align", 0.5),
        ("unheard of", 3.0),
    ):
        performer.main.turn_beat(what, value)
    assert (
        performer.main.beat_state()["marked"]
        and performer.main.beat_state()["leaned"]
        and performer.main.beat_state()["downbeat_sure"]
    )
    performer.main.turn_beat("anew", 0.0)
    assert performer.main.beat_state() == {
        "nudged_ms": 0,
        "marked": False,
        "leaned": False,
        "fits": True,
        "downbeat_sure": False,
    }


def test_what_runs_on_beats_does_not_leap_while_the_beat_goes_on():
    """Lamp Room once through from where its bar is counted: each tick moves the place in the show by a tick's
    share of a beat.
    """
    places = seen_each_tick(
        Performer(demo_show()), lamp_room().finished(), 60, lambda performer: performer.beats.position
    )
    steps = np.diff(places[12 * 60 :])
    assert steps.min() >= 0.0 and steps.max() < 3 * 124.0 / 60 / 60

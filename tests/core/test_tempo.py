"""The beat: many tempi, a sudden change, quiet sound, and the arithmetic of the filter."""

import mir_eval
import numpy as np
import pytest

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.sound.analyser import Analyser
from fulgura.core.sound.beat import beat_clock, beat_state, onset_curve, tempo_filter
from fulgura.core.synthesis import kit
from fulgura.demo.tracks import Score


def rhythm(bpm: float, seconds: float = 26.0, pattern: str = "broken") -> Score:
    """Drums with true beats: a straight or a broken pattern over eighths."""
    score = Score(seconds, bpm)
    kick, snare, hat = kit.kick(), kit.snare(), kit.hat()
    for bar in range(int(seconds * bpm / 240) + 1):
        for beat in (0.0, 1.0, 2.0, 3.0) if pattern == "straight" else (0.0, 2.5):
            score.add(score.at(4 * bar + beat), kick, 0.8)
        for beat in (1.0, 3.0):
            score.add(score.at(4 * bar + beat), snare, 0.5)
        for eighth in range(8):
            score.add(score.at(4 * bar + eighth / 2), hat, 0.25)
    return score


def listen(samples: np.ndarray) -> tuple[Analyser, list[beat_state.Beat]]:
    analyser = Analyser()
    return analyser, [
        beat
        for i in range(0, len(samples) - BLOCK, BLOCK)
        for beat in analyser.push(samples[i : i + BLOCK]).beats
    ]


@pytest.mark.parametrize("bpm", [92.0, 100.0, 110.0, 120.0, 128.0, 140.0, 160.0])
def test_beats_are_found_at_many_tempi(bpm):
    """mir_eval, MIREX tolerance, first 8 s left out; truth by construction."""
    score = rhythm(bpm)
    analyser, beats = listen(score.finished())
    truth, ours = np.array(score.beats()), np.array([beat.t for beat in beats])
    assert mir_eval.beat.f_measure(truth[truth > 8], ours[ours > 8]) >= 0.9
    assert analyser.beat.bpm == pytest.approx(bpm, rel=0.015)
    assert analyser.beat.confidence > 0.6


def test_a_sudden_change_is_followed_within_eight_seconds():
    samples = np.concatenate(
        [rhythm(100.0, 20.0, "straight").finished(), rhythm(132.0, 20.0, "straight").finished()]
    )
    _, beats = listen(samples)
    truth = 20.0 + np.arange(0, 20, 60 / 132)
    late = np.array([beat.t for beat in beats if beat.t > 28.0])
    assert mir_eval.beat.f_measure(truth[truth > 28.0], late) >= 0.9


@pytest.mark.parametrize("gain_db", [-20.0, -40.0])
def test_level_does_not_matter(gain_db):
    samples = rhythm(124.0, 16.0).finished()
    _, loud = listen(samples)
    _, quiet = listen(samples * 10 ** (gain_db / 20))
    loud_t, quiet_t = (np.array([beat.t for beat in beats if beat.t > 4]) for beats in (loud, quiet))
    assert mir_eval.beat.f_measure(loud_t, quiet_t) >= 0.98


def test_bar_positions_count_round():
    _, beats = listen(rhythm(120.0).finished())
    late = [beat.bar_position for beat in beats if beat.t > 12]
    assert all(b % 4 + 1 == a for b, a in zip(late, late[1:]))


@pytest.mark.parametrize("cut", [0, 1, 2, 3])
def test_a_snare_on_every_second_beat_is_never_the_one(cut):
    """Wherever the sound begins: equal kicks leave it open which of two beats is the one, the snares leave
    out the others.
    """
    _, beats = listen(rhythm(120.0, pattern="straight").finished()[cut * SAMPLE_RATE // 2 :])
    late = [beat for beat in beats if beat.t > 14]
    assert len(late) > 15 and all(beat.bar_position % 2 == (round(2 * beat.t) + cut + 1) % 2 for beat in late)


def test_beats_never_come_too_close():
    _, beats = listen(np.concatenate([rhythm(90.0, 10.0).finished(), rhythm(170.0, 10.0).finished()]))
    times = np.array([beat.t for beat in beats])
    assert np.diff(times).min() > 0.12


def test_the_belief_stays_a_probability():
    state = beat_state.BeatState()
    samples = rhythm(120.0, 6.0).finished().mean(axis=1).astype(float)
    for i in range(onset_curve.WINDOW, len(samples), onset_curve.HOP):
        beat_clock.track(state, samples[i - onset_curve.WINDOW : i], i / SAMPLE_RATE)
        if state.steps % tempo_filter.SETTLE_EVERY == 0:
            assert state.belief.sum() == pytest.approx(1.0) and state.belief.min() > 0.0


def test_the_state_space_covers_the_promised_tempi():
    intervals, offsets, change, prior = tempo_filter.state_space()
    assert 60 * onset_curve.RATE / intervals[0] >= 205 and 60 * onset_curve.RATE / intervals[-1] <= 57
    assert offsets[-1] == intervals.sum() == len(tempo_filter.beat_grid())
    assert change.shape == (len(intervals),) * 2 and prior.sum() == pytest.approx(1.0)
    # Staying is likelier than any change of tempo.
    assert all(row.argmax() == i for i, row in enumerate(change) if 30 < i < 60)


def test_the_grid_has_one_beat_and_three_sixteenths():
    intervals, offsets, _, _ = tempo_filter.state_space()
    for i, n in enumerate(intervals):
        places = tempo_filter.beat_grid()[offsets[i] : offsets[i + 1]]
        assert (
            places[0] == 3
            and places[round(n / 2)] == 2
            and places[round(n / 4)] == 1
            and places[round(3 * n / 4)] == 1
        )
        assert (places == 0).sum() > 0.4 * n


def test_phase_runs_from_0_to_1_and_back():
    state = beat_state.BeatState(next_t=2.0, interval_s=0.5)
    assert beat_state.beat_phase(state, 1.5) == pytest.approx(0.0)
    assert beat_state.beat_phase(state, 1.75) == pytest.approx(0.5)
    assert beat_state.beat_phase(state, 1.99) == pytest.approx(0.98)
    assert beat_state.beat_phase(beat_state.BeatState(), 9.0) == 0.0

"""Where in the bar: what is gathered of each beat, which beat is the one, and the off-beat that is left
again.
"""

import numpy as np
import pytest

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.sound.analyser import Analyser
from fulgura.core.sound.beat import beat_hand, beat_judge, beat_state, onset_curve, tempo_filter
from fulgura.core.sound.models import metre
from fulgura.core.synthesis import kit


def bars(first: int, seconds: float, bpm: float = 112.0, beats_a_bar: int = 4) -> np.ndarray:
    """A kick on the one (in bars of four another after the third beat), a snare on the second and last, hats
    in eighths; the clip begins with beat number first, counted from 0, of a bar.
    """
    out = np.zeros(int(seconds * SAMPLE_RATE))
    for eighth in range(int(seconds * bpm / 30)):
        beat = (eighth / 2 + first) % beats_a_bar
        strokes = [(kit.hat(), 0.3)]
        strokes += [(kit.kick(), 0.8)] if beat == 0 or beat == 2.5 and beats_a_bar == 4 else []
        strokes += [(kit.snare(), 0.55)] if beat in (1, 3) or beat == 2 and beats_a_bar == 3 else []
        for sound, gain in strokes:
            start = int(eighth * 30 / bpm * SAMPLE_RATE)
            out[start : start + len(sound)] += gain * sound[: len(out) - start]
    return out


def hear(samples: np.ndarray, analyser: Analyser) -> list[beat_state.Beat]:
    return [
        beat
        for i in range(0, len(samples) - BLOCK + 1, BLOCK)
        for beat in analyser.push(samples[i : i + BLOCK]).beats
    ]


def test_each_quarter_of_a_beat_has_the_most_that_was_heard_around_it():
    ring = np.zeros((metre.RING, metre.HEARD), np.float32)
    # A beat from step 100 to 140: its quarters are heard from 95, 105, 115 and 125 on, the last up to 135.
    for step, kind, size in (
        (94, 0, 0.9),
        (95, 0, 0.5),
        (104, 0, 0.7),
        (115, 1, 0.4),
        (134, 6, 2.0),
        (135, 6, 3.0),
    ):
        ring[step, kind] = size
    found = np.ones(metre.PARTS * metre.HEARD, np.float32)
    metre.part_features(ring, 200, 100.0, 140.0, found)
    found = found.reshape(metre.PARTS, metre.HEARD)
    assert found[0, 0] == np.float32(0.7) and found[2, 1] == np.float32(0.4) and found[3, 6] == 2.0
    assert np.count_nonzero(found) == 3


def test_what_the_ring_no_longer_holds_or_does_not_hold_yet_is_left_out():
    ring = np.ones((metre.RING, metre.HEARD), np.float32)
    found = np.zeros(metre.PARTS * metre.HEARD, np.float32)
    metre.part_features(ring, 3000, 1900.0, 1940.0, found)
    assert not found.any()
    metre.part_features(ring, 3000, 3010.0, 3050.0, found)
    assert not found.any()
    metre.part_features(ring, 3000, 2990.0, 3030.0, found)
    assert found.reshape(metre.PARTS, metre.HEARD).any(axis=1).tolist() == [True, True, False, False]


def test_a_step_keeps_the_drums_and_the_mean_rise_of_each_group_of_bands():
    ring = np.zeros((metre.RING, metre.HEARD), np.float32)
    metre.keep_step(ring, metre.RING + 3, np.arange(24.0), np.array([0.1, 0.2, 0.3]))
    np.testing.assert_allclose(ring[3], [0.1, 0.2, 0.3, 2.5, 8.5, 14.5, 20.5], rtol=1e-6)


@pytest.mark.parametrize("first", range(4))
def test_the_one_is_found_wherever_the_sound_begins(first):
    beats = hear(bars(first, 24.0), Analyser())
    wrong = [b for b in beats if b.t > 12.0 and b.bar_position - 1 != (round(b.t * 112.0 / 60) + first) % 4]
    assert len(beats) > 30 and not wrong


def test_the_one_of_a_waltz_is_found():
    analyser = Analyser()
    beat_hand.choose(analyser.beat, "auto", 120.0, 3)
    late = [b for b in hear(bars(1, 24.0, 132.0, 3), analyser) if b.t > 14.0]
    right = [b.bar_position - 1 == (round(b.t * 132.0 / 60) + 1) % 3 for b in late]
    assert len(late) > 15 and np.mean(right) > 0.9


@pytest.mark.parametrize("silence_s", [0.0, 3.0])
def test_the_one_of_equal_kicks_is_where_they_began_and_does_not_wander(silence_s):
    kick, samples = kit.kick(), np.zeros(int((40 + silence_s) * SAMPLE_RATE))
    for beat in range(78):
        at = int((silence_s + beat / 2) * SAMPLE_RATE)
        samples[at : at + len(kick)] += 0.8 * kick
    late = [b for b in hear(samples, Analyser()) if b.t > 10.0 + silence_s]
    assert len(late) > 50 and all(b.bar_position - 1 == round((b.t - silence_s) * 2) % 4 for b in late)


@pytest.mark.parametrize("hand", ["mark", "nudge"])
def test_a_beat_that_the_hand_has_put_is_not_moved(hand, monkeypatch):
    analyser, leaned = Analyser(), []
    hear(bars(0, 15.0), analyser)
    beat_hand.mark_downbeat(analyser.beat, 15.0) if hand == "mark" else beat_hand.nudge(analyser.beat, 0.1)
    monkeypatch.setattr(beat_judge, "lean", lambda *given: leaned.append(given))
    hear(bars(0, 15.0), analyser)
    assert not leaned
    beat_hand.listen_anew(analyser.beat)
    hear(bars(0, 5.0), analyser)
    assert leaned


@pytest.mark.parametrize("strength", [2.0, -2.0])
def test_leaning_moves_the_phase_and_leaves_the_tempo_as_likely_as_it_was(strength):
    intervals, offsets, _, _ = tempo_filter.state_space(tempo_filter.USUAL_BPM)
    belief = np.random.default_rng(1).random(offsets[-1])
    moved = belief.copy()
    tempo_filter.lean(moved, offsets, tempo_filter.circle_of(), 48.0, 0.25, strength)
    near = [i for i, n in enumerate(intervals) if abs(n / 48.0 - 1) < tempo_filter.NEAR]
    low, high = offsets[near[0]], offsets[near[-1] + 1]
    assert moved[low:high].sum() == pytest.approx(belief[low:high].sum())
    np.testing.assert_array_equal(moved[:low], belief[:low])
    np.testing.assert_array_equal(moved[high:], belief[high:])
    part = moved[offsets[near[0]] : offsets[near[0] + 1]]
    quarter, across = (
        part[len(part) // 8 : 3 * len(part) // 8].sum(),
        part[5 * len(part) // 8 : 7 * len(part) // 8].sum(),
    )
    assert (quarter > 2 * across) if strength > 0 else (across > 2 * quarter)


def test_how_sure_the_one_is():
    state = beat_state.BeatState()
    assert beat_state.downbeat_likelihood(state) == pytest.approx(0.25)
    state.ones[:] = (0.0, 3.0, 0.0, 0.0)
    assert beat_state.downbeat_likelihood(state) == pytest.approx(np.exp(3) / (np.exp(3) + 3))
    state.beats_a_bar, state.one = 2, 0
    assert beat_state.downbeat_likelihood(state) == pytest.approx(1 / (np.exp(3) + 1))
    beat_hand.mark_downbeat(state, 0.0)
    assert beat_state.downbeat_likelihood(state) == 1.0


def test_what_is_said_of_a_beat_does_not_depend_on_where_those_before_it_were_told():
    """A beat that has just moved by half is judged by what was heard there, so that it does not move back."""
    analyser = Analyser()
    hear(bars(0, 15.0), analyser)
    beat, interval = analyser.beat, 60.0 / 112.0 / onset_curve.HOP_S
    end = (27 * 60.0 / 112.0 + onset_curve.HEARD_LATE_S) / onset_curve.HOP_S - 1.0
    on, between = metre.judge(beat.metre, beat.steps - 1, end, interval)
    moved, _ = metre.judge(beat.metre, beat.steps - 1, end - 0.5 * interval, interval)
    np.testing.assert_array_equal(moved, between)
    assert metre.on_beat(on) > 2.0 and metre.on_beat(between) < -2.0


def test_silence_says_nothing_of_the_one():
    analyser = Analyser()
    hear(np.zeros(10 * SAMPLE_RATE), analyser)
    assert not analyser.beat.ones.any()

"""Another record that is cut in: it is heard by how it sounds, and what was known is not lost when it was
none.
"""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bench.listening import SOON, judge
from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.sound.beat import beat_clock, beat_state, onset_curve
from fulgura.core.sound.models import metre, track_change
from training.material.recipes import records
from training.material.rhythms import LabelledClip, Recipe, play
from training.track_change import levels, seen

KITS = [f"own-{i}" for i in range(8)]


def found(heard: np.ndarray, gain: float = 1.0, state: track_change.TrackChange | None = None) -> list[int]:
    """The steps at which a cut is found in levels (steps, 24)."""
    state, loudest, steps = state or track_change.TrackChange(), 1e-4, []
    for step, row in enumerate(heard.astype(float) * gain):
        loudest = max(loudest, row.max())
        if track_change.heard(state, row, loudest, np.ones(4)):
            steps.append(step)
    return steps


@pytest.fixture(scope="module")
def cuts() -> list[LabelledClip]:
    """Records that are cut into others: on drums that are synthesised, so that they are the same on every
    machine, each tuned and coloured.
    """
    return [
        play(replace(record, vary=True, then=replace(record.then, vary=True)), 24.0)
        for record in records(KITS, 4, 12)
        if record.then
    ]


def test_another_record_is_found_within_a_second_and_one_that_goes_on_seldom_is_taken_for_one(cuts):
    caught, false = 0, 0
    for clip in cuts:
        after = np.array(found(levels(clip.samples))) * onset_curve.HOP_S - clip.change_s
        caught += bool(((after > 0.0) & (after < 1.0)).any())
        false += int(((after < 0.0) | (after > 5.0)).sum())
    assert caught >= 11 and false <= 2


def test_neither_a_bed_that_comes_in_nor_a_breakdown_shakes_the_beat():
    """The first may be taken for another record: what was known is not lost for it."""
    song = Recipe("a song", "rock", 112.0, "own-3", 8)
    bare, with_bed, broken = (
        play(kind, 24.0) for kind in (song, replace(song, bed=0.6), replace(song, breakdown=True))
    )
    assert found(levels(broken.samples)) == []
    at = int(12.0 * SAMPLE_RATE)
    for clip in (replace(bare, samples=np.concatenate([bare.samples[:at], with_bed.samples[at:]])), broken):
        assert judge(clip)["beat_f"] >= 0.97


def test_how_loud_it_is_does_not_matter(cuts):
    heard = levels(cuts[0].samples)
    assert found(heard, 0.1) == found(heard) != []


def test_cuts_are_not_found_one_upon_the_other():
    parts = [levels(play(record, 4.0).samples)[:150] for record in records(KITS, 9, 12)]
    steps = found(np.concatenate(parts))
    assert len(steps) > 2 and min(np.diff(steps)) >= track_change.REST


def test_what_begins_after_silence_is_not_set_beside_what_was_before(cuts):
    first, second = (levels(clip.samples)[:700] for clip in cuts[:2])
    state = track_change.TrackChange()
    found(first, state=state)
    track_change.begin(state)
    assert found(second, state=state) == found(second)


@given(st.integers(track_change.LEAST // track_change.EVERY + 1, 90), st.integers(0, 2**31))
@settings(max_examples=25, deadline=None)
def test_what_the_network_sees_is_what_numpy_says_of_the_same_rows(looks, seed):
    logs = (
        np.random.default_rng(seed)
        .standard_normal((looks * track_change.EVERY, track_change.BANDS))
        .astype(np.float32)
    )
    state, asked = track_change.TrackChange(), []
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(track_change.perceptron, "ask", lambda seen, *_: asked.append(seen))
        patched.setattr(track_change, "ENOUGH", np.inf)
        for row in logs:
            track_change.heard(state, np.exp(row), 0.0, np.ones(4))
    stretches: list[np.ndarray] = []
    for back in range(track_change.BEFORE + 1):
        part = logs[
            max(0, len(logs) - (back + 1) * track_change.STEPS) : max(
                0, len(logs) - back * track_change.STEPS
            )
        ]
        stretches.append(
            np.quantile(part, track_change.QUANTILES, axis=0, method="lower").ravel()
            if len(part) >= track_change.STEPS // 2
            else stretches[-1]
        )
    now, before = stretches[0], np.array(stretches[1:])
    mean = before.mean(axis=0)
    expected = np.concatenate(
        [now - mean, np.abs(now - before).min(axis=0), before.std(axis=0), mean - mean.mean()]
    )
    np.testing.assert_allclose(asked[-1], expected, atol=1e-4)
    np.testing.assert_allclose(seen(logs, len(logs)), expected, atol=1e-4)


def test_evidence_comes_back_in_its_order():
    state = track_change.TrackChange()
    for i in range(track_change.STEPS + 9):
        track_change.heard(state, np.ones(track_change.BANDS), 1.0, np.full(4, float(i)))
    np.testing.assert_array_equal(track_change.lately(state)[:, 0], np.arange(9, track_change.STEPS + 9))


def clicks(bpm: float, seconds: float) -> np.ndarray:
    """The onset curve of even beats, a step each."""
    t = np.arange(int(seconds * onset_curve.RATE)) / onset_curve.RATE
    return np.where(t % (60.0 / bpm) < onset_curve.HOP_S, 0.9, 0.02)


def test_as_likely_as_it_is_so_much_begins_anew():
    state = beat_state.BeatState()
    for i, onset in enumerate(clicks(120.0, 12.0)):
        metre.keep_step(state.metre.ring, i, np.full(24, 0.5), np.ones(3))
        beat_clock.follow(state, onset, 0.0, True, i * onset_curve.HOP_S)
    known, before = state.belief / state.belief.sum(), state.metre.ring.copy()
    beat_clock._begin_anew(state, 0.75)
    assert state.belief.sum() == pytest.approx(1.0) and (state.belief >= 0.25 * known - 1e-12).all()
    anew = (state.belief - 0.25 * known) / 0.75
    assert np.abs(anew - known).sum() > 0.3, "it heard three quarters of a second only"
    lately = np.arange(state.steps - track_change.STEPS, state.steps) % metre.RING
    np.testing.assert_array_equal(state.metre.ring[lately], before[lately])
    earlier = np.setdiff1d(np.arange(metre.RING), lately)
    np.testing.assert_allclose(state.metre.ring[earlier], 0.25 * before[earlier], rtol=1e-6)
    assert state.told == []


def test_no_tempo_that_was_chosen_by_hand_begins_anew(monkeypatch):
    begun = []
    monkeypatch.setattr(beat_clock.track_change, "heard", lambda *_: 0.9)
    monkeypatch.setattr(beat_clock, "_begin_anew", lambda _, likely: begun.append(likely))
    for mode, times in (("auto", 1), ("held", 0), ("locked", 0)):
        begun.clear()
        beat_clock.follow(beat_state.BeatState(mode=mode), 0.1, 0.0, True, 0.0)
        assert len(begun) == times, mode


def test_the_beat_is_met_within_four_beats_of_the_next_record(cuts, monkeypatch):
    with_it = [judge(clip)["relock_beats"] for clip in cuts[:6]]
    monkeypatch.setattr(track_change, "ENOUGH", np.inf)
    without = [judge(clip)["relock_beats"] for clip in cuts[:6]]
    assert sum(beats <= SOON for beats in with_it) >= 5 and sum(with_it) <= sum(without)

"""Another record that is cut in: it is heard by how it sounds, and what was known is not lost when it was
none.
"""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bench.listening import SOON, judge
from bench.rhythms import Clip, Recipe, play, records
from bench.teach_cut import joined, levels, seen
from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.sound import cut, metre, tempo

KITS = [f"own-{i}" for i in range(8)]


def found(heard: np.ndarray, gain: float = 1.0, state: cut.Cut | None = None) -> list[int]:
    """The steps at which a cut is found in levels (steps, 24)."""
    state, loudest, steps = state or cut.Cut(), 1e-4, []
    for step, row in enumerate(heard * gain):
        loudest = max(loudest, row.max())
        if cut.heard(state, row, loudest, np.ones(4)):
            steps.append(step)
    return steps


@pytest.fixture(scope="module")
def cuts() -> list[Clip]:
    """Records that are cut into others: on drums that are synthesised, so that they are the same on every
    machine, each tuned and coloured.
    """
    return [
        play(replace(one, vary=True, then=replace(one.then, vary=True)), 24.0)
        for one in records(KITS, 4, 12)
        if one.then
    ]


def test_another_record_is_found_within_a_second_and_one_that_goes_on_seldom_is_taken_for_one(cuts):
    caught, false = 0, 0
    for clip in cuts:
        after = np.array(found(levels(clip.samples))) * tempo.HOP_S - clip.change_s
        caught += bool(((after > 0.0) & (after < 1.0)).any())
        false += int(((after < 0.0) | (after > 5.0)).sum())
    assert caught >= 11 and false <= 2


def test_neither_a_bed_that_comes_in_nor_a_breakdown_shakes_the_beat():
    """The first is taken for another record, as it may be: what was known is not lost for it."""
    one = Recipe("a song", "rock", 112.0, "own-3", 8)
    bare, with_bed, broken = (
        play(kind, 24.0) for kind in (one, replace(one, bed=0.6), replace(one, breakdown=True))
    )
    assert (
        found(joined(levels(bare.samples), levels(with_bed.samples), 900, 900, 1.0, 2)) != []
        and found(levels(broken.samples)) == []
    )
    at = int(12.0 * SAMPLE_RATE)
    for clip in (replace(bare, samples=np.concatenate([bare.samples[:at], with_bed.samples[at:]])), broken):
        assert judge(clip)["beat_f"] >= 0.97


def test_how_loud_it_is_does_not_matter(cuts):
    heard = levels(cuts[0].samples)
    assert found(heard, 0.1) == found(heard) != []


def test_cuts_are_not_found_one_upon_the_other():
    parts = [levels(play(one, 4.0).samples)[:150] for one in records(KITS, 9, 12)]
    steps = found(np.concatenate(parts))
    assert len(steps) > 2 and min(np.diff(steps)) >= cut.REST


def test_what_begins_after_silence_is_not_set_beside_what_was_before(cuts):
    first, second = (levels(clip.samples)[:700] for clip in cuts[:2])
    state = cut.Cut()
    found(first, state=state)
    cut.begin(state)
    assert found(second, state=state) == found(second)


@given(st.integers(cut.LEAST // cut.EVERY + 1, 90), st.integers(0, 2**31))
@settings(max_examples=25, deadline=None)
def test_what_the_network_sees_is_what_numpy_says_of_the_same_rows(looks, seed):
    logs = np.random.default_rng(seed).standard_normal((looks * cut.EVERY, cut.BANDS)).astype(np.float32)
    state, asked = cut.Cut(), []
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(cut.perceptron, "ask", lambda seen, *_: asked.append(seen))
        patched.setattr(cut, "ENOUGH", np.inf)
        for row in logs:
            cut.heard(state, np.exp(row), 0.0, np.ones(4))
    stretches: list[np.ndarray] = []
    for back in range(cut.BEFORE + 1):
        part = logs[max(0, len(logs) - (back + 1) * cut.STEPS) : max(0, len(logs) - back * cut.STEPS)]
        stretches.append(
            np.quantile(part, cut.QUANTILES, axis=0, method="lower").ravel()
            if len(part) >= cut.STEPS // 2
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
    state = cut.Cut()
    for i in range(cut.STEPS + 9):
        cut.heard(state, np.ones(cut.BANDS), 1.0, np.full(4, float(i)))
    np.testing.assert_array_equal(cut.lately(state)[:, 0], np.arange(9, cut.STEPS + 9))


def clicks(bpm: float, seconds: float) -> np.ndarray:
    """The onset curve of even beats, a step each."""
    t = np.arange(int(seconds * tempo.RATE)) / tempo.RATE
    return np.where(t % (60.0 / bpm) < tempo.HOP_S, 0.9, 0.02)


def test_as_likely_as_it_is_so_much_begins_anew():
    state = tempo.BeatState()
    for i, onset in enumerate(clicks(120.0, 12.0)):
        metre.note(state.metre.ring, i, np.full(24, 0.5), np.ones(3))
        tempo.follow(state, onset, 0.0, True, i * tempo.HOP_S)
    known, before = state.belief / state.belief.sum(), state.metre.ring.copy()
    tempo._begin_anew(state, 0.75)
    assert state.belief.sum() == pytest.approx(1.0) and (state.belief >= 0.25 * known - 1e-12).all()
    anew = (state.belief - 0.25 * known) / 0.75
    assert np.abs(anew - known).sum() > 0.3, "it heard three quarters of a second only"
    lately = np.arange(state.steps - cut.STEPS, state.steps) % metre.RING
    np.testing.assert_array_equal(state.metre.ring[lately], before[lately])
    earlier = np.setdiff1d(np.arange(metre.RING), lately)
    np.testing.assert_allclose(state.metre.ring[earlier], 0.25 * before[earlier], rtol=1e-6)
    assert state.told == []


def test_no_tempo_that_was_chosen_by_hand_begins_anew(monkeypatch):
    begun = []
    monkeypatch.setattr(tempo.cut, "heard", lambda *_: 0.9)
    monkeypatch.setattr(tempo, "_begin_anew", lambda _, likely: begun.append(likely))
    for mode, times in (("auto", 1), ("held", 0), ("locked", 0)):
        begun.clear()
        tempo.follow(tempo.BeatState(mode=mode), 0.1, 0.0, True, 0.0)
        assert len(begun) == times, mode


def test_the_beat_is_met_within_four_beats_of_the_next_record(cuts, monkeypatch):
    with_it = [judge(clip)["relock_beats"] for clip in cuts[:6]]
    monkeypatch.setattr(cut, "ENOUGH", np.inf)
    without = [judge(clip)["relock_beats"] for clip in cuts[:6]]
    assert sum(beats <= SOON for beats in with_it) >= 5 and sum(with_it) <= sum(without)

"""Which of several tempi is right: how the likeliest are found, laid over what was heard, and favoured."""

import numpy as np
import pytest

from bench.listening import listen
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.sound.analyser import Analyser
from fulgura.core.sound.beat import beat_hand, onset_curve, tempo_filter
from fulgura.core.sound.models import hypotheses, metre
from fulgura.core.sound.models.hypotheses import TempoHypotheses
from training.material.rhythms import Recipe, play

INTERVALS, OFFSETS, _, _ = tempo_filter.state_space()


def tempo_of(steps: int) -> int:
    """The number of the tempo with so many steps between beats."""
    return int(np.searchsorted(INTERVALS, steps))


def believed(*peaks: tuple[int, float, float]) -> np.ndarray:
    """A belief in tempi (interval in steps, phase, share), and next to nothing elsewhere."""
    belief = np.full(OFFSETS[-1], 1e-9)
    for steps, phase, share in peaks:
        belief[OFFSETS[tempo_of(steps)] + round(phase * steps)] = share
    return belief


def test_the_likeliest_tempi_are_found_apart_from_each_other():
    state = TempoHypotheses()
    hypotheses.compare(
        state,
        np.zeros((metre.RING, metre.HEARD), np.float32),
        500,
        believed((48, 0.25, 0.55), (50, 0.25, 0.05), (72, 0.5, 0.3), (32, 0.75, 0.1)),
        OFFSETS,
        tempo_filter.circle_of(),
        tempo_filter.NEAR,
        0.0,
    )
    np.testing.assert_allclose(state.found[:3, 0], [(48 * 0.55 + 50 * 0.05) / 0.6, 72.0, 32.0], rtol=1e-4)
    np.testing.assert_allclose(state.found[:3, 1], [0.25, 0.5, 0.75], atol=0.01)
    np.testing.assert_allclose(state.found[:3, 2], [0.6, 0.3, 0.1], rtol=1e-4)
    assert state.belongs[tempo_of(50)] == 0 and state.belongs[tempo_of(60)] not in (0, 1, 2)


def test_even_beats_are_laid_over_what_was_heard():
    ring = np.zeros((metre.RING, metre.HEARD), np.float32)
    for beat in range(6):
        ring[60 + 40 * beat, 0] = 0.1 * (beat + 1)
    seen = np.ones((metre.BEATS, metre.PARTS * metre.HEARD), np.float32)
    metre.beat_features(ring, 299, 300.0, 40.0, seen)
    # Of eight beats up to step 300 the first would begin before the first step; the next hears nothing yet.
    assert not seen[:2].any()
    np.testing.assert_allclose(seen[2:, 0], 0.1 * np.arange(1, 7), rtol=1e-6)
    assert not seen[2:, 1:].any()


def test_a_tempo_that_is_favoured_becomes_likelier():
    belief = believed((48, 0.25, 0.5), (72, 0.5, 0.3))
    belongs = np.full(len(INTERVALS), -1)
    belongs[tempo_of(48)], belongs[tempo_of(72)] = 0, 1
    moved = belief.copy()
    hypotheses.favour(moved, OFFSETS, belongs, np.array([1.0, -2.0]))
    assert moved.sum() == pytest.approx(belief.sum())
    ratio = moved / belief
    apart = np.concatenate([ratio[OFFSETS[i] : OFFSETS[i + 1]] for i in np.flatnonzero(belongs < 0)])
    assert np.ptp(apart) < 1e-9, "the rest stays as likely as it was to each other"
    assert ratio[belief == 0.5] / apart[0] == pytest.approx(np.e) and ratio[belief == 0.3] / apart[
        0
    ] == pytest.approx(np.exp(-2))


@pytest.mark.parametrize(
    ("pattern", "bpm"), [("rock", 108.0), ("shuffle", 120.0), ("four", 128.0), ("broken", 140.0)]
)
def test_a_row_of_beats_at_the_true_tempo_fits_and_three_for_two_does_not(pattern, bpm):
    """What was heard is asked about by hand, with all belief in one tempo: it is right where it is true."""
    clip, analyser = play(Recipe("fits", pattern, bpm, "own-6", 3), 12.0), Analyser()
    listen(clip.samples, analyser)
    beat, now = analyser.beat, analyser.beat.steps - 1
    last = (clip.beats[clip.beats < 11.5][-1] + onset_curve.HEARD_LATE_S) / onset_curve.HOP_S - 1.0

    def odds(ratio: float) -> float:
        steps = int(round(ratio * 60.0 / bpm / onset_curve.HOP_S))
        hypotheses.compare(
            beat.hypotheses,
            beat.metre.ring,
            now,
            believed((steps, (now - last) / steps % 1.0 * 0.99, 1.0)),
            OFFSETS,
            tempo_filter.circle_of(),
            tempo_filter.NEAR,
            0.0,
        )
        return beat.hypotheses.odds[0]

    assert odds(1.0) > 1.0
    assert max(odds(2 / 3), odds(3 / 2), odds(3 / 4), odds(4 / 3)) < -1.0


def test_what_was_chosen_by_hand_is_not_called_wrong(monkeypatch):
    """Half and twice are as right as what was heard, once the performer has halved or doubled."""
    asked = []
    monkeypatch.setattr(hypotheses, "compare", lambda *given: asked.append(given[-1]))
    monkeypatch.setattr(hypotheses, "favour", lambda *_: None)
    analyser, clip = Analyser(), play(Recipe("hand", "rock", 108.0, "own-6", 3), 8.0)
    listen(clip.samples, analyser)
    assert set(asked) == {hypotheses.LEVEL_RIGHT}
    asked.clear()
    beat_hand.scale_tempo(analyser.beat, 2.0)
    listen(clip.samples, analyser)
    assert set(asked) == {1.0}
    asked.clear()
    beat_hand.choose(analyser.beat, "locked", 108.0, 4)
    listen(clip.samples, analyser)
    assert not asked, "what runs on by itself has no rivals"


def test_a_held_tempo_is_not_argued_with_but_said_to_fit_or_not(monkeypatch):
    monkeypatch.setattr(hypotheses, "favour", lambda *_: pytest.fail("the belief was changed"))
    clip = play(Recipe("held", "rock", 124.0, "own-6", 3), 14.0)
    fits = []
    for held in (124.0, 93.0):
        analyser = Analyser()
        beat_hand.choose(analyser.beat, "held", held, 4)
        listen(clip.samples, analyser)
        fits.append(analyser.beat.fits)
    assert fits[0] > 0.8 and fits[1] < 0.2


def test_strokes_in_no_tempo_are_heard_without_confidence():
    r = np.random.default_rng(2)
    samples = play(Recipe("even", "rock", 124.0, "own-6", 3), 20.0).samples
    pieces = [
        samples[start : start + int(r.uniform(0.08, 0.6) * SAMPLE_RATE)]
        for start in r.integers(0, 19 * SAMPLE_RATE, 80)
    ]
    sure = []
    for sound in (samples, np.concatenate(pieces)[: len(samples)]):
        analyser, rows = Analyser(), []
        for i in range(0, len(sound) - BLOCK + 1, BLOCK):
            analyser.push(sound[i : i + BLOCK])
            rows.append(analyser.beat.confidence)
        sure.append(np.median(rows[len(rows) // 3 :]))
    assert sure[0] > 0.8 and sure[1] < 0.4

"""Listening: streaming equals whole-file, nothing is heard before it sounds, damage is repaired."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.kinds.listening import DRUMS
from fulgura.core.sound import bands, hit_steps, hits, spectrum
from fulgura.core.sound.analyser import USUAL_BANDS, USUAL_DETECTORS, Analyser, BandSetting
from fulgura.core.sound.models import drums, perceptron, verification
from fulgura.core.synthesis.house_band import HouseBand
from fulgura.demo.tracks import lamp_room


def feed(analyser: Analyser, samples: np.ndarray) -> list:
    return [analyser.push(samples[i : i + BLOCK]) for i in range(0, len(samples) - BLOCK + 1, BLOCK)]


def sine(hz: float, seconds: float, dbfs: float = 0.0) -> np.ndarray:
    return np.sin(2 * np.pi * hz * np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE) * 10 ** (dbfs / 20)


@given(st.lists(st.integers(1, 700), min_size=1, max_size=12), st.integers(0, 2**31))
@settings(max_examples=30)
def test_bands_in_pieces_equal_the_whole(sizes, seed):
    samples = np.random.default_rng(seed).standard_normal(sum(sizes))
    edges = [(20.0, 150.0), (300.0, 2000.0), (6000.0, 20000.0)]
    whole, pieces = bands.Bank.of(edges), bands.Bank.of(edges)
    squares, peaks = np.zeros(3), np.zeros(3)
    bands.filter_bank(whole.rows, whole.state, samples, squares, peaks)
    gathered, at = np.zeros(3), 0
    for size in sizes:
        part = np.zeros(3)
        bands.filter_bank(pieces.rows, pieces.state, samples[at : at + size], part, peaks)
        gathered += part * size
        at += size
    np.testing.assert_allclose(gathered / len(samples), squares, rtol=1e-9)
    np.testing.assert_allclose(pieces.state, whole.state, rtol=1e-9, atol=1e-12)


def test_what_was_heard_does_not_depend_on_what_follows():
    samples = lamp_room().finished()[: 14 * SAMPLE_RATE]
    half = len(samples) // 2 // BLOCK * BLOCK
    other = np.concatenate(
        [samples[:half], np.random.default_rng(3).standard_normal((half, 2)).astype(np.float32)]
    )
    first, second = feed(Analyser(), samples)[: half // BLOCK], feed(Analyser(), other)[: half // BLOCK]
    assert [(h.hits, h.beats) for h in first] == [(h.hits, h.beats) for h in second]


def test_a_beat_is_announced_before_it_sounds():
    beats = [
        beat for heard in feed(Analyser(), lamp_room().finished()[: 12 * SAMPLE_RATE]) for beat in heard.beats
    ]
    assert len(beats) > 15
    late = [beat for beat in beats if beat.at > beat.t]
    assert len(late) <= len(beats) * 0.05
    assert all(beat.t - beat.at <= 0.075 for beat in beats)


def test_a_hit_is_reported_after_it_sounded_and_soon():
    hits_heard = [
        hit for heard in feed(Analyser(), lamp_room().finished()[: 10 * SAMPLE_RATE]) for hit in heard.hits
    ]
    assert hits_heard and all(0.0 <= hit.at - hit.t <= 0.06 for hit in hits_heard)


def test_the_same_sound_20_db_quieter_gives_the_same_hits():
    samples = lamp_room().finished()[: 16 * SAMPLE_RATE]

    def count(gain):
        return sum(len(heard.hits) for heard in feed(Analyser(), samples * gain))

    loud, quiet = count(1.0), count(0.1)
    assert loud > 40 and abs(loud - quiet) <= 0.01 * loud


def test_a_kick_is_counted_once():
    detector = next(d for d in USUAL_DETECTORS if d.name == "kick")
    band = HouseBand()
    settings = HouseBandSettings(tempo_bpm=120, density=0.2)
    analyser = Analyser(USUAL_BANDS, (detector,))
    caught = [
        hit.t for _ in range(12 * SAMPLE_RATE // BLOCK) for hit in analyser.push(band.block(settings)).hits
    ]
    true = [at / SAMPLE_RATE for name, at in band.played if name == "kick"]
    after_start = [t for t in true if 1.0 < t < 11.5]
    for t in after_start:
        assert sum(abs(t - c) < 0.05 for c in caught) == 1, f"kick at {t:.2f} s"


def odds(*probabilities: float) -> np.ndarray:
    p = np.clip(probabilities, 1e-6, 1 - 1e-6)
    return np.log(p / (1 - p))


class Curve:
    """A detector fed with what the networks would say, block by block; the second look says the same unless
    it is told.
    """

    def __init__(self, drum: str = "kick", **setting) -> None:
        self.settings = hits.settings_of((hits.Detector(drum, drum, **setting),), ())
        self.states, self.found, self.t = hits.new_states(1), np.zeros(1, dtype=hits.FOUND), 0.0
        self.steps(*[0.0] * 50)

    def step(self, activation: float, square: float = 0.01, surely: float | None = None) -> str:
        self.t += hit_steps.STEP_S
        said = odds(*[activation] * 3)
        count = hits.detect(
            self.settings,
            self.states,
            np.full(len(drums.BANDS), square),
            0,
            said,
            said if surely is None else odds(*[surely] * 3),
            self.t,
            self.found,
        )
        reason = int(self.found[0]["reason"])
        assert count == int(reason != hits.NOTHING)
        return "" if reason == hits.NOTHING else hits.REASONS[reason] or "caught"

    def steps(self, *activations: float, square: float = 0.01, surely: float | None = None) -> list[str]:
        return [told for told in (self.step(a, square, surely) for a in activations) if told]


def test_a_drum_is_told_when_it_is_sure_and_once():
    assert Curve().steps(0.3, 0.99, 0.99, 0.98, 0.4, 0.0, 0.0) == ["caught"]


def test_what_is_beyond_doubt_is_told_at_once_and_what_is_not_a_few_blocks_later():
    curve = Curve()
    assert curve.step(0.9, surely=0.99) == "caught"
    curve.steps(*[0.0] * 40)
    just = hits.drum_threshold("kick", 0.5) + 0.02
    waited = [curve.step(0.9, surely=just) for _ in range(hit_steps.LOOKS)]
    assert waited == [""] * (hit_steps.LOOKS - 1) + ["caught"], "it is told when it can wait no longer"
    told = curve.found[0]
    assert curve.t - told["t"] == pytest.approx(
        (hit_steps.LOOKS - 1) * hit_steps.STEP_S + hit_steps.LATENESS_S[0]
    ), "t is when it sounded, however long it was looked at"


def test_what_the_second_look_does_not_take_for_the_drum_is_another_sound():
    """A tom that begins as a kick does."""
    assert Curve().steps(0.9, 0.9, 0.9, 0.9, 0.9, 0.9, 0.5, 0.0, surely=0.1) == ["another sound"]


def test_what_came_near_is_shown_with_its_reason():
    curve = Curve()
    assert curve.steps(0.22, 0.4, 0.3, 0.2, 0.1, 0.0) == ["below threshold"]
    assert curve.steps(*[0.0] * 40, 0.99, 0.0, 0.0, 0.99, 0.0) == ["caught", "too soon"]


def test_a_second_look_is_taken_only_where_something_may_be_told():
    settings, states = hits.settings_of((hits.Detector("kick", "kick"),), ()), hits.new_states(1)
    assert not hits.needs_verification(settings, states, odds(0.1, 0.9, 0.9)) and hits.needs_verification(
        settings, states, odds(0.3, 0.0, 0.0)
    )
    states["looks"] = 1
    assert hits.needs_verification(settings, states, odds(0.0, 0.0, 0.0))


def test_what_is_quieter_than_the_least_level_never_counts():
    curve = Curve(least_dbfs=-20.0)
    assert curve.steps(0.99, 0.0, square=1e-6) == ["too quiet"]
    assert "caught" in curve.steps(*[0.0] * 40, 0.99, 0.0, square=0.1)


def test_a_rise_that_is_not_the_drum_is_called_another_sound():
    curve = Curve()
    curve.steps(*[0.0] * 60, square=1e-4)
    assert curve.steps(*[0.02] * 14, square=0.2) == ["another sound"]


@given(st.lists(st.floats(0.0, 1.0), min_size=20, max_size=120), st.floats(0.03, 0.4))
@settings(max_examples=60)
def test_hits_are_never_closer_than_the_dead_time(activations, dead):
    curve, caught = Curve(dead_time_s=dead), []
    for activation in activations:
        if curve.step(activation) == "caught":
            caught.append(float(curve.found[0]["t"]))
    assert all(b - a >= dead - 1e-9 for a, b in zip(caught, caught[1:]))


def test_more_sensitivity_never_means_a_higher_threshold():
    for drum in DRUMS:
        thresholds = [hits.drum_threshold(drum, s) for s in np.linspace(0, 1, 11)]
        assert (
            all(a > b for a, b in zip(thresholds, thresholds[1:])) and 0 < thresholds[-1] < thresholds[0] < 1
        )
        assert hits.drum_threshold(drum, 0.5) == pytest.approx(hits.BEST_THRESHOLD[drum])


def test_a_keener_drum_detector_catches_all_that_a_duller_one_does_and_never_stops():
    samples = lamp_room().finished()[: 14 * SAMPLE_RATE]

    def caught(sensitivity: float) -> np.ndarray:
        analyser = Analyser(USUAL_BANDS, (hits.Detector("kick", "kick", sensitivity, dead_time_s=0.08),))
        return np.array([hit.t for heard in feed(analyser, samples) for hit in heard.hits])

    dull, usual, keen = caught(0.1), caught(0.5), caught(0.95)
    assert len(dull) > 8 and len(keen) >= len(usual) >= len(dull)
    assert all(np.abs(keen - t).min() < 0.05 for t in usual) and all(
        np.abs(usual - t).min() < 0.05 for t in dull
    )


def test_any_band_can_have_hits_of_its_own():
    band = BandSetting("bell", 900.0, 1_400.0)
    analyser = Analyser((band,), (hits.Detector("bell-hits", "bell", dead_time_s=0.1),))
    samples = np.random.default_rng(4).standard_normal(6 * SAMPLE_RATE) * 1e-3
    ring = sine(1_100, 0.25, -6) * np.exp(-np.arange(int(0.25 * SAMPLE_RATE)) / (0.05 * SAMPLE_RATE))
    struck = [0.5 + 0.6 * k for k in range(9)]
    for t in struck:
        samples[int(t * SAMPLE_RATE) : int(t * SAMPLE_RATE) + len(ring)] += ring
    caught = [hit.t for heard in feed(analyser, samples) for hit in heard.hits]
    caught = [t for t in caught if t > 0.2]  # The sound itself begins at 0.
    assert len(caught) == len(struck) and np.abs(np.array(caught) - struck).max() < 0.02
    with pytest.raises(ValueError, match="neither a drum nor a band"):
        Analyser((band,), (hits.Detector("lost", "gone"),))


def test_the_network_does_not_care_for_the_level():
    """Features are relative: 40 dB less of the same sound looks the same."""

    def seen(gain: float) -> np.ndarray:
        state, features = drums.new_state(), np.zeros(drums.FEATURES, np.float32)
        r = np.random.default_rng(2)
        for _ in range(300):
            drums.look(state, gain * r.random(len(drums.BANDS)) ** 4, features)
        return features

    np.testing.assert_allclose(seen(1e-4), seen(1.0), atol=1e-5)


@pytest.mark.parametrize(
    "weights", [drums.weights(), verification.weights()], ids=["first look", "second look"]
)
def test_drums_are_judged_by_the_mean_of_what_the_networks_say(weights):
    w1, b1, w2, b2, w3, b3 = weights
    seen, said, told = (
        np.random.default_rng(3).random(w1.shape[2]).astype(np.float32),
        [],
        np.zeros(len(DRUMS), np.float32),
    )
    for n in range(len(w1)):
        said.append(w3[n] @ np.maximum(w2[n] @ np.maximum(w1[n] @ seen + b1[n], 0) + b2[n], 0) + b3[n])
    perceptron.ask(seen, *weights, told)
    np.testing.assert_allclose(told, np.mean(said, axis=0), rtol=1e-4)
    assert len(said) > 1 and np.ptp(said, axis=0).min() > 0.01, "they are not all the same network"


def test_the_second_look_sees_what_was_said_lately_the_latest_first():
    said, seen, features, activations = (
        drums.unasked_log_odds(),
        np.zeros(verification.FEATURES, np.float32),
        np.zeros(drums.FEATURES, np.float32),
        np.zeros(3),
    )
    state, squares = drums.new_state(), np.full(len(drums.BANDS), 1e-3)
    for _ in range(2):
        drums.hear(state, squares, features, *drums.weights(), said)
    verification.look(features, said, seen)
    np.testing.assert_array_equal(seen[: drums.FEATURES], features)
    np.testing.assert_allclose(
        seen[drums.FEATURES : drums.FEATURES + 6],
        np.clip(said[:2].ravel(), -verification.LIMIT, verification.LIMIT),
        rtol=1e-6,
    )
    assert (seen[drums.FEATURES + 6 :] == -verification.LIMIT).all(), "before that nothing was said"
    drums.lately(said, activations)
    np.testing.assert_allclose(activations, 1 / (1 + np.exp(-said[:2].max(axis=0))))


@pytest.mark.parametrize("name", ["silence", "dc", "pure tone", "white noise"])
def test_no_beats_are_claimed_with_confidence_where_there_are_none(name):
    length = 12 * SAMPLE_RATE
    samples = {
        "silence": np.zeros(length),
        "dc": np.full(length, 0.5),
        "pure tone": sine(440, 12, -12),
        "white noise": np.random.default_rng(5).standard_normal(length) * 0.1,
    }[name]
    analyser = Analyser()
    feed(analyser, samples)
    assert analyser.beat.confidence < 0.5


def test_damaged_samples_are_repaired_and_counted():
    block = np.full((BLOCK, 2), 0.1)
    block[3, 0], block[10, 1], block[11, 0] = np.nan, np.inf, 1e30
    analyser = Analyser()
    assert analyser.push(block).repaired == 3
    for _ in range(200):
        analyser.push(np.zeros((BLOCK, 2)))
    assert np.isfinite(analyser.band_levels).all() and analyser.band_levels.max() < 1e-3


def test_a_wrong_block_length_is_refused():
    with pytest.raises(ValueError, match="256"):
        Analyser().push(np.zeros(100))


def test_moving_one_band_disturbs_no_other():
    analyser, moved = Analyser(), Analyser()
    samples = np.random.default_rng(1).standard_normal(BLOCK * 60) * 0.2
    feed(analyser, samples), feed(moved, samples)
    low, mid, high = USUAL_BANDS
    moved.configure((low, BandSetting("mid", 500.0, 900.0), high), moved.detectors)
    feed(analyser, samples), feed(moved, samples)
    np.testing.assert_array_equal(analyser.band_levels[[0, 2]], moved.band_levels[[0, 2]])
    assert analyser.band_levels[1] != moved.band_levels[1]


def test_band_edges_must_be_in_order():
    with pytest.raises(ValueError, match="start below its end"):
        bands.design(300.0, 200.0)


def test_a_band_follows_its_own_attack_and_release():
    """A one-pole covers 1 - 1/e of a step in its time: read on a steady sine that starts and stops."""
    band = BandSetting("all", 300.0, 2000.0, attack_s=0.2, release_s=0.4)
    analyser = Analyser((band,), ())
    tone = sine(800, 3)
    feed(analyser, tone[: int(0.2 * SAMPLE_RATE) // BLOCK * BLOCK])
    assert analyser.band_levels[0] == pytest.approx(1 - np.exp(-1), abs=0.03)
    feed(analyser, tone)
    full = analyser.band_levels[0]
    assert full == pytest.approx(1.0, abs=0.03)
    feed(analyser, np.zeros(int(0.4 * SAMPLE_RATE) // BLOCK * BLOCK))
    assert analyser.band_levels[0] == pytest.approx(full * np.exp(-1), abs=0.03)


def test_a_sine_stands_in_its_own_display_bin():
    for hz in (60.0, 440.0, 5000.0):
        shown = spectrum.display(spectrum.amplitudes(sine(hz, 0.1, -6.0)))
        best = int(shown.argmax())
        assert 0.8 < spectrum.display_edges()[best] / hz < 1.25
        # Between two bins a Hann window reads up to 1.42 dB low; the third bin also meets its own mirror
        # image.
        assert shown[best] == pytest.approx(-6.0, abs=2.5)


def test_the_house_band_is_deterministic_and_keeps_its_tempo():
    settings = HouseBandSettings(tempo_bpm=150, density=1.0)
    first, two = HouseBand(4), HouseBand(4)
    assert all(np.array_equal(first.block(settings), two.block(settings)) for _ in range(400))
    kicks = [at for name, at in first.played if name == "kick"]
    on_beat = [at for at in kicks if abs((at / SAMPLE_RATE * 150 / 60) % 1.0 - 0.5) > 0.45]
    assert len(on_beat) >= 5


def test_level_creep_raises_the_house_band():
    settings = HouseBandSettings(creep_db_per_min=12.0, density=0.0)
    band = HouseBand()
    for _ in range(int(30 * SAMPLE_RATE / BLOCK)):
        band.block(settings)
    assert band.creep_db == pytest.approx(6.0, abs=0.1)


def strikes(levels_dbfs, every_s=0.5):
    """Decaying 100 Hz strikes, one every half second, whose envelope begins at these levels."""
    t = np.arange(int(every_s * SAMPLE_RATE)) / SAMPLE_RATE
    return np.concatenate(
        [10 ** (level / 20) * np.exp(-t / 0.06) * np.sin(2 * np.pi * 100 * t) for level in levels_dbfs]
    )


def test_an_absolute_threshold_counts_what_reaches_it_and_nothing_else():
    loud, near, quiet = -6.0, -18.0, -40.0
    wanted = [loud, quiet, near, loud, quiet, loud, near]
    analyser = Analyser(
        (BandSetting("low", 40.0, 300.0),), (hits.Detector("own", "low", absolute_dbfs=-15.0),)
    )
    heard = list(feed(analyser, strikes(wanted)))
    caught, rejected = [h for step in heard for h in step.hits], [h for step in heard for h in step.rejected]
    assert [round(h.t / 0.5) for h in caught] == [i for i, level in enumerate(wanted) if level == loud]
    assert [round(h.t / 0.5) for h in rejected] == [i for i, level in enumerate(wanted) if level == near]
    assert all(h.at - h.t < 0.035 and h.strength >= h.threshold for h in caught) and all(
        h.strength < h.threshold and h.reason == "below threshold" for h in rejected
    )


def test_an_absolute_threshold_is_a_level_and_a_quieter_sound_does_not_reach_it():
    detectors = (hits.Detector("own", "low", absolute_dbfs=-15.0),)
    for gain, count in ((1.0, 8), (0.1, 0)):
        analyser = Analyser((BandSetting("low", 40.0, 300.0),), detectors)
        assert sum(len(step.hits) for step in feed(analyser, gain * strikes([-6.0] * 8))) == count


def test_a_drum_may_have_an_absolute_threshold_too():
    analyser = Analyser(
        (BandSetting("low", 40.0, 300.0),),
        (hits.Detector("kick", "kick", dead_time_s=0.1, absolute_dbfs=-15.0),),
    )
    assert sum(
        len(step.hits) for step in feed(analyser, lamp_room().finished()[: 8 * SAMPLE_RATE].mean(axis=1))
    ) == pytest.approx(16, abs=2)


def test_a_steep_band_streams_and_keeps_its_state_when_another_moves():
    sound = np.random.default_rng(8).standard_normal(40 * BLOCK)
    steep = BandSetting("steep", 500.0, 900.0, slope="steep")
    still, moved = (
        Analyser((BandSetting("other", 50.0, 90.0), steep), ()),
        Analyser((BandSetting("other", 50.0, 90.0), steep), ()),
    )
    for k, start in enumerate(range(0, len(sound), BLOCK)):
        if k == 20:
            moved.configure((steep, BandSetting("other", 60.0, 90.0, slope="gentle")), ())
        still.push(sound[start : start + BLOCK])
        moved.push(sound[start : start + BLOCK])
    assert moved.band_squares[0] == still.band_squares[1] > 0

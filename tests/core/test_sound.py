"""Listening: streaming equals whole-file, nothing is heard before it sounds, damage is repaired."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fulgura.core import BLOCK, SAMPLE_RATE
from fulgura.core.sound import bands, hits, spectrum
from fulgura.core.sound.analyser import USUAL_BANDS, USUAL_DETECTORS, Analyser, BandSetting
from fulgura.core.sound.houseband import HouseBand, HouseBandSettings
from fulgura.demo.tracks import lamp_room


def feed(analyser: Analyser, samples: np.ndarray) -> list:
    return [analyser.push(samples[i : i + BLOCK]) for i in range(0, len(samples) - BLOCK + 1, BLOCK)]


def sine(hz: float, seconds: float, dbfs: float = 0.0) -> np.ndarray:
    return np.sin(2 * np.pi * hz * np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE) * 10 ** (dbfs / 20)


@given(st.lists(st.integers(1, 700), min_size=1, max_size=12), st.integers(0, 2**31))
@settings(max_examples=30, deadline=None)
def test_bands_in_pieces_equal_the_whole(sizes, seed):
    samples = np.random.default_rng(seed).standard_normal(sum(sizes))
    edges = [(20.0, 150.0), (300.0, 2000.0), (6000.0, 20000.0)]
    whole, pieces = bands.Bank.of(edges), bands.Bank.of(edges)
    squares, peaks = np.zeros(3), np.zeros(3)
    bands.filter_bank(whole.sections, whole.state, samples, squares, peaks)
    gathered, at = np.zeros(3), 0
    for size in sizes:
        part = np.zeros(3)
        bands.filter_bank(pieces.sections, pieces.state, samples[at : at + size], part, peaks)
        gathered += part * size
        at += size
    np.testing.assert_allclose(gathered / len(samples), squares, rtol=1e-9)
    np.testing.assert_allclose(pieces.state, whole.state, rtol=1e-9, atol=1e-12)


def test_what_was_heard_does_not_depend_on_what_follows():
    samples = lamp_room().finished()[: 14 * SAMPLE_RATE]
    half = len(samples) // 2 // BLOCK * BLOCK
    other = np.concatenate([samples[:half], np.random.default_rng(3).standard_normal((half, 2)).astype(np.float32)])
    first, second = feed(Analyser(), samples)[: half // BLOCK], feed(Analyser(), other)[: half // BLOCK]
    assert [(h.hits, h.beats) for h in first] == [(h.hits, h.beats) for h in second]


def test_a_beat_is_announced_before_it_sounds():
    beats = [beat for heard in feed(Analyser(), lamp_room().finished()[: 12 * SAMPLE_RATE]) for beat in heard.beats]
    assert len(beats) > 15
    late = [beat for beat in beats if beat.at > beat.t]
    assert len(late) <= len(beats) * 0.05
    assert all(beat.t - beat.at <= 0.075 for beat in beats)


def test_a_hit_is_reported_after_it_sounded_and_soon():
    hits_heard = [hit for heard in feed(Analyser(), lamp_room().finished()[: 10 * SAMPLE_RATE]) for hit in heard.hits]
    assert hits_heard and all(0.0 <= hit.at - hit.t <= 0.06 for hit in hits_heard)


def test_the_same_sound_20_db_quieter_gives_the_same_hits():
    samples = lamp_room().finished()[: 16 * SAMPLE_RATE]
    count = lambda gain: sum(len(heard.hits) for heard in feed(Analyser(), samples * gain))  # noqa: E731
    loud, quiet = count(1.0), count(0.1)
    assert loud > 40 and abs(loud - quiet) <= 0.03 * loud


def test_a_kick_is_counted_once():
    detector = next(d for d in USUAL_DETECTORS if d.name == "kick")
    band = HouseBand()
    settings = HouseBandSettings(tempo_bpm=120, density=0.2)
    analyser = Analyser(USUAL_BANDS, (detector,))
    caught = [hit.t for _ in range(12 * SAMPLE_RATE // BLOCK) for hit in analyser.push(band.block(settings)).hits]
    true = [at / SAMPLE_RATE for name, at in band.played if name == "kick"]
    after_start = [t for t in true if 1.0 < t < 11.5]
    for t in after_start:
        assert sum(abs(t - c) < 0.05 for c in caught) == 1, f"kick at {t:.2f} s"


def judged(detector: hits.Detector, states: np.ndarray, **rising) -> str | None:
    """Why a peak with these properties is rejected; None when it is caught. The threshold is 1."""
    for name, value in rising.items():
        states[0][name] = value
    found = np.zeros(1, dtype=hits.FOUND)
    hits._judge(hits.settings_of((detector,))[0], states[0], 1.0, found[0])
    return hits.REASONS[found[0]["reason"]]


def test_a_rejected_peak_says_why():
    plain, fussy = hits.Detector("kick", 40.0, 150.0), hits.Detector("kick", 40.0, 150.0, dead_time_s=0.13, share=0.2, attack=0.3)
    assert judged(plain, hits.new_states(1), rising=0.9, rising_t=1.0) == "below threshold"
    assert judged(plain, hits.new_states(1), rising=5.0, rising_t=1.0) is None
    assert judged(fussy, hits.new_states(1), rising=5.0, rising_t=1.0, rising_share=0.1) == "masked"
    assert judged(fussy, hits.new_states(1), rising=5.0, rising_t=1.0, rising_share=0.5, rising_attack=0.1) == "no attack"


def test_a_second_peak_within_the_dead_time_is_too_soon():
    detector, states = hits.Detector("kick", 40.0, 150.0, dead_time_s=0.13), hits.new_states(1)
    assert judged(detector, states, rising=5.0, rising_t=1.0) is None
    assert judged(detector, states, rising=5.0, rising_t=1.1) == "too soon"
    assert judged(detector, states, rising=5.0, rising_t=1.14) is None


@pytest.mark.parametrize("name", ["silence", "dc", "pure tone", "white noise"])
def test_no_beats_are_claimed_with_confidence_where_there_are_none(name):
    length = 12 * SAMPLE_RATE
    samples = {"silence": np.zeros(length), "dc": np.full(length, 0.5), "pure tone": sine(440, 12, -12), "white noise": np.random.default_rng(5).standard_normal(length) * 0.1}[name]
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
        # Between two bins a Hann window reads up to 1.42 dB low; the third bin also meets its own mirror image.
        assert shown[best] == pytest.approx(-6.0, abs=2.5)


def test_the_house_band_is_deterministic_and_keeps_its_tempo():
    settings = HouseBandSettings(tempo_bpm=150, density=1.0)
    one, two = HouseBand(4), HouseBand(4)
    assert all(np.array_equal(one.block(settings), two.block(settings)) for _ in range(400))
    kicks = [at for name, at in one.played if name == "kick"]
    on_beat = [at for at in kicks if abs((at / SAMPLE_RATE * 150 / 60) % 1.0 - 0.5) > 0.45]
    assert len(on_beat) >= 5


def test_level_creep_raises_the_house_band():
    settings = HouseBandSettings(creep_db_per_min=12.0, density=0.0)
    band = HouseBand()
    for _ in range(int(30 * SAMPLE_RATE / BLOCK)):
        band.block(settings)
    assert band.creep_db == pytest.approx(6.0, abs=0.1)

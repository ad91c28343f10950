"""The input's level: gain, floor, following, and the measure of the empty room."""

import numpy as np
import pytest

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.inputs.level import LevelSetting
from fulgura.core.sound.gain import BLOCK_S, FASTEST_DB_PER_S, FloorMeasure, LevelControl
from fulgura.core.sound.loudness import Loudness


def noise(seconds: float, dbfs: float, seed: int = 1) -> np.ndarray:
    """Stereo noise whose RMS reads so many dBFS (AES17), in whole blocks."""
    x = np.random.default_rng(seed).standard_normal((int(seconds * SAMPLE_RATE) // BLOCK * BLOCK, 2))
    return x / np.sqrt(np.mean(x * x)) * 10 ** (dbfs / 20) / np.sqrt(2)


def run(control: LevelControl, samples: np.ndarray) -> tuple[np.ndarray, list[float], Loudness]:
    """(what comes out, followed gain every 100 ms, its loudness)."""
    loudness, out, gains = Loudness(), [], []
    for i in range(0, len(samples) - BLOCK + 1, BLOCK):
        out.append(control.apply(samples[i : i + BLOCK]))
        if loudness.push(out[-1]):
            control.follow(loudness.momentary, loudness.short_term, 0.1)
            gains.append(control.followed_db)
    return np.concatenate(out), gains, loudness


def test_gain_is_what_it_says():
    out, _, _ = run(LevelControl(gain_db=6.0), noise(1.0, -30))
    assert 10 * np.log10(2 * np.mean(out[BLOCK * 4 :] ** 2)) == pytest.approx(-24.0, abs=0.1)


def test_a_new_gain_glides_and_does_not_click():
    control = LevelControl(LevelSetting())
    block = np.full((BLOCK, 2), 0.5)
    control.apply(block)
    control.gain_db = -20.0
    out = control.apply(block)[:, 0]
    assert np.abs(np.diff(out)).max() < 0.003 and out[-1] == pytest.approx(0.05, abs=1e-6)


@pytest.mark.parametrize("start", [-40.0, -30.0, -8.0])
def test_following_brings_loudness_to_the_target_and_stays(start):
    control = LevelControl(LevelSetting(follow=True, target_lufs=-20.0, reach_db=24.0))
    _, gains, loudness = run(control, noise(60, start))
    assert loudness.short_term == pytest.approx(-20.0, abs=1.5)
    assert np.ptp(gains[-100:]) < 0.5, "it hunts around the target"


def test_following_is_bounded_and_slow():
    control = LevelControl(LevelSetting(follow=True, target_lufs=-6.0, reach_db=5.0))
    _, gains, _ = run(control, noise(30, -40))
    assert max(gains) == pytest.approx(5.0)
    assert np.abs(np.diff(gains)).max() <= FASTEST_DB_PER_S * 0.1 + 1e-9


def test_following_is_frozen_in_silence():
    control = LevelControl(LevelSetting(follow=True, target_lufs=-16.0))
    _, before, _ = run(control, noise(20, -24))
    _, after, _ = run(control, np.zeros((20 * SAMPLE_RATE, 2)))
    assert after[-1] == pytest.approx(before[-1], abs=0.3)


def test_single_hits_do_not_pump():
    quiet = noise(20, -27.3)
    for second in range(5, 20, 7):
        quiet[second * SAMPLE_RATE : second * SAMPLE_RATE + 2400] *= 10
    control = LevelControl(LevelSetting(follow=True, target_lufs=-24.0))
    _, gains, _ = run(control, quiet)
    assert np.ptp(gains[60:]) < 0.5


def test_switched_off_it_comes_back_to_the_hand():
    control = LevelControl(LevelSetting(follow=True, target_lufs=-10.0))
    run(control, noise(20, -30))
    assert control.followed_db > 3
    control.settings = LevelSetting()
    _, gains, _ = run(control, noise(20, -30))
    assert abs(gains[-1]) < 0.01


def test_below_the_floor_there_is_silence_and_above_it_there_is_sound():
    control = LevelControl(LevelSetting(floor_dbfs=-50.0))
    out, _, _ = run(control, noise(2, -60))
    assert np.abs(out[-SAMPLE_RATE // 2 :]).max() < 1e-4 and not control.open
    out, _, _ = run(control, noise(1, -30))
    assert control.open and 10 * np.log10(2 * np.mean(out[-SAMPLE_RATE // 4 :] ** 2)) == pytest.approx(
        -30, abs=0.2
    )


def test_the_floor_does_not_chatter():
    control, turns, was = LevelControl(LevelSetting(floor_dbfs=-50.0)), 0, True
    samples = noise(6, -50)
    for i in range(0, len(samples), BLOCK):
        control.apply(samples[i : i + BLOCK])
        turns += control.open != was
        was = control.open
    assert turns <= 2


def test_one_side_is_heard_on_both():
    samples = noise(0.1, -20)
    samples[:, 0] = 0.0
    assert not LevelControl(LevelSetting(sides="left")).apply(samples[:BLOCK]).any()
    heard = LevelControl(LevelSetting(sides="right")).apply(samples[:BLOCK])
    np.testing.assert_array_equal(heard[:, 0], heard[:, 1])


def test_the_empty_room_is_measured_without_its_cough():
    samples = noise(3.1, -58)
    samples[SAMPLE_RATE : SAMPLE_RATE + 4800] *= 100
    measure = FloorMeasure()
    for i in range(0, len(samples), BLOCK):
        measure.hear(samples[i : i + BLOCK])
    assert measure.done and len(measure.squares) * BLOCK_S == pytest.approx(3.0, abs=0.01)
    assert measure.room_dbfs == pytest.approx(-58.0, abs=0.5) and measure.proposed_dbfs == pytest.approx(
        -52.0, abs=0.5
    )


def test_damage_does_not_stay_in_the_gate():
    control = LevelControl(LevelSetting(floor_dbfs=-50.0))
    control.apply(np.full((BLOCK, 2), np.nan))
    out, _, _ = run(control, noise(1, -30))
    assert np.isfinite(out[BLOCK:]).all() and control.open

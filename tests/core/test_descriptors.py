"""Descriptors say what their help says, for sounds whose answer is known."""

import numpy as np
import pytest

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.descriptors import DESCRIPTOR_IDS
from fulgura.core.sound.analyser import Analyser
from fulgura.core.sound.find import propose
from fulgura.core.sound.spectrum import display_edges


def described(samples: np.ndarray) -> dict[str, np.ndarray]:
    """Each descriptor over time, one value a block."""
    analyser, rows = Analyser(), []
    for i in range(0, len(samples) - BLOCK + 1, BLOCK):
        analyser.push(samples[i : i + BLOCK])
        rows.append(analyser.descriptors.values.copy())
    return dict(zip(DESCRIPTOR_IDS, np.array(rows).T))


def tone(hz: float, seconds: float, gain: float = 0.3) -> np.ndarray:
    return gain * np.sin(2 * np.pi * hz * np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE)


def noise(seconds: float, gain: float = 0.1, seed: int = 3) -> np.ndarray:
    return gain * np.random.default_rng(seed).standard_normal(int(seconds * SAMPLE_RATE))


def test_brightness_is_the_centroid_on_a_scale_of_octaves():
    for hz in (200.0, 1000.0, 4000.0):
        wanted = np.log2(hz / 100.0) / np.log2(80.0)
        assert described(tone(hz, 1.0))["brightness"][-1] == pytest.approx(wanted, abs=0.03)


def test_hiss_is_noisy_and_a_tone_is_not():
    # The mean flatness of white noise seen through single periodograms is exp(-0.5772) = 0.56.
    assert described(noise(2.0))["noisiness"][-1] == pytest.approx(0.56, abs=0.08)
    assert described(tone(500.0, 1.0))["noisiness"][-1] < 0.01


@pytest.mark.parametrize(
    ("name", "hz", "number"), [("A", 440.0, 9), ("C", 261.63, 0), ("E", 659.26, 4), ("F sharp", 185.0, 6)]
)
def test_pitch_class(name, hz, number):
    assert described(tone(hz, 1.5))["pitch-class"][-1] == pytest.approx(number / 12)


def test_width_and_phase():
    left, right = noise(1.0, seed=1), noise(1.0, seed=2)

    def last(a, b):
        return {k: v[-1] for k, v in described(np.stack([a, b], axis=1)).items()}

    same, unrelated, turned = last(left, left), last(left, right), last(left, -left)
    assert same["width"] < 0.01 and same["phase"] > 0.99
    assert unrelated["width"] == pytest.approx(0.5, abs=0.1) and unrelated["phase"] == pytest.approx(
        0.5, abs=0.1
    )
    assert turned["width"] > 0.99 and turned["phase"] < 0.01


def test_density_counts_onsets():
    samples = noise(8.0, 1e-4)
    for k in range(64):
        start = int((0.1 + k / 8) * SAMPLE_RATE)
        burst = noise(0.03, 0.5, k)[: len(samples) - start]
        samples[start : start + len(burst)] += burst
    assert described(samples)["density"][-1] == pytest.approx(8 / 16, abs=0.08)


def test_novelty_jumps_when_a_section_comes_and_settles():
    heard = described(np.concatenate([tone(150.0, 20.0), tone(3000.0, 30.0)]))["novelty"]
    second = SAMPLE_RATE // BLOCK
    before, after, later = heard[19 * second], heard[20 * second : 23 * second].max(), heard[-1]
    assert before < 0.05 and after > 0.5 and later < 0.2


def test_a_build_up_rises_and_the_drop_is_told_once_at_its_time():
    t = np.arange(16 * SAMPLE_RATE) / SAMPLE_RATE
    low = tone(60.0, 16.0, 0.4)
    rise = noise(16.0, 1.0) * np.minimum(t / 16.0, 1.0) ** 2 * 0.3
    groove = low + noise(16.0, 0.03)
    heard = described(np.concatenate([groove, noise(16.0, 0.02) + rise, groove]))
    second = SAMPLE_RATE / BLOCK
    built, dropped = heard["build-up"], heard["drop"]
    assert (
        built[int(28 * second) : int(32 * second)].max()
        > 0.5
        > built[int(8 * second) : int(15 * second)].max()
    )
    # The very beginning of sound is no drop; the low end's return at 32 s is.
    assert dropped[int(1 * second) : int(31.9 * second)].max() < 0.05
    assert dropped[int(32.0 * second) : int(32.3 * second)].max() > 0.9 and dropped[-1] < 0.01


def test_find_proposes_the_band_in_which_a_moment_stands_out():
    r = np.random.default_rng(6)
    edges = display_edges()
    levels = -60 + r.standard_normal((480, 96)) * 2
    struck = (edges[:-1] >= 2_000) & (edges[1:] <= 4_200)
    levels[200:206, struck] += 40
    times = np.arange(480) / 60
    found = propose(levels, times, times[202], 2_800.0)
    assert found is not None and found.contrast_db > 30
    assert 1_900 < found.low_hz < 2_300 and 3_600 < found.high_hz < 4_500
    assert propose(levels, times, times[400], 200.0) is None
    assert propose(levels, times, 99.0, 200.0) is None

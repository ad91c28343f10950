"""Loudness against ITU-R BS.1770 / EBU Tech 3341 values and against the library pyloudnorm."""

import numpy as np
import pyloudnorm
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.sound.loudness import Loudness
from fulgura.demo.tracks import fog_signal, lamp_room


def heard(samples: np.ndarray, piece: int = 256) -> Loudness:
    loudness = Loudness()
    for i in range(0, len(samples), piece):
        loudness.push(samples[i : i + piece])
    return loudness


def sine(hz: float, seconds: float, dbfs_peak: float) -> np.ndarray:
    return 10 ** (dbfs_peak / 20) * np.sin(
        2 * np.pi * hz * np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE
    )


def test_997_hz_full_scale_in_one_front_channel_reads_minus_3_01():
    """ITU-R BS.1770-4, annex 1: a 0 dB FS, 997 Hz sine in the left, centre or right channel reads
    -3.01 LKFS.
    """
    tone = sine(997.0, 5.0, 0.0)
    assert heard(np.stack([tone, np.zeros_like(tone)], axis=1)).integrated == pytest.approx(-3.01, abs=0.02)


def test_ebu_tech_3341_case_1_and_2():
    """EBU Tech 3341, cases 1 and 2: stereo 1 kHz sine at -23.0 and at -33.0 dBFS reads that in M, S and I,
    within 0.1 LU.
    """
    for level in (-23.0, -33.0):
        both = np.repeat(sine(1000.0, 20.0, level)[:, None], 2, axis=1)
        loudness = heard(both)
        for value in (loudness.momentary, loudness.short_term, loudness.integrated):
            assert value == pytest.approx(level, abs=0.1)


def test_ebu_tech_3341_case_3_gating():
    """EBU Tech 3341, case 3: 10 s at -36, 60 s at -23, 10 s at -36 dBFS: the quiet ends are gated, I
    = -23.0.
    """
    tone = np.concatenate([sine(1000.0, 10.0, -36.0), sine(1000.0, 60.0, -23.0), sine(1000.0, 10.0, -36.0)])
    assert heard(np.repeat(tone[:, None], 2, axis=1)).integrated == pytest.approx(-23.0, abs=0.1)


@pytest.mark.parametrize("track", [lamp_room, fog_signal])
@pytest.mark.parametrize("gain", [1.0, 0.1])
def test_integrated_agrees_with_pyloudnorm(track, gain):
    samples = track().finished()[: 30 * SAMPLE_RATE].astype(np.float64) * gain
    wanted = pyloudnorm.Meter(SAMPLE_RATE).integrated_loudness(samples)
    assert heard(samples).integrated == pytest.approx(wanted, abs=0.1)


def test_noise_in_bursts_agrees_with_pyloudnorm():
    r = np.random.default_rng(8)
    samples = np.concatenate(
        [
            r.standard_normal((int(s * SAMPLE_RATE), 2)) * g
            for s, g in ((3, 0.1), (4, 0.001), (2, 0.3), (5, 0.02))
        ]
    )
    assert heard(samples).integrated == pytest.approx(
        pyloudnorm.Meter(SAMPLE_RATE).integrated_loudness(samples), abs=0.1
    )


@given(st.lists(st.integers(1, 9000), min_size=1, max_size=12), st.integers(0, 2**31))
@settings(max_examples=25)
def test_in_pieces_equals_the_whole(sizes, seed):
    samples = np.random.default_rng(seed).standard_normal((sum(sizes) + 20_000, 2)) * 0.1
    whole, pieces, at = Loudness(), Loudness(), 0
    whole.push(samples)
    for size in [*sizes, 20_000]:
        pieces.push(samples[at : at + size])
        at += size
    np.testing.assert_allclose(pieces.steps, whole.steps, rtol=1e-9)
    assert (pieces.heard, pieces.momentary_max, pieces.integrated) == (
        whole.heard,
        pytest.approx(whole.momentary_max),
        pytest.approx(whole.integrated),
    )


def test_silence_is_no_number_that_could_break_a_meter():
    loudness = heard(np.zeros((4 * SAMPLE_RATE, 2)))
    assert loudness.integrated == loudness.short_term == -120.0

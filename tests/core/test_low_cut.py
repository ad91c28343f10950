"""The low cut against scipy's Butterworth, and following that leaves the hand alone."""

import numpy as np
import pytest
from scipy.signal import butter, sosfilt, sosfreqz

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.inputs.level import LevelSetting
from fulgura.core.show.commands.inputs import new_input
from fulgura.core.show.edits import apply
from fulgura.core.show.starter import starter_show
from fulgura.core.sound.gain import LevelControl
from fulgura.core.sound.listener import InputListener
from fulgura.core.sound.low_cut import LowCut, design

NOISE = np.random.default_rng(3).standard_normal((40 * BLOCK, 2)) * 0.1


@pytest.mark.parametrize(("slope", "order"), [("12 dB an octave", 2), ("24 dB an octave", 4)])
@pytest.mark.parametrize("hz", [20.0, 80.0, 200.0])
def test_blocks_go_through_the_same_filter_as_the_whole(slope, order, hz):
    """scipy.signal.butter and sosfilt over all at once; -3 dB at the edge, 12 or 24 dB an octave below."""
    cut = LowCut()
    blocks = [cut.run(NOISE[i : i + BLOCK], slope, hz) for i in range(0, len(NOISE), BLOCK)]
    sections = butter(order, hz, "highpass", fs=SAMPLE_RATE, output="sos")
    np.testing.assert_allclose(np.concatenate(blocks), sosfilt(sections, NOISE, axis=0), atol=1e-12)
    _, gain = sosfreqz(design(hz, slope), [hz / 8, hz / 4, hz], fs=SAMPLE_RATE)
    db = 20 * np.log10(np.abs(gain))
    assert db[2] == pytest.approx(-3.01, abs=0.01) and db[1] - db[0] == pytest.approx(6.02 * order, abs=0.3)


def test_off_costs_nothing_and_what_is_no_number_does_not_stay():
    cut = LowCut()
    assert cut.run(NOISE[:BLOCK], "off", 80.0) is not NOISE and (cut.run(NOISE, "off", 80.0) is NOISE)
    broken = NOISE[:BLOCK].copy()
    broken[3] = np.nan
    cut.run(broken, "24 dB an octave", 80.0)
    assert np.isfinite(cut.run(NOISE[:BLOCK], "24 dB an octave", 80.0)).all()


def test_an_input_hears_a_rumble_no_more():
    show = starter_show("Night")
    rumble = 0.5 * np.sin(2 * np.pi * 40 * np.arange(SAMPLE_RATE) / SAMPLE_RATE)[:, None]
    levels = []
    for level in (LevelSetting(), LevelSetting(low_cut="24 dB an octave", low_cut_hz=160.0)):
        listener = InputListener()
        listener.configure(show, show.input.model_copy(update={"level": level}))
        for at in range(0, len(rumble) - BLOCK, BLOCK):
            listener.hear(rumble[at : at + BLOCK])
        levels.append(listener.close().values["band-low"])
    assert levels[1] < 0.02 * levels[0]


def follow(control, seconds, loudness_of):
    """Loudness as it is measured after the gain: momentary at once, short-term over three seconds."""
    past = []
    for _ in range(int(seconds * 10)):
        momentary = loudness_of + control.gain_db + control.followed_db
        past = [*past, momentary][-30:]
        power = np.mean([10 ** (lufs / 10) for lufs in past])
        control.follow(momentary, 10 * np.log10(power), 0.1)
    return control.followed_db


def test_following_leaves_the_hand_alone():
    """A turn of 9 dB by hand stays; what is followed is the sound before it."""
    control = LevelControl(LevelSetting(follow=True, target_lufs=-16.0))
    before = follow(control, 60, -24.0)
    assert before == pytest.approx(8.0, abs=0.8)
    for turn in (9.0, -9.0, 0.0):
        control.gain_db = turn
        assert follow(control, 30, -24.0) == pytest.approx(before, abs=0.6)
    assert follow(control, 60, -20.0) == pytest.approx(4.0, abs=0.8)


def test_new_live_inputs_are_followed():
    edit, input_id = new_input(starter_show("Night"))
    show, _ = apply(starter_show("Night"), edit)
    assert show.inputs[-1].id == input_id and show.inputs[-1].level.follow and not show.input.level.follow


def test_the_peak_of_an_input_and_of_a_band_is_a_signal():
    show = starter_show("Night")
    listener = InputListener()
    listener.configure(show, show.input)
    sound = np.zeros((SAMPLE_RATE // 2 // BLOCK * BLOCK, 1))
    sound[:, 0] = 0.4 * np.sin(2 * np.pi * 70 * np.arange(len(sound)) / SAMPLE_RATE)
    for at in range(0, len(sound), BLOCK):
        if at == len(sound) - 4 * BLOCK:
            listener.close()
        listener.hear(sound[at : at + BLOCK])
    values = listener.close().values
    assert values["peak"] == pytest.approx(0.4, rel=0.02)
    assert values["peak-low"] == pytest.approx(0.4, rel=0.05) and values["peak-high"] < 0.01

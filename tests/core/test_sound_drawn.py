"""Which sound a drawing shows: windows, spectra and their past, against scipy and in pixels."""

import numpy as np
import pytest
from scipy import signal as scipy_signal

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds import ring
from fulgura.core.kinds.heard_sound import KEPT, HeardSound, strided, window_of
from fulgura.core.kinds.providers import TickInput
from fulgura.core.kinds.sources.history import History, Rows
from fulgura.core.kinds.sources.spectrum import Bars, Spectrum
from fulgura.core.kinds.spectra import decibels, edges, points_of
from fulgura.core.show.migrate import migrate
from fulgura.core.show.part import Part
from tests.core.drawing import Drawn


def heard(mono):
    sound = HeardSound()
    for at in range(0, len(mono) - BLOCK + 1, BLOCK):
        sound.push(np.repeat(mono[at : at + BLOCK, None], 2, axis=1))
    return sound


def tone(hz, seconds=1.0, level=1.0):
    return level * np.sin(2 * np.pi * hz * np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE)


def noises():
    """(white, pink) noise, a minute each; pink: white through a filter whose power falls with frequency."""
    rng = np.random.default_rng(3)
    white = rng.standard_normal(20 * SAMPLE_RATE) * 0.1
    spectrum = np.fft.rfft(white)
    hz = np.fft.rfftfreq(len(white), 1 / SAMPLE_RATE)
    pink = np.fft.irfft(spectrum / np.sqrt(np.maximum(hz, 5.0) / 1000.0), len(white))
    return white, pink


def mean_level(mono, count=32, **more):
    """Mean power of each bin over many moments, in dB."""
    sound, total, moments = HeardSound(), np.zeros(count), 0
    given = {"low_hz": 60.0, "high_hz": 12_000.0, "scale": 0, "window_ms": 85.0, "mean": True} | more
    for at in range(0, len(mono) - 2048, 2048):
        sound.push(np.repeat(mono[at : at + 2048, None], 2, axis=1))
        if at > SAMPLE_RATE:
            total += 10.0 ** (decibels(sound, count, **given) / 10.0)
            moments += 1
    return 10.0 * np.log10(total / moments)


def test_the_newest_seconds_are_kept_and_older_ones_go():
    sound = HeardSound()
    ramp = np.arange(KEPT + 5 * BLOCK, dtype=float)
    for at in range(0, len(ramp), BLOCK):
        sound.push(np.repeat(ramp[at : at + BLOCK, None], 2, axis=1))
    assert sound.newest(1000)[:, 0].tolist() == ramp[-1000:].tolist()
    assert sound.newest(KEPT + 99)[0, 0] == ramp[-KEPT]


@pytest.mark.parametrize("ms", [5.0, 10.67, 100.0, 10_000.0])
def test_a_window_of_any_length_keeps_its_peaks(ms):
    """One click within the window is there at its height, wherever it fell."""
    mono = np.zeros(2000 * BLOCK)
    mono[-int(ms / 2000 * SAMPLE_RATE)] = -0.9
    points = window_of(heard(mono), ms, 512)
    assert points.shape == (512, 2)
    assert np.abs(points).max() == pytest.approx(0.9, abs=0.45 if ms < 10 else 1e-9)
    assert abs(int(np.argmax(np.abs(points[:, 0]))) - 256) <= 2


def test_a_window_longer_than_what_was_heard_begins_in_silence():
    points = window_of(heard(tone(100.0, 0.5)), 10_000.0, 512)
    assert np.abs(points[:480]).max() == 0.0 and np.abs(points[-20:]).max() > 0.9
    assert strided(heard(tone(100.0, 0.5)), 10_000.0, 1024).shape == (1024, 2)


def test_bins_lie_by_octaves_evenly_or_in_mel():
    by_octaves = edges(8, 62.5, 16_000.0, 0)
    assert by_octaves[1:] / by_octaves[:-1] == pytest.approx(2.0)
    assert np.diff(edges(10, 0.0, 1000.0, 1)) == pytest.approx(100.0)
    # 1000 Hz is about 1000 mel by that formula (O'Shaughnessy): 999.99.
    mel = 2595.0 * np.log10(1.0 + edges(20, 20.0, 8000.0, 2) / 700.0)
    assert np.diff(mel) == pytest.approx(np.diff(mel)[0])
    assert 2595.0 * np.log10(1.0 + 1000.0 / 700.0) == pytest.approx(1000.0, abs=0.1)


@pytest.mark.parametrize("hz", [80.0, 1000.0, 9000.0])
@pytest.mark.parametrize("scale", [0, 1, 2])
def test_a_full_scale_tone_reads_nought_decibels_in_its_own_bin(hz, scale):
    level = decibels(heard(tone(hz)), 64, 30.0, 16_000.0, scale, 170.0)
    at = int(np.searchsorted(edges(64, 30.0, 16_000.0, scale), hz)) - 1
    assert abs(int(np.argmax(level)) - at) <= (1 if hz > 100 else 2)
    assert level.max() == pytest.approx(0.0, abs=1.5)


def test_pink_noise_is_flat_when_tilted_by_three_decibels_an_octave():
    """Within 1 dB; and white noise is flat as it is. Its mean power is scipy's own (Welch's method)."""
    white, pink = noises()
    flat = mean_level(pink, tilt_db=3.0103)
    assert np.ptp(flat) < 1.0
    plain = mean_level(white)
    assert np.ptp(plain) < 1.0
    hz, density = scipy_signal.welch(white, SAMPLE_RATE, nperseg=4096, scaling="spectrum")
    wanted = 10 * np.log10(density[(hz > 60) & (hz < 12_000)].mean() * 2)
    assert plain.mean() == pytest.approx(wanted, abs=0.5)
    slope = np.polyfit(np.log2(edges(32, 60.0, 12_000.0, 0)[:-1]), mean_level(pink), 1)[0]
    assert slope == pytest.approx(-3.01, abs=0.1)


def test_a_transform_is_about_as_long_as_the_window():
    assert [points_of(ms) for ms in (5.0, 42.7, 85.0, 10_000.0)] == [256, 2048, 4096, 32_768]


def values(kind, **more):
    given, found = kind(**more), {}
    for parameter in given.parameters():
        value = getattr(given, parameter.name)
        found[parameter.name] = float(parameter.choices.index(value)) if parameter.type == "choice" else value
    return found


def test_levels_go_from_the_floor_to_the_ceiling_in_their_own_time():
    loud, given = heard(tone(1000.0, level=0.1)), {"count": 8.0, "fall": 1.0, "attack": 100.0}
    chosen = values(Spectrum, floor=-40.0, ceiling=0.0, **given)
    bars = Bars(1)
    rising = [bars.step(chosen, TickInput(sounds={"": loud})).max() / 255.0 for _ in range(12)]
    # -20 dB is half of the way; a whole rise takes 100 ms: six ticks.
    assert rising[0] == pytest.approx(1 / 6, abs=0.01) and rising[-1] == pytest.approx(0.5, abs=0.02)
    falling = [bars.step(chosen, TickInput(sounds={"": HeardSound()})).max() / 255.0 for _ in range(12)]
    assert falling[0] - falling[-1] == pytest.approx(11 / 60, abs=0.01)


def test_a_drawing_shows_the_input_that_it_names():
    sounds = {"main": heard(tone(100.0)), "voice": heard(tone(4000.0))}
    which = {}
    for name in ("", "voice", "gone"):
        chosen = values(Spectrum, input=name, count=16.0, fall=0.0)
        which[name] = int(np.argmax(Bars(1).step(chosen, TickInput(sounds=sounds, input="main"))))
    assert which[""] == which["gone"] < 5 and which["voice"] > 9


def test_what_is_beyond_both_ends_of_the_range_is_not_shown():
    chosen = values(Spectrum, low_hz=500.0, high_hz=2000.0, count=16.0, fall=0.0, floor=-60.0)
    for hz, seen in ((1000.0, True), (100.0, False), (9000.0, False)):
        assert (Bars(1).step(chosen, TickInput(sounds={"": heard(tone(hz))})).max() > 128) == seen, hz


def test_of_a_history_only_new_rows_go_on_the_wire():
    """1,024 bins by 2,048 rows: a row costs no more than 1.5 kB."""
    rows, chosen = Rows(1), values(History, bins=1024.0, span=2048.0)
    blocks = [rows.step(chosen, TickInput(sounds={"": heard(tone(1000.0))})) for _ in range(5)]
    assert all(len(block) <= 1536 for block in blocks)
    read = [ring.read(block) for block in blocks]
    assert [each.number for each in read] == [2, 3, 4, 5, 6]
    assert all(each.lines.shape == (1, 1024) for each in read)
    fast = Rows(1)
    block = ring.read(fast.step(values(History, bins=64.0, speed=5.0), TickInput()))
    assert block.lines.shape == (5, 64) and block.number == 6


def draw_history(sound, frames, size=(320, 180), **more):
    given = {"goes": "up", "span": 180.0, "fades": 0.0, "floor": -50.0, "curve": 1.0} | more
    drawn = Drawn(Part(id="past", kind="history", values=given), size=size)
    drawn.go(frames, sound)
    light = drawn.go(1, sound).astype(float)
    drawn.close()
    return light


def test_a_tone_is_one_narrow_column():
    """Under 3 % of the width; one below the range draws nothing."""
    light = draw_history(tone(1000.0, 4.0), 150, size=(640, 180), span=60.0, bins=1024.0, window=85.0)
    columns = np.flatnonzero((light > 30).any(axis=0))
    assert 0 < np.ptp(columns) + 1 < 0.03 * 640
    assert draw_history(tone(80.0, 4.0), 150, span=60.0, low_hz=300.0).max() < 10


def test_rows_stand_as_many_places_away_as_frames_have_gone():
    """A click, 60 frames ago: 60 rows away, on the pixel."""
    drawn = Drawn(
        Part(
            id="past",
            kind="history",
            values={"goes": "up", "span": 180.0, "fades": 0.0, "floor": -60.0, "window": 10.0},
        ),
        size=(320, 180),
    )
    silence = np.zeros(SAMPLE_RATE)
    drawn.go(5, silence)
    rng = np.random.default_rng(1)
    drawn.go(1, 0.5 * rng.standard_normal(SAMPLE_RATE))
    places = []
    for _ in range(2):
        light = drawn.go(60, silence)
        places.append(np.flatnonzero(light.max(axis=1) > 60).mean())
    drawn.close()
    # Up is the past: the picture's rows are counted from the top.
    assert places[0] - places[1] == pytest.approx(60.0, abs=1.0)


def test_lines_that_an_executor_missed_are_as_the_next():
    """Every third frame drawn: no dark line between."""
    drawn = Drawn(
        Part(id="past", kind="history", values={"span": 60.0, "floor": -60.0, "fades": 0.0}), size=(64, 60)
    )
    drawn.go(20, tone(1000.0, 2.0))
    sound = tone(1000.0, 4.0)
    for tick in range(60):
        for at in range(3):
            drawn.performer.hear(sound[(tick * 3 + at) * BLOCK :][:BLOCK])
        packet = drawn.performer.packet(drawn.performer.tick())
        if tick % 3 == 0:
            drawn.executor.draw(packet)
    column = drawn.executor.pixels().max(axis=2)[:, :].max(axis=1)
    drawn.close()
    assert column.min() > 60


def test_bars_grow_from_the_middle_or_from_an_edge():
    middles = {}
    for grows in ("from the middle", "upward", "downward"):
        given = {"grows": grows, "mirrored": False, "height": 1.0, "floor": -60.0, "count": 8.0}
        drawn = Drawn(Part(id="bars", kind="spectrum", values=given), size=(320, 180))
        light = drawn.go(30, tone(1000.0, 2.0, 0.1))
        rows = np.flatnonzero((light > 60).any(axis=1))
        middles[grows] = (rows.min(), rows.max())
        drawn.close()
    assert sum(middles["from the middle"]) / 2 == pytest.approx(90, abs=2)
    assert middles["upward"][1] == pytest.approx(135, abs=3) and middles["downward"][0] == pytest.approx(
        45, abs=3
    )


def test_shares_of_before_become_decibels():
    old = {"id": "quay", "kind": "spectrum", "values": {"floor": 0.35, "mirrored": False}}
    show = {
        "looks": [{"id": "a", "layers": [{"id": "b", "source": old}]}],
        "routes": [{"id": "r", "targets": ["quay.floor"], "low": 0.0, "high": 0.5}],
    }
    now = migrate(show)
    assert now["looks"][0]["layers"][0]["source"]["values"] == {
        "floor": -58.5,
        "mirrored": False,
        "grows": "upward",
    }
    assert (now["routes"][0]["low"], now["routes"][0]["high"]) == (-90.0, -45.0)
    assert migrate(now) == now

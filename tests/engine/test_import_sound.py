"""Taking a sound file into the library."""

import json

import numpy as np
import pytest
import soundfile

from fulgura.core.clock import SAMPLE_RATE
from fulgura.demo.tracks import lamp_room
from fulgura.media.import_sound import MOST_COLUMNS, import_sound, thinned
from fulgura.media.sound_file import AudioFileError


def test_whatever_it_was_it_becomes_48_khz_stereo_with_outline_and_tempo(tmp_path):
    source, target = tmp_path / "in.ogg", tmp_path / "in-library.flac"
    sound = lamp_room().finished()[: 40 * SAMPLE_RATE]
    soundfile.write(source, sound[::2].mean(axis=1), SAMPLE_RATE // 2)
    found = import_sound(source, target)
    with soundfile.SoundFile(target) as file:
        assert (file.samplerate, file.channels, file.format) == (SAMPLE_RATE, 2, "FLAC")
        assert file.frames == pytest.approx(len(sound), abs=200)
    assert found["seconds"] == pytest.approx(40.0, abs=0.01) and found["bpm"] == pytest.approx(124, abs=1)
    outline = json.loads(target.with_suffix(".wave.json").read_text())
    assert (
        outline["seconds"] == found["seconds"]
        and 0.5 < max(outline["peaks"]) <= 1.0
        and len(outline["peaks"]) <= MOST_COLUMNS
    )


def test_without_a_beat_there_is_no_tempo(tmp_path):
    source = tmp_path / "hiss.wav"
    soundfile.write(
        source, np.random.default_rng(1).standard_normal((20 * SAMPLE_RATE, 2)) * 0.1, SAMPLE_RATE
    )
    assert import_sound(source, tmp_path / "hiss.flac")["bpm"] is None


@pytest.mark.parametrize("content", [b"", b"RIFF", b"not a sound at all" * 100])
def test_what_is_no_sound_leaves_nothing_behind(tmp_path, content):
    source, folder = tmp_path / "in.wav", tmp_path / "library"
    source.write_bytes(content)
    folder.mkdir()
    with pytest.raises(AudioFileError):
        import_sound(source, folder / "out.flac")
    assert list(folder.iterdir()) == []


def test_damaged_samples_are_brought_within_full_scale(tmp_path):
    source = tmp_path / "wild.wav"
    sound = np.full((SAMPLE_RATE, 2), 0.1, dtype=np.float32)
    sound[100], sound[200], sound[300] = np.nan, np.inf, 40.0
    soundfile.write(source, sound, SAMPLE_RATE, subtype="FLOAT")
    import_sound(source, tmp_path / "wild.flac")
    kept, _ = soundfile.read(tmp_path / "wild.flac")
    assert np.isfinite(kept).all() and np.abs(kept).max() <= 1.0


def test_an_outline_keeps_its_peaks_however_long_the_track():
    peaks = [0.1] * 50_000
    peaks[31_337] = 0.9
    short = thinned(peaks)
    assert len(short) == MOST_COLUMNS and max(short) == 0.9 and min(short) == 0.1

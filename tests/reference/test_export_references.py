"""Exports read by other programs' libraries: JAMS by its own package, MIDI by mido."""

import io
import json

import jams
import mido
import pytest

from fulgura.core.sound.exports import FORMATS
from fulgura.demo.tracks import lamp_room
from fulgura.engine.analyze import analyze


@pytest.fixture(scope="module")
def heard(tmp_path_factory):
    import soundfile

    file = tmp_path_factory.mktemp("export") / "lamp-room.wav"
    soundfile.write(file, lamp_room().finished()[: 48_000 * 20], 48_000)
    return analyze(file)


def test_jams_validates_against_its_schema(heard):
    """jams 0.3.5 (E. J. Humphrey et al., ISMIR 2014), strict: the file's schema and that of every
    namespace.
    """
    read = jams.load(io.StringIO(FORMATS[".jams"](heard)), validate=True, strict=True)
    assert [annotation.namespace for annotation in read.annotations] == [
        "beat",
        "tempo",
        "onset",
        "onset",
        "onset",
    ]
    beats = read.annotations[0].data
    assert [row.time for row in beats] == pytest.approx([beat["t"] for beat in heard["beats"]])
    assert read.file_metadata.duration == pytest.approx(20.0)
    assert len(json.loads(FORMATS[".jams"](heard))["annotations"]) == 5


def test_midi_times_are_the_hits_times(heard):
    """Standard MIDI File as mido reads it; General MIDI's bass drum 1 is note 36."""
    file, now, kicks = mido.MidiFile(file=io.BytesIO(FORMATS[".mid"](heard))), 0.0, []
    for message in file:
        now += message.time
        if message.type == "note_on" and message.note == 36 and message.velocity:
            kicks.append(now)
    assert kicks == pytest.approx([hit["t"] for hit in heard["hits"]["kick"]], abs=0.001)

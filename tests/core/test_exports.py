"""An analysis written down in open formats, and read back by what others read them with."""

import csv
import io
import json

import mido
import numpy as np
import pytest
import soundfile
from typer.testing import CliRunner

from fulgura.cli import app
from fulgura.core.sound import exports

RESULT = {
    "duration_s": 4.0,
    "loudness": {"integrated_lufs": -14.0},
    "level": {"rms_dbfs": -12.0},
    "beats": [{"t": 0.5, "at": 0.45, "bar_position": 1}, {"t": 1.0, "at": 0.95, "bar_position": 2}],
    "tempo": [{"t": 0.5, "bpm": 120.0, "confidence": 0.4}, {"t": 1.0, "bpm": 121.0, "confidence": 0.9}],
    "hits": {
        "kick": [{"t": 0.5, "at": 0.51, "strength": 1.0}],
        "snare": [{"t": 1.0, "at": 1.01, "strength": 0.5}],
        "hat": [],
        "bell-hits": [{"t": 0.7, "at": 0.7, "strength": 1.0}],
    },
}


def test_jams_has_the_layout_of_its_schema():
    whole = json.loads(exports.jams(RESULT))
    assert whole["file_metadata"]["duration"] == 4.0
    assert {a["namespace"] for a in whole["annotations"]} == {"beat", "tempo", "onset"}
    for annotation in whole["annotations"]:
        for row in annotation["data"]:
            assert row.keys() == {"time", "duration", "value", "confidence"}
    beats = next(a for a in whole["annotations"] if a["namespace"] == "beat")
    assert [(row["time"], row["value"]) for row in beats["data"]] == [(0.5, 1), (1.0, 2)]


def test_csv_is_in_order_of_time():
    rows = list(csv.DictReader(io.StringIO(exports.table(RESULT))))
    assert [float(row["time_s"]) for row in rows] == sorted(float(row["time_s"]) for row in rows)
    assert len(rows) == 5 and rows[0].keys() == {"time_s", "event", "value"}


def test_labels_are_tab_separated_and_name_the_one():
    lines = [line.split("\t") for line in exports.labels(RESULT).splitlines()]
    assert all(len(line) == 3 and float(line[0]) == float(line[1]) for line in lines)
    assert ["0.500000", "0.500000", "one"] in lines


def test_midi_plays_each_thing_at_its_time():
    file = mido.MidiFile(file=io.BytesIO(exports.midi(RESULT)))
    assert file.type == 1 and len(file.tracks) == 3
    now, played = 0.0, []
    for message in file:
        now += message.time
        if message.type == "note_on":
            played.append((round(now, 3), message.note, message.velocity))
    assert (0.5, 36, 127) in played and (1.0, 38, 64) in played
    assert (0.5, exports.ONE_NOTE, 100) in played and (1.0, exports.BEAT_NOTE, 100) in played


def test_the_command_writes_each_format_and_refuses_others(tmp_path):
    sound = tmp_path / "noise.wav"
    soundfile.write(sound, np.random.default_rng(1).standard_normal(48_000) * 0.1, 48_000)
    names = [str(tmp_path / f"out{ending}") for ending in exports.FORMATS]
    done = CliRunner().invoke(
        app, ["analyze", str(sound), *[word for name in names for word in ("--export", name)]]
    )
    assert done.exit_code == 0, done.output
    assert all((tmp_path / f"out{ending}").stat().st_size > 10 for ending in exports.FORMATS)
    assert (
        CliRunner().invoke(app, ["analyze", str(sound), "--export", str(tmp_path / "out.doc")]).exit_code != 0
    )


@pytest.mark.parametrize("write", exports.FORMATS.values())
def test_an_empty_analysis_can_be_written_too(write):
    made = write({**RESULT, "beats": [], "tempo": [], "hits": {}})
    assert made or write is exports.labels

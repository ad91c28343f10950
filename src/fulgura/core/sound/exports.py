"""An analysis in open formats: JAMS (JSON), CSV, Standard MIDI File, and labels as tab-separated text.

JAMS: E. J. Humphrey et al., "JAMS: A JSON Annotated Music Specification for Reproducible MIR Research", ISMIR
2014; namespaces beat, onset and tempo of its schema. MIDI: the drum notes of the General MIDI percussion map.
"""

import csv
import io
import json
from collections.abc import Callable
from typing import Any

import mido

from fulgura import VERSION

NOTES = {"kick": 36, "snare": 38, "hat": 42}
"""General MIDI percussion: bass drum 1, acoustic snare, closed hi-hat."""
BEAT_NOTE, ONE_NOTE = 33, 34
"""General MIDI 2 percussion: metronome click, metronome bell for the first beat of a bar."""
TICKS_A_BEAT = 960
MIDI_BPM = 120.0
"""Times are seconds, so the file's tempo is fixed: 1920 ticks a second."""


def jams(result: dict[str, Any]) -> str:
    """A result of ``analyze`` as JAMS: one annotation of beats, one of tempi, one of onsets for each drum."""

    def annotation(namespace: str, rows: list[dict[str, Any]], about: str) -> dict[str, Any]:
        return {
            "namespace": namespace,
            "data": rows,
            "sandbox": {"listens_to": about},
            "time": 0.0,
            "duration": result["duration_s"],
            "annotation_metadata": {
                "curator": {"name": "", "email": ""},
                "annotator": {},
                "version": VERSION,
                "corpus": "",
                "validation": "",
                "data_source": "program",
                "annotation_tools": "Fulgura",
                "annotation_rules": "heard causally, without look-ahead",
            },
        }

    def row(t: float, value: object, confidence: float | None = None) -> dict[str, Any]:
        return {"time": t, "duration": 0.0, "value": value, "confidence": confidence}

    whole = {
        "annotations": [
            annotation("beat", [row(b["t"], b["bar_position"]) for b in result["beats"]], "beats"),
            annotation("tempo", _tempi(result), "tempo"),
            *(
                annotation("onset", [row(h["t"], 1.0, h["strength"]) for h in hits], name)
                for name, hits in result["hits"].items()
            ),
        ],
        "file_metadata": {
            "title": "",
            "artist": "",
            "release": "",
            "duration": result["duration_s"],
            "identifiers": {},
            "jams_version": "0.3.4",
        },
        "sandbox": {"loudness": result["loudness"], "level": result["level"]},
    }
    return json.dumps(whole, indent=1)


def _tempi(result: dict[str, Any]) -> list[dict[str, Any]]:
    """Half-second stretches of tempo, each with its confidence."""
    rows, start = [], 0.0
    for point in result["tempo"]:
        rows.append(
            {
                "time": round(start, 4),
                "duration": round(point["t"] - start, 4),
                "value": point["bpm"],
                "confidence": point["confidence"],
            }
        )
        start = point["t"]
    return rows


def events(result: dict[str, Any]) -> list[tuple[float, str, float]]:
    """(time in s, what, strength or bar position) of everything that happened, in order."""
    found = [(b["t"], "beat", float(b["bar_position"])) for b in result["beats"]]
    found += [(h["t"], name, h["strength"]) for name, hits in result["hits"].items() for h in hits]
    return sorted(found)


def table(result: dict[str, Any]) -> str:
    """CSV (RFC 4180) with a header: time_s, event, value."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["time_s", "event", "value"])
    writer.writerows((f"{t:.4f}", what, f"{value:g}") for t, what, value in events(result))
    return out.getvalue()


def labels(result: dict[str, Any]) -> str:
    """Start, end and name, separated by tabs: what sound editors read as a label track."""
    return "".join(
        f"{t:.6f}\t{t:.6f}\t{'one' if what == 'beat' and value == 1 else what}\n"
        for t, what, value in events(result)
    )


def midi(result: dict[str, Any]) -> bytes:
    """A Standard MIDI File, format 1: a track of beats, and one of hits on the percussion channel."""
    file = mido.MidiFile(type=1, ticks_per_beat=TICKS_A_BEAT)
    head = mido.MidiTrack(
        [mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(MIDI_BPM)), mido.MetaMessage("end_of_track")]
    )
    beats = [(b["t"], ONE_NOTE if b["bar_position"] == 1 else BEAT_NOTE, 100) for b in result["beats"]]
    hits = [
        (h["t"], NOTES[name], max(1, round(127 * h["strength"])))
        for name, rows in result["hits"].items()
        if name in NOTES
        for h in rows
    ]
    file.tracks += [head, _notes("Beats", beats), _notes("Hits", hits)]
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def _notes(name: str, notes: list[tuple[float, int, int]]) -> mido.MidiTrack:
    """Short notes at (time in s, note, velocity)."""
    moments = [
        (round(t * TICKS_A_BEAT * MIDI_BPM / 60), mido.Message("note_on", channel=9, note=n, velocity=v))
        for t, n, v in notes
    ]
    moments += [
        (round((t + 0.05) * TICKS_A_BEAT * MIDI_BPM / 60), mido.Message("note_off", channel=9, note=n))
        for t, n, _ in notes
    ]
    track, now = mido.MidiTrack([mido.MetaMessage("track_name", name=name)]), 0
    for tick, message in sorted(moments, key=lambda row: row[0]):
        track.append(message.copy(time=tick - now))
        now = tick
    track.append(mido.MetaMessage("end_of_track"))
    return track


FORMATS: dict[str, Callable[[dict[str, Any]], str | bytes]] = {
    ".jams": jams,
    ".csv": table,
    ".mid": midi,
    ".txt": labels,
}
"""File ending -> what writes it."""

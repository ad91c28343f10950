"""Uploads: taken in, listed, drawn, played, removed; refused in plain words, with nothing left behind."""

import io
import socket
import time

import numpy as np
import pytest
import soundfile

from fulgura.core.wire import BlockId
from harness.stack import live, wait_for


def sound(seconds: float = 6.0, format: str = "WAV") -> bytes:
    out = io.BytesIO()
    tone = np.sin(2 * np.pi * 440 * np.arange(int(seconds * 44_100)) / 44_100) * 0.5
    soundfile.write(out, tone, 44_100, format=format)
    return out.getvalue()


def left_behind(stack) -> list[str]:
    return [
        file.name
        for file in stack.folders.tracks.iterdir()
        if "incoming" in file.name or file.suffix in (".new", ".part")
    ]


@pytest.mark.parametrize("format", ["WAV", "FLAC", "OGG", "MP3"])
def test_a_file_is_taken_in_listed_drawn_and_removed(demo, format):
    status, track = demo.call("POST", "/tracks?title=Harbour%20Bells", sound(format=format))
    assert (
        status == 201
        and track["id"].startswith("harbour-bells")
        and track["seconds"] == pytest.approx(6.0, abs=0.1)
    )
    assert track["id"] in {row["id"] for row in demo.call("GET", "/tracks")[1]}
    outline = demo.call("GET", f"/tracks/{track['id']}/waveform")[1]
    assert max(outline["peaks"]) == pytest.approx(0.5, abs=0.05)
    assert demo.call("DELETE", f"/tracks/{track['id']}")[0] == 204
    assert demo.call("GET", f"/tracks/{track['id']}/waveform")[0] == 404 and left_behind(demo) == []


def test_two_tracks_of_one_title_are_two(demo):
    ids = [demo.call("POST", "/tracks?title=Tide", sound(1.0))[1]["id"] for _ in range(2)]
    assert ids == ["tide", "tide-2"]
    for made_id in ids:
        demo.call("DELETE", f"/tracks/{made_id}")


@pytest.mark.parametrize(
    ("body", "words"),
    [(b"", "empty"), (b"GIF89a nothing to hear", "cannot be read as sound"), (sound()[:2000], "")],
)
def test_what_cannot_be_played_is_refused_or_taken_as_far_as_it_goes(demo, body, words):
    before = {row["id"] for row in demo.call("GET", "/tracks")[1]}
    status, problem = demo.call("POST", "/tracks?title=Broken", body)
    if words:
        assert status == 422 and words in problem["detail"] + problem["title"]
        assert {row["id"] for row in demo.call("GET", "/tracks")[1]} == before
    else:
        # A file that was cut off still has sound: what is there can be played.
        assert status == 201 and problem["seconds"] < 1.0
        demo.call("DELETE", f"/tracks/{problem['id']}")
    assert left_behind(demo) == []


def test_an_upload_that_is_broken_off_leaves_nothing(demo):
    with socket.create_connection(("127.0.0.1", demo.port)) as wire:
        wire.sendall(
            f"POST /api/v1/tracks?title=Half HTTP/1.1\r\nHost: 127.0.0.1:{demo.port}\r\nContent-Length:"
            " 9000000\r\n\r\n".encode()
            + b"x" * 200_000
        )
        wait_for(lambda: left_behind(demo), 5, "the beginning of the upload")
    wait_for(lambda: left_behind(demo) == [], 5, "cleaning up")


def test_an_uploaded_track_plays_and_its_stretch_loops(demo):
    track = demo.call("POST", "/tracks?title=Tone", sound(8.0))[1]["id"]
    demo.set("/inputs/main/track/track", track)
    wait_for(lambda: live(demo, 0.2, [BlockId.STATUS])[0][-1].blocks[BlockId.STATUS][0] > -8, 10, "its sound")
    demo.set("/inputs/main/track/loop_to_s", 3.0)
    demo.set("/inputs/main/track/loop_from_s", 2.0)
    demo.call("POST", "/transport/seek", {"seconds": 2.0})
    time.sleep(1.5)
    places = [
        row["data"]["inputs"]["main"]["position_s"]
        for row in live(demo, 2.5, [])[1]
        if row["type"] == "state"
    ]
    assert len(places) > 5 and all(1.9 <= at <= 3.1 for at in places)
    assert demo.call("DELETE", f"/tracks/{track}")[0] == 409  # It is in use.
    demo.set("/inputs/main/track/track", "lamp-room")
    assert demo.call("DELETE", f"/tracks/{track}")[0] == 204


def test_unknown_tracks_are_named(demo):
    for method, path in (
        ("DELETE", "/tracks/none"),
        ("GET", "/tracks/none/waveform"),
        ("GET", "/tracks/..%2f..%2fx/waveform"),
    ):
        assert demo.call(method, path)[0] == 404

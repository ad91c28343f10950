"""Several inputs through the API; and a device of the machine, through the real PortAudio and ALSA."""

import io
import os
import threading
import time

import httpx
import numpy as np
import pytest
from websockets.sync.client import connect

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.wire import BlockId
from harness.measuring import once_good
from harness.stack import live, start_stack, told, wait_for

ALSA = """</usr/share/alsa/alsa.conf>
pcm.gallery-box {{
  type file
  slave.pcm {{ type null }}
  file /dev/null
  infile "{fifo}"
  format "raw"
}}
"""


class StageBox:
    """A simulated sound device: what it plays comes out of a device that ALSA knows. It can be unplugged."""

    def __init__(self, fifo) -> None:
        os.mkfifo(fifo)
        # Opened both ways, so that neither end ever waits for the other.
        self.pipe = io.FileIO(os.open(fifo, os.O_RDWR | os.O_NONBLOCK), "r+")
        self.plugged = threading.Event()
        self.plugged.set()
        self.stop = False
        threading.Thread(target=self._play, daemon=True).start()

    def _play(self) -> None:
        start, sent = time.monotonic(), 0
        while not self.stop:
            t = (sent + np.arange(BLOCK)) / SAMPLE_RATE
            tone = np.sin(2 * np.pi * 440 * t) * 0.5
            if self.plugged.is_set():
                self.pipe.write(np.stack([tone, tone / 4], axis=1).astype("<f4").tobytes())
            sent += BLOCK
            time.sleep(max(0.0, start + sent / SAMPLE_RATE - time.monotonic()))


@pytest.fixture(scope="module")
def gallery(tmp_path_factory):
    """(a stack of its own on a machine with one sound device, the device)."""
    folder = tmp_path_factory.mktemp("gallery")
    box = StageBox(folder / "fifo")
    (folder / "asound.conf").write_text(ALSA.format(fifo=folder / "fifo"))
    before = os.environ.get("ALSA_CONFIG_PATH")
    os.environ["ALSA_CONFIG_PATH"] = str(folder / "asound.conf")
    try:
        started = start_stack(folder / "data")
    finally:
        os.environ.pop("ALSA_CONFIG_PATH") if before is None else os.environ.update(ALSA_CONFIG_PATH=before)
    yield started, box
    box.stop = True
    started.stop()


def said(stack) -> str:
    """What is said to be wrong with the main input."""
    fault = told(stack)["inputs"]["main"]["fault"]
    return fault["text"] if fault else ""


def row(demo, index=0, count=17):
    return live(demo, 0.2, [BlockId.STATUS])[0][-1].blocks[BlockId.STATUS][
        index * count : (index + 1) * count
    ]


def test_a_device_of_the_machine_is_heard_and_taken_back_when_it_was_gone(gallery):
    stack, box = gallery
    status, found = stack.call("GET", "/devices")
    assert status == 200 and "gallery-box" in [device["name"] for device in found]
    stack.set("/inputs/main/device/device", "gallery-box")
    stack.set("/inputs/main/use", "device")
    wait_for(lambda: row(stack)[0] > -20, 10, "its sound")
    routes = stack.show()["document"]["routes"]
    box.plugged.clear()
    wait_for(
        lambda: "gallery-box is not there" in said(stack) and row(stack)[0] < -60, 10, "word of it, and rest"
    )
    box.plugged.set()
    wait_for(lambda: row(stack)[0] > -20 and not said(stack), 15, "its coming back")
    assert stack.show()["document"]["routes"] == routes
    assert stack.call("GET", "/health")[1]["engine"]


def test_the_right_channel_of_a_device_alone(gallery):
    stack, _ = gallery
    stack.set("/inputs/main/device/device", "gallery-box")
    stack.set("/inputs/main/use", "device")
    wait_for(lambda: row(stack)[0] > -20, 10, "its sound")
    stack.set("/inputs/main/device/left", 2)
    wait_for(lambda: row(stack)[0] == pytest.approx(20 * np.log10(0.125), abs=1.0), 10, "the quieter channel")


def test_a_device_that_never_was_is_named(gallery):
    stack, _ = gallery
    stack.set("/inputs/main/device/device", "Nobody's box")
    stack.set("/inputs/main/use", "device")
    wait_for(lambda: "Nobody's box is not there" in said(stack), 10, "its name")


def test_two_inputs_are_open_at_once_and_each_is_heard_alone(demo):
    status, made = demo.call("POST", "/inputs", {"name": "Voice"})
    input_id = made["id"]
    assert status == 201
    wait_for(lambda: input_id in told(demo)["inputs"], 5, "the input")
    wait_for(lambda: len(row(demo, 1)) == 17 and row(demo, 1)[0] < -80, 5, "its row")
    assert demo.call("POST", f"/bands/presets/Five?input={input_id}")[0] == 200
    tone = (np.sin(2 * np.pi * 100 * np.arange(SAMPLE_RATE) / SAMPLE_RATE) * 0.5).astype("<f4")
    with connect(
        f"ws://127.0.0.1:{demo.port}/api/v1/audio?input={input_id}&channels=1", origin=demo.url
    ) as socket:
        for start in range(0, len(tone), 480):
            socket.send(tone[start : start + 480].tobytes())
            time.sleep(0.01)
        packet = live(demo, 0.2, [BlockId.SIGNALS, BlockId.STATUS])[0][-1]
    names = [signal["id"] for signal in demo.call("GET", "/layout")[1]["layout"]["signals"]]
    values = dict(zip(names, packet.blocks[BlockId.SIGNALS]))
    assert values[f"band-bass-{input_id}"] > 0.3 > 0.05 > values[f"band-air-{input_id}"]
    assert values[f"level@{input_id}"] > 0.3
    assert demo.call("POST", f"/room?input={input_id}")[0] == 204
    wait_for(lambda: told(demo)["inputs"][input_id]["room"], 5, "the measure")
    assert demo.call("DELETE", f"/inputs/{input_id}")[0] == 200
    wait_for(lambda: input_id not in told(demo)["inputs"], 5, "its end")
    assert demo.call("DELETE", "/inputs/main")[0] == 422


def test_a_second_track_plays_beside_the_first_and_is_sought_alone(demo):
    input_id = demo.call("POST", "/inputs", {})[1]["id"]
    demo.set(f"/inputs/{input_id}/track/track", "fog-signal")
    demo.set(f"/inputs/{input_id}/use", "track")
    wait_for(lambda: told(demo)["inputs"][input_id].get("length_s", 0) > 10, 10, "the second track")
    before = told(demo)["inputs"]["main"]["position_s"]
    assert demo.call("POST", "/transport/seek", {"input": input_id, "seconds": 20})[0] == 204
    wait_for(lambda: 20 < told(demo)["inputs"][input_id]["position_s"] < 24, 5, "its place")
    assert 0 <= told(demo)["inputs"]["main"]["position_s"] - before < 8 or before > 60


def test_three_quarters_of_the_speed_is_heard_at_three_quarters_of_the_tempo(demo):
    demo.call("POST", "/beat", {"what": "anew"})  # What another test tapped is no help here.
    demo.set("/inputs/main/track/speed", 0.75)
    wait_for(lambda: abs(row(demo)[4] - 93) < 1.5 and row(demo)[5] > 0.3, 30, "the slower tempo")

    def speed() -> float:
        first, at = told(demo)["inputs"]["main"], time.monotonic()
        time.sleep(2.0)
        moved = told(demo)["inputs"]["main"]["position_s"] - first["position_s"]
        return moved % first["length_s"] / (time.monotonic() - at)

    # Where the track is, is told four times a second; a host that stands still tells later.
    found = once_good(speed, lambda found: abs(found - 0.75) < 0.2)
    assert found == pytest.approx(0.75, abs=0.2)


def test_what_an_input_brings_is_recorded_into_the_library(demo):
    def tracks():
        return {row["title"]: row for row in demo.call("GET", "/tracks")[1]}

    before = set(tracks())
    assert demo.call("PUT", "/inputs/main/recording", {"on": True})[0] == 204
    wait_for(lambda: told(demo)["inputs"]["main"]["recording"]["seconds"] > 2, 10, "two seconds")
    library = told(demo)["library"]
    assert demo.call("PUT", "/inputs/main/recording", {"on": False})[0] == 204
    title = wait_for(lambda: next(iter(set(tracks()) - before), None), 20, "the recording")
    assert title.startswith("Main 20") and 2 < tracks()[title]["seconds"] < 12
    wait_for(
        lambda: told(demo)["library"] > library and told(demo)["inputs"]["main"]["recording"] is None,
        5,
        "word of it",
    )
    assert demo.call("DELETE", f"/tracks/{tracks()[title]['id']}")[0] == 204
    assert demo.call("PUT", "/inputs/nowhere/recording", {"on": True})[0] == 404


@pytest.mark.parametrize(
    ("ending", "first"), [(".jams", b"{"), (".csv", b"time_s,"), (".mid", b"MThd"), (".txt", b"")]
)
def test_what_is_heard_in_a_track_can_be_kept(demo, ending, first):
    response = httpx.get(f"{demo.url}/api/v1/tracks/undertow/analysis{ending}", timeout=60)
    assert response.status_code == 200 and response.content.startswith(first) and len(response.content) > 500
    assert f"undertow{ending}" in response.headers["content-disposition"]
    assert httpx.get(f"{demo.url}/api/v1/tracks/nothing/analysis{ending}").status_code == 404


def test_a_track_is_trimmed_to_its_beat(demo):
    response = httpx.get(f"{demo.url}/api/v1/tracks/lamp-room/rhythm", timeout=60)
    status, part = response.status_code, response.json()
    bar = 4 * 60 / 124
    assert status == 200 and part["to_s"] - part["from_s"] > 30
    assert (part["to_s"] - part["from_s"]) / bar == pytest.approx(
        round((part["to_s"] - part["from_s"]) / bar), abs=0.05
    )
    assert httpx.get(f"{demo.url}/api/v1/tracks/slack-water/rhythm", timeout=60).status_code == 422


def test_a_recording_that_cannot_be_taken_in_waits_and_is_told_of(demo):
    left = demo.folders.tracks / "Broken.recorded"
    left.write_bytes(b"not sound")
    wait_for(lambda: "Broken" in str(told(demo)["library_fault"]), 10, "word of it")
    assert left.exists()
    left.unlink()

"""Controllers as they speak: OSC over UDP from the stand-in, MIDI from a browser."""

import json
import socket
import subprocess
import sys
import time
from urllib.request import urlopen

import httpx
import pytest
from pythonosc.udp_client import SimpleUDPClient
from websockets.sync.client import connect

from fulgura.supervisor import child_environment
from harness.stack import free_port, wait_for
from tests.api.test_listening import state

GAIN = "/inputs/main/gain_db"


def gain(demo) -> float:
    return demo.show()["document"]["inputs"][0]["gain_db"]


@pytest.fixture
def faders(demo):
    """The stand-in controller: a process of its own that knows no more than a UDP port."""
    port = free_port()
    process = subprocess.Popen(
        [
            sys.executable,
            "-m",
            "fulgura",
            "standin",
            "controller",
            "--port",
            str(port),
            "--osc-port",
            str(demo.port),
        ],
        env=child_environment(),
    )
    page = f"http://127.0.0.1:{port}"
    wait_for(lambda: urlopen(page).status == 200, 15, "the controller's page")
    yield lambda fader, position: httpx.put(f"{page}/faders/{fader}", json={"position": position})
    process.terminate()
    process.wait(10)


def test_gain_is_learnt_by_a_fader_and_never_leaps(demo, faders):
    assert demo.call("PUT", "/mappings/learning", {"target": GAIN})[0] == 204
    wait_for(lambda: state(demo)["control"]["learning"] == GAIN, 5, "the waiting")
    faders(1, 0.1)
    wait_for(
        lambda: [mapping["source"] for mapping in demo.show()["document"]["mappings"]] == ["osc /fader/1"],
        5,
        "the binding",
    )
    assert gain(demo) == 0.0  # Far from where the fader stands.
    wait_for(lambda: state(demo)["control"]["waits"], 5, "word of it")
    head = demo.show()["head"]
    for position in (0.3, 0.45, 0.55, 0.6):
        faders(1, position)
    wait_for(lambda: gain(demo) == pytest.approx(8.0), 5, "the gain")
    assert demo.show()["head"] == head + 1  # One movement is one step.
    faders(2, 0.9)
    time.sleep(0.2)
    assert gain(demo) == pytest.approx(8.0)


def test_what_no_fader_can_move_is_refused_at_once(app):
    status, problem = app.call("PUT", "/mappings/learning", {"target": "/name"})
    assert status == 422 and "fader" in problem["detail"]


def test_garbage_on_the_port_is_passed_over(demo):
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as udp:
        for junk in (b"", b"x", b"/a\0\0,f\0\0", b"#bundle\0", bytes(range(256))):
            udp.sendto(junk, ("127.0.0.1", demo.port))
    client = SimpleUDPClient("127.0.0.1", demo.port)
    for value in ("loud", [], float("nan"), float("inf")):
        client.send_message("/fader/9", value)
    client.send_message("/fader/3", 0.5)
    wait_for(lambda: state(demo)["control"]["last"] == "osc /fader/3", 5, "the message that made sense")


def test_a_browsers_midi_moves_what_it_is_bound_to(demo):
    demo.call("PUT", "/mappings/learning", {"target": GAIN})
    with connect(f"ws://127.0.0.1:{demo.port}/api/v1/live", origin=demo.url) as page:
        for position in (64, 70, 80, 127):
            page.send(json.dumps({"fader": "midi 1 cc 7", "position": position / 127}))
        page.send(json.dumps({"fader": "midi 1 cc 7"}))
        page.send(json.dumps({"fader": None, "position": "x"}))
        wait_for(lambda: gain(demo) == pytest.approx(40.0), 5, "the gain")
    assert demo.show()["document"]["mappings"][0]["source"] == "midi 1 cc 7"

"""Controllers as they speak: MIDI over a line and OSC over UDP from the stand-in, MIDI from a browser."""

import json
import socket
import sys
import time
from pathlib import Path
from types import SimpleNamespace

import pytest
from pythonosc.osc_bundle_builder import OscBundleBuilder
from pythonosc.osc_message_builder import build_msg
from pythonosc.udp_client import SimpleUDPClient
from websockets.sync.client import connect

from fulgura.control import midi_ports
from fulgura.control.midi_ports import jack_answers
from harness.box import Box
from harness.stack import live, say, told, wait_for

GAIN = "/inputs/main/gain_db"


def document(demo) -> dict:
    return demo.show()["document"]


def gain(demo) -> float:
    return document(demo)["inputs"][0]["gain_db"]


def surface(demo) -> dict:
    return told(demo, "surface", 0.3)


def heard(demo) -> list[dict]:
    """What controls said lately."""
    return [row for news in live(demo, 0.3, [])[1] if news["type"] == "control" for row in news["data"]]


def learn(demo, **wanted) -> None:
    assert demo.call("PUT", "/mappings/learning", {"event": "learn-asked", **wanted})[0] == 204
    wait_for(lambda: surface(demo)["learning"], 5, "the waiting")


@pytest.fixture(scope="module")
def box(stack):
    made = Box(stack)
    wait_for(lambda: "Network MIDI" in told(stack)["ports"].get("controllers", []), 10, "the MIDI line")
    yield made
    made.close()


def test_gain_is_learnt_by_a_fader_and_never_leaps(demo, box):
    learn(demo, does="value", target=GAIN)
    box.fader(1, 0.1)
    wait_for(lambda: [m["source"] for m in document(demo)["mappings"]] == ["osc /fader/1"], 5, "the binding")
    assert (document(demo)["mappings"][0]["low"], document(demo)["mappings"][0]["high"]) == (-40.0, 40.0)
    box.fader(1, 0.12)
    wait_for(lambda: surface(demo)["waits"], 5, "word of it")
    assert gain(demo) == 0.0  # Far from where the fader stands.
    head = demo.show()["head"]
    for position in (0.3, 0.45, 0.55, 0.6):
        box.fader(1, position)
        time.sleep(0.03)
    wait_for(lambda: gain(demo) == pytest.approx(8.0), 5, "the gain")
    assert demo.show()["head"] == head + 1  # One movement is one step.
    box.fader(2, 0.9)
    time.sleep(0.2)
    assert gain(demo) == pytest.approx(8.0)


def test_what_no_fader_can_move_is_refused_at_once(app):
    wanted = {"event": "learn-asked", "does": "value", "target": "/name"}
    status, problem = app.call("PUT", "/mappings/learning", wanted)
    assert status == 422 and "fader" in problem["detail"]


def test_pads_of_a_midi_controller_play_those_of_the_surface_and_show_them(demo, box):
    learn(demo, does="pad", target="9")
    box.pad(1)
    wait_for(lambda: document(demo)["mappings"], 5, "the binding")
    mapping = document(demo)["mappings"][0]
    assert (mapping["controller"], mapping["source"]) == ("Network MIDI", "midi 1 note 36")
    box.pad(1, False)
    learn(demo, does="pad", target="7")
    box.pad(2)
    wait_for(lambda: len(document(demo)["mappings"]) == 2, 5, "the second")
    box.pad(2, False)

    def runs() -> bool:
        sparks = next(chase for chase in document(demo)["chases"] if chase["id"] == "sparks")
        return any(run["part"]["values"]["running"] for run in sparks["runs"])

    assert not runs()
    box.pad(2)
    wait_for(runs, 5, "the chase")
    wait_for(lambda: box.shown()["pads"].get("2") == 127, 5, "its light")
    box.pad(2, False)
    box.pad(2)
    wait_for(lambda: not runs(), 5, "its end")
    wait_for(lambda: box.shown()["pads"].get("2") == 0, 5, "no light")
    box.pad(2, False)
    rows = wait_for(lambda: heard(demo), 5, "what it said")
    assert rows[-1]["source"] == "midi 1 note 37" and any(row["did"] == "pad Sparks" for row in rows)


def test_a_controller_that_is_pulled_out_lets_go_and_comes_back_with_its_mappings(demo, box):
    learn(demo, does="pad", target="10")  # Flash, while it is held.
    box.pad(5)
    wait_for(lambda: document(demo)["mappings"], 5, "the binding")
    box.pad(5, False)
    box.pad(5)
    wait_for(lambda: told(demo)["overridden"], 5, "the flash")
    box.plug(False)
    wait_for(lambda: not told(demo)["overridden"], 5, "its end")
    assert "Network MIDI" not in told(demo)["ports"]["controllers"]
    box.plug(True)
    wait_for(lambda: "Network MIDI" in told(demo)["ports"]["controllers"], 5, "the controller")
    box.pad(5)
    wait_for(lambda: told(demo)["overridden"], 5, "the flash again")
    box.pad(5, False)
    wait_for(lambda: not told(demo)["overridden"], 5, "its end again")


def test_an_encoder_and_a_motor_fader(demo, box):
    learn(demo, does="value", target="/sound_amount")
    box.put("/encoder", steps=-5)
    wait_for(lambda: document(demo)["mappings"], 5, "the binding")
    assert document(demo)["mappings"][0]["coding"] == "twos"
    before = document(demo)["sound_amount"]
    box.put("/encoder", steps=-10)
    wait_for(
        lambda: document(demo)["sound_amount"] == pytest.approx(before - 10 / 127, abs=1e-3), 5, "ten steps"
    )
    learn(demo, does="value", target="/lights/part/values/grand")
    for position in (0.2, 0.4, 0.6, 0.8, 1.0):
        box.fader(3, position, "midi")
        time.sleep(0.05)
    wait_for(lambda: len(document(demo)["mappings"]) == 2, 5, "the fader")
    demo.set("/lights/part/values/grand", 0.25)
    wait_for(lambda: box.shown()["faders"].get("3") == pytest.approx(0.25, abs=0.01), 5, "the motor")
    demo.set("/control/osc_to", f"127.0.0.1:{box.answers}")
    learn(demo, does="value", target="/sound_amount")
    box.fader(4, 0.3)
    wait_for(
        lambda: any(m["source"] == "osc /fader/4" for m in document(demo)["mappings"]), 5, "the OSC fader"
    )
    demo.set("/sound_amount", 0.5)
    wait_for(
        lambda: box.shown()["osc"].get("/fader/4") == pytest.approx(0.5, abs=0.01), 5, "its value by OSC"
    )


def test_a_sound_system_that_was_killed_is_not_asked():
    """Its socket's file stays behind."""
    path = Path("/dev/shm/jack_fulgura-test_0_0")
    path.unlink(missing_ok=True)
    others = jack_answers()
    try:
        with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as server:
            server.bind(str(path))
            server.listen()
            assert jack_answers()
        assert path.exists() and jack_answers() == others
    finally:
        path.unlink(missing_ok=True)


def test_a_port_that_cannot_be_opened_is_none_however_often_it_is_tried(monkeypatch):
    """Ports that were none gathered, one more each second, and each tick of the clock was tried on all."""

    class Taken:
        def __init__(self, *_):
            pass

        def get_ports(self):
            return ["Taken:Taken 20:0"]

        def ignore_types(self, *_, **__):
            pass

        set_callback = ignore_types

        def open_port(self, at):
            raise OSError("another program has it")

    class Back(Taken):
        def open_port(self, at):
            pass

    monkeypatch.setitem(sys.modules, "rtmidi", SimpleNamespace(MidiIn=Taken, MidiOut=Back))
    monkeypatch.setattr(midi_ports, "_kinds", lambda: [1])
    ports = midi_ports.MidiPorts(0, lambda event, at: None)
    for _ in range(5):
        ports.look()
    assert ports.names() == []


def test_garbage_on_the_ports_is_passed_over(demo, box):
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as udp:
        for junk in (b"", b"x", b"/a\0\0,f\0\0", b"#bundle\0", bytes(range(256)), b"#bundle\0" + bytes(400)):
            udp.sendto(junk, ("127.0.0.1", demo.port))
    with socket.create_connection(("127.0.0.1", demo.midi_port)) as line:
        line.sendall(bytes(range(256)) * 4)
        line.sendall(bytes([0x90, 99, 1, 100, 2, 0xF8, 101, 3]))  # Running status, a clock in between.
    client = SimpleUDPClient("127.0.0.1", demo.port)
    for value in ("loud", [], float("nan"), float("inf")):
        client.send_message("/fader/9", value)
    client.send_message("/many", [0.5] * 1000)
    client.send_message("/fader/3", 0.5)
    wait_for(
        lambda: any(row["source"] == "osc /fader/3" for row in heard(demo)), 5, "the message that made sense"
    )
    sources = [row["source"] for row in wait_for(lambda: heard(demo), 5, "what they said")]
    assert [source for source in sources if "note" in source][-3:] == [
        f"midi 1 note {n}" for n in (99, 100, 101)
    ]
    assert f"osc /many {16}" in sources and f"osc /many {17}" not in sources


def test_a_bundle_of_later_acts_later_and_stops_nothing_meanwhile(demo, box):
    bundle = OscBundleBuilder(time.time() + 1.0)
    bundle.add_content(build_msg("/later", 0.7))
    client = SimpleUDPClient("127.0.0.1", demo.port)
    client.send(bundle.build())
    sent = time.monotonic()
    client.send_message("/now", 0.2)

    def came(source: str) -> bool:
        return any(row["source"] == source for row in heard(demo))

    wait_for(lambda: came("osc /now"), 3, "what is of now")
    assert not came("osc /later")
    wait_for(lambda: came("osc /later"), 5, "what is of later")
    assert time.monotonic() - sent > 0.9


def test_a_browsers_midi_is_heard_whole_and_let_go_with_its_page(demo):
    learn(demo, does="pad", target="10")
    with connect(f"ws://127.0.0.1:{demo.port}/api/v1/live", origin=demo.url) as page:
        say(page, "midi-said", controller="Booth pads", data=[0x90, 40, 100])
        wait_for(lambda: document(demo)["mappings"], 5, "the binding")
        assert document(demo)["mappings"][0]["controller"] == "Booth pads"
        for nonsense in ([], [1, 2, 3, 4], ["x"], [300]):
            say(page, "midi-said", controller="Booth pads", data=nonsense)
        say(page, "midi-said", controller="Booth pads", data=[0x80, 40, 0])
        say(page, "midi-said", controller="Booth pads", data=[0x90, 40, 100])
        wait_for(lambda: told(demo)["overridden"], 5, "the flash")
    wait_for(lambda: not told(demo)["overridden"], 5, "its end with the page")


def test_tempo_by_midi_clock_and_what_is_given_back(demo, box):
    demo.set("/tempo/mode", "midi")
    box.put("/clock", bpm=131.0, jitter_ms=2.0)

    def tempo(source: str) -> float:
        return {row["source"]: row["bpm"] for row in surface(demo)["tempo"]["sources"]}[source]

    wait_for(lambda: abs(tempo("midi") - 131.0) < 0.5, 10, "the clock's tempo")
    demo.set("/control/clock_to", ["Network MIDI"])
    demo.set("/control/osc_to", f"127.0.0.1:{box.answers}")
    demo.set("/control/tempo_by_osc", True)
    wait_for(lambda: box.shown()["starts"] == 1, 10, "a start with the bar")
    wait_for(lambda: abs(box.shown()["clock_bpm"] - 131.0) < 1.0, 10, "the clock, given on")
    wait_for(lambda: abs(box.shown()["osc"].get("/tempo", 0) - 131.0) < 1.0, 10, "the tempo by OSC")
    assert box.shown()["osc"]["/beat"] in (1.0, 2.0, 3.0, 4.0)
    box.put("/clock", bpm=0.0)
    wait_for(lambda: "fallen away" in surface(demo)["tempo"]["says"], 10, "word of its end")
    SimpleUDPClient("127.0.0.1", demo.port).send_message("/tempo", 99.5)
    wait_for(lambda: tempo("osc") == 99.5, 5, "the tempo by OSC")


def test_mappings_are_kept_by_the_controllers_name_and_carried_as_json(demo):
    rows = [{"id": "m1", "source": "midi 1 cc 7", "target": "/sound_amount", "controller": "Booth pads"}]
    sent = {"format": "fulgura-mappings-1", "controller": "Booth pads", "mappings": rows}
    assert demo.call("PUT", "/mappings/set", sent)[0] == 200
    status, got = demo.call("GET", "/mappings/set?controller=Booth%20pads")
    assert status == 200 and [row["source"] for row in got["mappings"]] == ["midi 1 cc 7"]
    assert demo.call("PUT", "/mappings/kept?controller=Booth%20pads")[0] == 204
    demo.call("POST", "/show/undo")
    assert not document(demo)["mappings"] and "Booth pads" in demo.call("GET", "/mappings/kept")[1]
    assert demo.call("POST", "/mappings/kept?controller=Booth%20pads")[0] == 200
    assert document(demo)["mappings"][0]["target"] == "/sound_amount"
    assert demo.call("GET", "/mappings/set?controller=Nobody")[0] == 404
    assert demo.call("POST", "/mappings/kept?controller=Nobody")[0] == 404
    assert demo.call("PUT", "/mappings/set", {**sent, "format": "other"})[0] == 422
    assert demo.call("GET", "/mappings/conflicts")[1] == {}


@pytest.mark.alone
@pytest.mark.flaky(reruns=2)
def test_two_pages_and_a_controller_at_once_lose_nothing_and_see_the_same(demo, box):
    """Two desks edit while pads are pressed: every edit is there, and both see it within 100 ms."""
    learn(demo, does="pad", target="1")
    box.pad(1)
    wait_for(lambda: document(demo)["mappings"], 5, "the binding")
    box.pad(1, False)
    head = demo.show()["head"]
    url = f"ws://127.0.0.1:{demo.port}/api/v1/live"
    with connect(url, origin=demo.url) as first, connect(url, origin=demo.url) as second:
        for n in range(30):
            demo.set("/bands/low/gain_db", float(n % 12))
            say(first, "pad-pressed", pad="pad-9")
            say(
                second,
                "action-done",
                action={
                    "id": "x",
                    "kind": "set-to",
                    "values": {"target": "ring.width", "value": 0.05 + n / 500},
                },
            )
            box.pad(16) if n % 10 == 0 else None
        wait_for(
            lambda: (
                next(e for e in document(demo)["looks"] if e["id"] == "lantern-tunnel")["layers"][0][
                    "source"
                ]["values"]["width"]
                == pytest.approx(0.05 + 29 / 500)
            ),
            5,
            "the last of one",
        )
        assert demo.show()["head"] - head == 60
        sent = time.monotonic()
        say(first, "pad-pressed", pad="pad-7")
        seen = []
        for page in (first, second):
            while not any("running" in str(change["path"]) for change in _edit(page)):
                assert time.monotonic() - sent < 5
            seen.append(time.monotonic() - sent)
    assert max(seen) < 0.1


def _edit(page) -> list[dict]:
    heard = page.recv(timeout=5)
    news = json.loads(heard) if isinstance(heard, str) else {}
    return news["data"]["changes"] if news.get("type") == "edit" else []

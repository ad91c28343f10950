"""How long a press takes to be seen, by each way that it can come; and how evenly the clock ticks that is
given.
"""

import json
import shutil
import subprocess
import time

import numpy as np
import pytest
from pythonosc.udp_client import SimpleUDPClient
from websockets.sync.client import connect

from harness.measuring import lent, once_good
from harness.presses import line_to, percentiles, press_to_frame
from harness.stack import say, told, wait_for

pytestmark = [pytest.mark.alone, pytest.mark.flaky(reruns=2, reruns_delay=5)]
SIGNAL, WANTED_MS = "modulator-thunder", 25.0
MOST_LENT = 3
"""Hundredths of a second, of 16: more than a thousandth makes one interval in a hundred uneven by itself."""


def map_hit(demo, source: str) -> None:
    row = {
        "id": f"hit-{len(demo.show()['document']['mappings'])}",
        "source": source,
        "does": "hit",
        "target": "thunder",
    }
    edit = {"edit": {"edit": "add", "path": "/mappings", "item": row}, "name": "Mapping"}
    assert demo.call("POST", "/show/edits", edit)[0] == 200
    time.sleep(0.3)


def test_by_midi_over_the_network(demo):
    map_hit(demo, "midi 1 note 36")
    line = line_to(demo.midi_port)
    took = press_to_frame(
        demo, lambda: line.sendall(bytes([0x90, 36, 100])), lambda: line.sendall(bytes([0x80, 36, 0])), SIGNAL
    )
    line.close()
    assert percentiles(took)["p95"] <= WANTED_MS, percentiles(took)


def test_by_osc(demo):
    map_hit(demo, "osc /drum")
    client = SimpleUDPClient("127.0.0.1", demo.port)
    took = press_to_frame(
        demo, lambda: client.send_message("/drum", 1.0), lambda: client.send_message("/drum", 0.0), SIGNAL
    )
    assert percentiles(took)["p95"] <= WANTED_MS, percentiles(took)


@pytest.mark.parametrize("way", ["key", "midi"])
def test_by_a_pages_keys_and_its_midi(demo, way):
    """What the page itself needs for it is a few calls of script: its socket is what is measured here."""
    map_hit(demo, "key q" if way == "key" else "midi 1 note 40")
    with connect(f"ws://127.0.0.1:{demo.port}/api/v1/live", origin=demo.url) as page:

        def play(down: bool) -> None:
            if way == "key":
                say(page, "control-said", source="key q", controller="Keys", value=float(down), down=down)
            else:
                say(page, "midi-said", controller="Booth pads", data=[0x90 if down else 0x80, 40, 100])

        took = press_to_frame(demo, lambda: play(True), lambda: play(False), SIGNAL)
    assert percentiles(took)["p95"] <= WANTED_MS, percentiles(took)


def test_two_desks_see_within_a_tenth_of_a_second_what_a_pad_did(demo):
    url = f"ws://127.0.0.1:{demo.port}/api/v1/live"
    took = []
    with connect(url, origin=demo.url) as first, connect(url, origin=demo.url) as second:
        for _ in range(20):
            time.sleep(0.25)
            sent = time.monotonic()
            say(first, "pad-pressed", pad="pad-7")
            say(first, "pad-released", pad="pad-7")
            for page in (first, second):
                while not told_of(page, "running"):
                    assert time.monotonic() - sent < 5.0
            took.append(1000.0 * (time.monotonic() - sent))
    assert np.percentile(took, 95) < 100.0, percentiles(np.array(took))


def told_of(page, word: str) -> bool:
    """Whether the next thing that a page hears is an edit of this."""
    heard = page.recv(timeout=5)
    news = json.loads(heard) if isinstance(heard, str) else {}
    return news.get("type") == "edit" and any(word in change["path"] for change in news["data"]["changes"])


@pytest.fixture
def jack(tmp_path):
    """A sound system without a sound card, for MIDI ports of the machine's own: how often it has dropped out.
    What lies in a period that it drops is lost by it.
    """
    words = [shutil.which("jackd") or "jackd", "-t", "5000", "-r", "-d", "dummy", "-r", "48000", "-p", "128"]
    log = tmp_path / "jackd.log"
    with log.open("wb") as out:
        process = subprocess.Popen(words, stdout=out, stderr=subprocess.STDOUT)
    time.sleep(2.0)
    yield lambda: log.read_text(errors="replace").count("XRun")
    process.terminate()
    process.wait(10)


def test_by_a_midi_port_of_the_machine(demo, jack):
    import rtmidi

    def names() -> list[str]:
        return told(demo)["ports"]["controllers"]

    def there() -> bool:
        return any("Booth pads" in name for name in names())

    map_hit(demo, "midi 1 note 50")
    pads = rtmidi.MidiOut(rtmidi.API_UNIX_JACK, "Booth pads")
    pads.open_virtual_port("Booth pads")
    wait_for(there, 10, "the port")
    time.sleep(0.5)
    try:
        took = press_to_frame(
            demo,
            lambda: pads.send_message([0x90, 50, 100]),
            lambda: pads.send_message([0x80, 50, 0]),
            SIGNAL,
            dropouts=jack,
        )
    finally:
        pads.delete()
    wait_for(lambda: not there(), 10, "its end")
    assert percentiles(took)["p95"] <= WANTED_MS, percentiles(took)


def test_the_clock_that_is_given_ticks_evenly(demo):
    """MIDI 1.0: 24 ticks a quarter note. On this machine an interval is off by 2 ms at most, 99 of 100, while
    the host lends nothing to others; else half of them are off by half a millisecond at most.
    """
    line = line_to(demo.midi_port)
    demo.set("/tempo/bpm", 124.0)
    demo.set("/tempo/mode", "held")
    time.sleep(3.0)
    demo.set("/control/clock_to", ["all"])

    def window() -> tuple[int, float, dict[str, float]]:
        """(what the host lent, the tempo that arrived, how the newest 600 ticks were sent) in 16 seconds."""
        line.recv(65536)  # What has waited since the last one.
        before, stamps, until = lent(), list[float](), time.monotonic() + 16.0
        while time.monotonic() < until:
            data = line.recv(64)
            stamps += [time.monotonic()] * data.count(0xF8)
        bpm = 2.5 * (len(stamps) - 1) / (stamps[-1] - stamps[0])
        return lent() - before, bpm, told(demo, seconds=1.5)["ports"]["clock"]

    gone, bpm, sent = once_good(window, lambda found: found[0] <= MOST_LENT, times=3)
    line.close()
    assert sent["p50_ms"] <= 0.5, sent
    # A thread that is not let run for three ticks leaves them out: the beat is more than its count.
    assert bpm == pytest.approx(124.0, abs=1.0 if gone <= MOST_LENT else 12.0)
    assert sent["p99_ms"] <= 2.0 or gone > MOST_LENT, sent

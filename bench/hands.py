"""What hands take: from a press to the frame that shows it, by each way; how evenly the given clock ticks."""

import time
from collections.abc import Callable
from typing import Any

from pythonosc.udp_client import SimpleUDPClient
from websockets.sync.client import connect

from harness.presses import line_to, percentiles, press_to_frame
from harness.stack import Stack, live, say

PRESSES = 200
SOURCES = {"midi": "midi 1 note 36", "osc": "osc /drum", "key": "key q"}


def presses(stack: Stack) -> dict[str, dict[str, float]]:
    """Milliseconds from a press to the frame that shows it, by way: p50 and p95 of 200 each."""
    rows = [
        {"id": f"hit-{way}", "source": source, "does": "hit", "target": "thunder"}
        for way, source in SOURCES.items()
    ]
    stack.set("/mappings", rows)
    time.sleep(0.5)
    line, osc = line_to(stack.midi_port), SimpleUDPClient("127.0.0.1", stack.port)
    origin: Any = stack.url
    # Who reads nothing is closed: all that comes is taken, however much.
    with connect(f"ws://127.0.0.1:{stack.port}/api/v1/live", origin=origin, max_queue=None) as page:

        def key(down: bool) -> None:
            what = {"source": "key q", "controller": "Keys", "value": float(down), "down": down}
            say(page, "control-said", **what)

        ways: dict[str, tuple[Callable[[], None], Callable[[], None]]] = {
            "midi": (lambda: line.sendall(b"\x90\x24\x64"), lambda: line.sendall(b"\x80\x24\x00")),
            "osc": (lambda: osc.send_message("/drum", 1.0), lambda: osc.send_message("/drum", 0.0)),
            "key": (lambda: key(True), lambda: key(False)),
        }
        found = {
            way: percentiles(press_to_frame(stack, down, up, "modulator-thunder", PRESSES))
            for way, (down, up) in ways.items()
        }
    line.close()
    stack.set("/mappings", [])
    return found


def clock(stack: Stack, seconds: float = 16.0) -> dict[str, float]:
    """How far intervals of the MIDI clock that is given are off, in milliseconds: p50 and p99."""
    line = line_to(stack.midi_port)
    stack.set("/control/clock_to", ["all"])
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        line.recv(256)
    states = [row["data"] for row in live(stack, 1.5, [])[1] if row["type"] == "state"]
    stack.set("/control/clock_to", [])
    line.close()
    told: dict[str, float] = states[-1]["ports"]["clock"]
    return told

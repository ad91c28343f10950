"""What lights take: of a tick, from a hit to the packet that carries it, and of a page that draws them."""

import socket
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np
import zmq
from playwright.sync_api import Browser, Page

from bench.core import percentiles
from fulgura import bus
from fulgura.children import child_environment
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.tick import TickContext
from fulgura.core.performer import Performer
from fulgura.core.show.commands.lamps import hang
from fulgura.core.show.commands.light_groups import new_chase, new_group, start_chase
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, apply
from fulgura.core.show.inputs import Band, Input
from fulgura.core.show.lights import LightOutput, LightSettings
from fulgura.engine.light_outputs import LightOutputs
from fulgura.folders import Folders
from fulgura.standins.light_receiver import Receiver, Stream
from harness.stack import Stack, free_port

HUNG = (("moving-wash", 100), ("rgbw-lamp", 250), ("flash-lamp", 100), ("pixel-bar", 50))
LAMPS = sum(count for _, count in HUNG)
TICKS = 1200


def large_show(universes: int = 16) -> Show:
    """500 lamps in so many universes, 200 of them moved by routes and chases."""
    show = Show(name="Large")
    ids: list[str] = []
    for kind, count in HUNG:
        edit, made = hang(show, kind, count)
        show, _ = apply(show, edit)
        ids += made
    lamps = list(show.lamps)
    last = max(lamp.universe for lamp in lamps)
    for number, universe in enumerate(range(last + 1, universes + 1)):
        lamps[number] = lamps[number].model_copy(update={"universe": universe})
    show = show.model_copy(update={"lamps": lamps})
    for number in range(10):
        members = ids[10 * number : 10 * number + 10] + ids[100 + 10 * number : 110 + 10 * number]
        edit, group = new_group(show, members)
        show, _ = apply(show, edit)
        edit, chase = new_chase(show, [group], values={"driven": "beats", "shape": "wave", "width": 4.0})
        show, _ = apply(show, edit)
        show, _ = apply(show, start_chase(show, chase, True))
        spread = {"id": "spread", "kind": "spread"}
        route = {"id": f"r{number}", "signal": "level", "targets": [f"{group}.level", f"{group}.pan"]}
        item = {**route, "low": 0.0, "high": 1.0, "shapers": [spread]}
        show, _ = apply(show, AddItem(path="/routes", item=item))
    return show


def tick() -> dict:
    """Lights' part of a tick, ms: from live values to packets on a socket of loopback."""
    show = large_show()
    performer = Performer(show)
    rng = np.random.default_rng(1)
    performer.hear(rng.normal(0, 0.1, (BLOCK, 2)))
    performer.tick()
    outputs, live = LightOutputs(), performer.router.live
    outputs.configure([LightOutput(port=free_port(socket.SOCK_DGRAM))], LightSettings())
    now, taken = TickContext(), []
    for number in range(TICKS):
        now.beats += now.dt / now.beat_s
        begun = time.perf_counter()
        frame, _ = performer.rig.tick(live, now)
        outputs.send(frame.universes, number / 60)
        taken.append((time.perf_counter() - begun) * 1000.0)
    outputs.close()
    universes = len(performer.rig.compiled.universes)
    return {"lamps": LAMPS, "universes": universes, "moved": 200, "part_of_tick_ms": percentiles(taken)}


class _Onsets:
    """Sound with a burst every third of a second or so, and when each was handed over."""

    def __init__(self) -> None:
        self.rng = np.random.default_rng(3)
        self.left = 40
        self.at: list[float] = []
        t = np.arange(8 * BLOCK) / SAMPLE_RATE
        self.burst = (0.8 * np.sin(2 * np.pi * 200 * t)).astype("<f4").reshape(-1, BLOCK)
        self.playing = len(self.burst)

    def block(self) -> np.ndarray:
        if self.playing < len(self.burst):
            self.playing += 1
            return self.burst[self.playing - 1]
        self.left -= 1
        if self.left <= 0:
            self.left, self.playing = int(self.rng.integers(40, 80)), 1
            self.at.append(time.monotonic())
            return self.burst[0]
        return np.zeros(BLOCK, dtype="<f4")


def hit_to_packet(seconds: float = 40.0) -> dict:
    """From the moment that a block of sound which begins a burst is handed to the engine to the packet that
    carries the lamp's new level, ms: by the stand-in's receiver, on the clock of the same machine.
    """
    port = free_port(socket.SOCK_DGRAM)
    arrived: list[float] = []
    level = [0]

    def heard(stream: Stream, now: float) -> None:
        if stream.channels[0] > 127 >= level[0]:
            arrived.append(now)
        level[0] = stream.channels[0]

    receiver = Receiver("127.0.0.1", port, heard=heard)
    show = Show(
        name="Hit",
        inputs=[Input(use="live")],
        bands=[Band(id="burst", name="Burst", low_hz=100.0, high_hz=400.0, release_ms=20.0)],
        lamps=[{"id": "a", "name": "A", "fixture": {"id": "f", "family": "fixture", "kind": "dimmer"}}],
        routes=[
            {
                "id": "r",
                "signal": "band-burst",
                "targets": ["f.level"],
                "low": 0.0,
                "high": 1.0,
                "shapers": [{"id": "g", "kind": "gate", "values": {"threshold": 0.2, "passes": "one"}}],
            }
        ],
        light_outputs=[LightOutput(port=port)],
        lights=LightSettings(strobe=True),
    )
    with tempfile.TemporaryDirectory() as folder:
        folders = Folders(Path(folder) / "data")
        folders.make()
        command = [sys.executable, "-m", "fulgura.engine", str(folders.data)]
        process = subprocess.Popen(command, env=child_environment())
        context = zmq.Context()
        try:
            caller = bus.Caller(folders.run, context)
            caller.send("show", show=show.model_dump(), revision=1)
            until = time.monotonic() + 60
            while not receiver.streams and time.monotonic() < until:
                time.sleep(0.1)
            onsets = _feed(caller, seconds)
        finally:
            process.terminate()
            process.wait(20)
            context.destroy(linger=0)
            receiver.close()
    late = [min((t - at for t in arrived if t >= at), default=np.inf) * 1000.0 for at in onsets.at[3:-1]]
    soon = [ms for ms in late if ms <= 200]
    spread = {"p50": float(np.median(soon)), "p95": float(np.quantile(soon, 0.95))}
    return {"hits": len(late), "missed": len(late) - len(soon), "ms": spread}


def _feed(caller: bus.Caller, seconds: float) -> _Onsets:
    """Hand sound over at its own pace, block by block."""
    onsets, begun, count = _Onsets(), time.monotonic(), 0
    while (gone := time.monotonic() - begun) < seconds:
        while count * BLOCK / SAMPLE_RATE < gone:
            caller.send("audio", pcm=onsets.block().tobytes(), channels=1)
            count += 1
        time.sleep(0.001)
    return onsets


def drawing(browser: Browser, stack: Stack, lamps: int = 200) -> dict:
    """Script that drawing a rig of so many lamps takes of each frame, ms: on the desk and on the stand-in's
    page, both painted in software, and how long a packet takes to the stand-in's screen.
    """
    for page in [page for context in browser.contexts for page in context.pages]:
        page.close()
    hung = len(stack.show()["document"]["lamps"])
    stack.call("POST", "/lamps", {"kind": "moving-wash", "count": lamps // 2})
    stack.call("POST", "/lamps", {"kind": "rgbw-lamp", "count": lamps - lamps // 2 - hung})
    ids = [lamp["id"] for lamp in stack.show()["document"]["lamps"]]
    stack.call("POST", "/lamps/function", {"ids": ids, "name": "level", "value": 0.8})
    stack.call("PUT", "/rig-file")
    found: dict = {"lamps": len(ids)}
    desk = browser.new_page(viewport={"width": 1280, "height": 800})
    desk.goto(stack.url)
    desk.wait_for_selector("[data-column]")
    desk.keyboard.press("4")
    found["desk_ms"] = _spent(desk)
    desk.close()
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.goto(f"http://127.0.0.1:{stack.node_port}/")
    found["stand_in_ms"] = _spent(page)
    words = page.locator("header .num").last.inner_text()
    found["packet_to_screen_p95_ms"] = float(words)
    page.close()
    return found


def _spent(page: Page) -> dict:
    """Of the drawings of some seconds, once all has settled."""
    page.wait_for_timeout(3000)
    page.evaluate("window.fulguraSpent.length = 0")
    page.wait_for_timeout(8000)
    spent = page.evaluate("window.fulguraSpent")
    return {"p50": float(np.median(spent)), "p95": float(np.quantile(spent, 0.95)), "frames": len(spent)}

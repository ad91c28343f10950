"""The live side of the web process: frames and news from the engine out to the desks, live sound back in."""

import asyncio
import time
from collections import deque
from typing import Any

import msgpack
import numpy as np
import orjson
import zmq
import zmq.asyncio
from fastapi import WebSocket, WebSocketDisconnect
from soxr import ResampleStream

from fulgura import bus
from fulgura.core import wire
from fulgura.core.clock import FRAME_RATE
from fulgura.core.routing.facts import Facts, RouteFacts
from fulgura.core.routing.why import why_route
from fulgura.core.show.edits import changed_places, plain, value_at
from fulgura.core.show.events import BeatTurned, Edited, GivenBack, Held, RoomHeard
from fulgura.core.show.signals import SignalInfo, signals
from fulgura.core.sound.listener import SURE_ENOUGH
from fulgura.core.sound.tempo import Taps
from fulgura.folders import Places
from fulgura.web.control import Controls
from fulgura.web.show import OpenShow, Saver

FRAMES_KEPT = 3
"""Frames that wait for a slow viewer before it loses its oldest."""
NEWS_KEPT = 400
STALE_S = 1.0
KEPT_FRAMES = 10 * FRAME_RATE
"""Frames that are remembered: for finding a band, and for fitting a range to the last ten seconds."""
PATIENCE_S = 0.7
"""How long the engine may be behind before it is sent the whole show: edits are on their way."""


class Viewer:
    """One connected page. A hidden panel asks for no blocks, and gets none."""

    def __init__(self, socket: WebSocket) -> None:
        self.socket = socket
        self.wanted: set[int] = set()
        self.frames: deque[bytes] = deque(maxlen=FRAMES_KEPT)
        self.news: deque[str] = deque(maxlen=NEWS_KEPT)
        self.ready = asyncio.Event()

    def frame(self, message: bytes) -> None:
        if self.wanted:
            if len(self.frames) == FRAMES_KEPT:
                # What a slow viewer misses of the picture is gone; hits and beats still reach its score.
                lost = self.frames.popleft()
                self.frames[0] = wire.with_events_of(lost, self.frames[0])
            self.frames.append(message)
            self.ready.set()

    def tell(self, kind: str, data: Any) -> None:
        self.news.append(orjson.dumps({"type": kind, "data": data}).decode())
        self.ready.set()

    async def send(self) -> None:
        """Send what waits, for ever; news before frames."""
        while True:
            await self.ready.wait()
            self.ready.clear()
            while self.news or self.frames:
                if self.news:
                    await self.socket.send_text(self.news.popleft())
                else:
                    await self.socket.send_bytes(wire.keep(self.frames.popleft(), self.wanted))


class Hub:
    """Joins the engine, the open show and the viewers."""

    def __init__(self, places: Places) -> None:
        self.places = places
        self.saver = Saver(places)
        self.context = zmq.asyncio.Context()
        self.frames = self.context.socket(zmq.SUB)
        self.frames.rcvhwm = 60
        self.frames.subscribe(b"")
        self.frames.connect(bus.addresses(places.run)[0])
        self.caller = bus.Caller(places.run, zmq.Context(self.context))
        self.viewers: set[Viewer] = set()
        self.kept: deque[bytes] = deque(maxlen=KEPT_FRAMES)
        self.taps = Taps()
        self.layout: dict | None = None
        self.state: dict = {}
        self.frame_at = 0.0
        self.positions_s: dict[str, float] = {}
        self.show: OpenShow | None = None
        self.audio_owner: dict[str, object] = {}
        self.behind_at = 0.0
        self.controls = Controls(lambda: self.show, self.changed)
        self._signals: tuple[int, dict[str, SignalInfo]] = (-1, {})
        self.taking: dict[str, float] = {}
        """How far films are that are being taken in, by their name, 0..1."""
        self.library, self.library_trouble = 0, ""
        """Grows whenever the library changed: desks read it anew."""

    @property
    def engine_alive(self) -> bool:
        return time.monotonic() - self.frame_at < STALE_S

    async def run(self) -> None:
        """Take what the engine publishes, for ever."""
        self._send("hello")
        watch = asyncio.create_task(self._watch())
        try:
            while True:
                topic, message = await self.frames.recv_multipart()
                if topic == bus.FRAME:
                    self.frame_at = time.monotonic()
                    self.kept.append(message)
                    for viewer in self.viewers:
                        viewer.frame(message)
                elif topic == bus.LAYOUT:
                    self.layout = msgpack.unpackb(message)
                    self.tell("layout", self.layout)
                elif topic == bus.STATE:
                    self._heard_state(msgpack.unpackb(message))
        finally:
            watch.cancel()

    async def _watch(self) -> None:
        """Tell the desks when the engine or the database is away, and when it is back."""
        while True:
            await asyncio.sleep(0.25)
            self.tell("state", self.news())

    def _heard_state(self, state: dict) -> None:
        self.state = state
        self.positions_s |= {
            place: one["position_s"] for place, one in state["inputs"].items() if one.get("position_s")
        }
        # The engine says which version it plays: after a crash of either side, this alone puts things right.
        if self.show is not None:
            if state["revision"] == self.show.version:
                self.behind_at = 0.0
            elif state["needs_show"] or (self.behind_at and time.monotonic() - self.behind_at > PATIENCE_S):
                self.send_show()
                self.behind_at = time.monotonic()
            else:
                self.behind_at = self.behind_at or time.monotonic()
        if self.layout is None:
            self._send("hello")

    def news(self) -> dict:
        """What every desk shows of the machine's health."""
        return {
            "library": self.library,
            "library_trouble": self.library_trouble,
            "taking": self.taking,
            "control": self.controls.news(),
            "engine": self.engine_alive,
            "saved": not self.saver.trouble,
            "trouble": self.saver.trouble,
            "unsaved": len(self.saver.waiting) if self.saver.trouble else 0,
            "why": self._why(),
            **{k: v for k, v in self.state.items() if k not in ("needs_show", "revision", "troubles")},
        }

    def _why(self) -> dict[str, dict]:
        """For each route that moves nothing: why, and what cures it."""
        if self.show is None or not self.viewers:
            return {}
        show, facts = self.show.show, self.facts()
        reasons = {route.id: why_route(show, route, facts) for route in show.routes}
        return {route: reason.model_dump() for route, reason in reasons.items() if reason is not None}

    def facts(self) -> Facts:
        """What the engine measured lately, by the names of the show."""
        show, state = self.show.show if self.show else None, self.state
        if show is None:
            return Facts()
        if self._signals[0] != self.show.version:
            self._signals = (self.show.version, {one.id: one for one in signals(show)})
        facts = Facts(
            movers=state.get("mover_troubles", {}), held=set(state.get("held", [])), signals=self._signals[1]
        )
        inputs = state.get("inputs", {})
        facts.troubles = {place: one.get("trouble", "") for place, one in inputs.items()}
        facts.playing = {place: one["playing"] for place, one in inputs.items() if "playing" in one}
        troubles = state.get("troubles", {})
        facts.routes = {route: RouteFacts(trouble=words) for route, words in troubles.items()}
        packet = wire.decode(self.kept[-1]) if self.kept else None
        if packet is None or self.layout is None or packet.layout != self.layout["layout"]["id"]:
            return facts
        layout, measured, status = (
            self.layout["layout"],
            packet.blocks[wire.BlockId.FACTS].tolist(),
            packet.blocks[wire.BlockId.STATUS],
        )
        for i, route in enumerate(layout["routes"]):
            facts.routes[route["id"]] = RouteFacts(
                *measured[3 * i : 3 * i + 3], trouble=troubles.get(route["id"], "")
            )
        facts.peaks = dict(
            zip((one["id"] for one in layout["signals"]), measured[3 * len(layout["routes"]) :])
        )
        rows = status.reshape(len(layout["inputs"]), -1)
        facts.levels_dbfs = {one["id"]: float(row[0]) for one, row in zip(layout["inputs"], rows)}
        facts.sure_of_beat = bool(rows[0][5] > SURE_ENOUGH)
        return facts

    def signals_lately(self) -> tuple[np.ndarray, np.ndarray, dict[str, int]]:
        """(values, hits) of all signals in the last ten seconds, shape (ticks, signals) each, and where each
        stands.
        """
        if self.layout is None:
            return np.zeros((0, 0)), np.zeros((0, 0), dtype=int), {}
        layout = self.layout["layout"]
        rows = [
            packet.blocks[wire.BlockId.SIGNALS]
            for packet in map(wire.decode, self.kept)
            if packet.layout == layout["id"]
        ]
        values = np.array(rows, dtype=float).reshape(len(rows), len(layout["signals"]))
        hits = (values > 0.0).astype(np.int64) * np.array(
            [one["kind"] == "hits" for one in layout["signals"]], dtype=np.int64
        )
        return (
            values,
            hits,
            {word: i for i, one in enumerate(layout["signals"]) for word in (one["word"], one["id"])},
        )

    def open(self, show: OpenShow) -> None:
        if self.show is not None:
            show.version = self.show.version + 1
        else:
            show.version = int(time.time() * 1000) % 2**31
        self.show = show
        self.opened()

    def opened(self) -> None:
        """Another document: the engine and all desks get it whole."""
        self.send_show()
        self.tell("show", self.show_state())

    def changed(self, glide_ms: float = 0.0, glide_beats: float = 0.0) -> None:
        """The document was edited: the engine makes the same edit, all desks hear what stands where now."""
        show = self.show
        if show is None or show.last is None:
            return
        event = Edited(edit=show.last, glide_ms=glide_ms, glide_beats=glide_beats).model_dump()
        self._send("edit", event=event, revision=show.version, **{"from": show.version - 1})
        places = changed_places(show.last)
        changes = [{"path": path, "value": plain(value_at(show.show, path))} for path in places]
        self.tell(
            "edit",
            {
                "id": show.id,
                "from": show.version - 1,
                "version": show.version,
                "head": show.head,
                "undo": show.undo_name,
                "redo": show.redo_name,
                "changes": changes,
            },
        )

    def send_show(self) -> None:
        if self.show is not None:
            self._send(
                "show",
                show=self.show.show.model_dump(),
                revision=self.show.version,
                positions_s=self.positions_s,
            )

    def show_state(self) -> dict | None:
        show = self.show
        if show is None:
            return None
        return {
            "id": show.id,
            "version": show.version,
            "head": show.head,
            "undo": show.undo_name,
            "redo": show.redo_name,
            "document": show.show.model_dump(),
        }

    def _send(self, do: str, **what: Any) -> None:
        try:
            self.caller.send(do, **what)
        except zmq.Again:
            # Ten thousand commands wait already: the engine is away, and gets the newest show when it is
            # back.
            pass

    def seek(self, seconds: float, place: str) -> None:
        self._send("seek", seconds=seconds, input=place)

    def act(self, event: Held | GivenBack | BeatTurned | RoomHeard) -> None:
        """A hand on the performance that is no edit."""
        self._send("event", event=event.model_dump())

    def library_changed(self, trouble: str) -> None:
        self.library, self.library_trouble = self.library + 1, trouble

    def record(self, place: str, name: str) -> None:
        self._send("record", input=place, name=name)

    def end_recording(self, place: str) -> None:
        self._send("end-recording", input=place)

    def heard_lately(self, place: str) -> tuple[np.ndarray, np.ndarray]:
        """(display levels in dBFS (frames, bins), stream seconds (frames,)) of an input in the last
        frames.
        """
        if self.layout is None:
            return np.zeros((0, 0)), np.zeros(0)
        layout = self.layout["layout"]
        order, bins = [one["id"] for one in layout["inputs"]], layout["spectrum"]["bins"]
        packets = [packet for packet in map(wire.decode, self.kept) if packet.layout == layout["id"]]
        if place not in order or not packets:
            return np.zeros((0, bins)), np.zeros(0)
        first = order.index(place) * bins
        rows = [
            p.blocks[wire.BlockId.SPECTRUM][first : first + bins] * (90.0 / 255.0) - 90.0 for p in packets
        ]
        return np.array(rows), np.array([p.time for p in packets])

    def measure(self) -> None:
        self._send("measure")

    def tell(self, kind: str, data: Any) -> None:
        for viewer in self.viewers:
            viewer.tell(kind, data)

    async def view(self, socket: WebSocket) -> None:
        """Serve one page until it goes. It may say {"want": [block ids]}, {"fader": name, "position": 0..1},
        {"hold": target, "value": …} (without a value: where it is) or {"give_back": target or ""}; anything
        else is answered, not obeyed.
        """
        viewer = Viewer(socket)
        self.viewers.add(viewer)
        if self.layout is not None:
            viewer.tell("layout", self.layout)
        if self.show is not None:
            viewer.tell("show", self.show_state())
        viewer.tell("state", self.news())
        sending = asyncio.create_task(viewer.send())
        try:
            while True:
                message = await socket.receive()
                if message["type"] == "websocket.disconnect":
                    break
                try:
                    asked = orjson.loads(message.get("text") or "")
                    if "fader" in asked:
                        self.controls.moved(str(asked["fader"]), float(asked["position"]))
                    elif "hold" in asked:
                        self.act(Held(target=asked["hold"], value=asked.get("value")))
                    elif "give_back" in asked:
                        self.act(
                            GivenBack(
                                target=asked["give_back"],
                                **({"glide_ms": asked["glide_ms"]} if "glide_ms" in asked else {}),
                            )
                        )
                    else:
                        viewer.wanted = {int(block) for block in asked["want"]}
                except (orjson.JSONDecodeError, KeyError, TypeError, ValueError):
                    viewer.tell(
                        "problem",
                        {
                            "title": "That message was not understood",
                            "detail": 'A page may say {"want": [block ids]}.',
                        },
                    )
        except (WebSocketDisconnect, RuntimeError):
            pass
        finally:
            self.viewers.discard(viewer)
            sending.cancel()

    async def listen(self, socket: WebSocket, place: str, channels: int, rate: int) -> None:
        """Take live sound for an input from a page: interleaved float32. The page that came last is heard."""
        resampler = ResampleStream(rate, 48_000, channels, dtype="float32") if rate != 48_000 else None
        self.audio_owner[place] = socket
        try:
            while True:
                message = await socket.receive()
                if message["type"] == "websocket.disconnect":
                    break
                pcm = message.get("bytes")
                if pcm is None or len(pcm) > 1 << 20 or len(pcm) % (4 * channels):
                    await socket.close(1003, "Live sound is whole float32 samples.")
                    break
                if self.audio_owner.get(place) is not socket:
                    await socket.close(4000, "Another page sends live sound now.")
                    break
                if resampler is not None:
                    pcm = resampler.resample_chunk(np.frombuffer(pcm, "<f4").reshape(-1, channels)).tobytes()
                self._send("audio", input=place, pcm=pcm, channels=channels)
        except (WebSocketDisconnect, RuntimeError):
            pass

    def close(self) -> None:
        self.caller.close()
        self.context.destroy(linger=0)

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
from fulgura.places import Places
from fulgura.web.show import OpenShow, Saver

FRAMES_KEPT = 3
"""Frames that wait for a slow viewer before it loses its oldest."""
NEWS_KEPT = 400
STALE_S = 1.0


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
        self.layout: dict | None = None
        self.state: dict = {}
        self.frame_at = 0.0
        self.position_s = 0.0
        self.show: OpenShow | None = None
        self.audio_owner: object | None = None
        self.sent_version = -1

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
        position = state.get("input", {}).get("position_s")
        if position:
            self.position_s = position
        # The engine says which version it plays: after a crash of either side, this alone puts things right.
        if self.show is not None and (state["needs_show"] or state["revision"] != self.show.version):
            self.send_show()
        if self.layout is None:
            self._send("hello")

    def news(self) -> dict:
        """What every desk shows of the machine's health."""
        return {
            "engine": self.engine_alive, "saved": not self.saver.trouble, "trouble": self.saver.trouble,
            "unsaved": len(self.saver.waiting) if self.saver.trouble else 0, **{k: v for k, v in self.state.items() if k not in ("needs_show", "revision")},
        }

    def open(self, show: OpenShow) -> None:
        if self.show is not None:
            show.version = self.show.version + 1
        else:
            show.version = int(time.time() * 1000) % 2**31
        self.show = show
        self.changed()

    def changed(self) -> None:
        """The document changed: the engine and all desks hear of it."""
        self.send_show()
        self.tell("show", self.show_state())

    def send_show(self) -> None:
        if self.show is not None:
            self._send("show", show=self.show.show.model_dump(), revision=self.show.version, position_s=self.position_s)

    def show_state(self) -> dict | None:
        show = self.show
        if show is None:
            return None
        return {"id": show.id, "version": show.version, "head": show.head, "undo": show.undo_name, "redo": show.redo_name, "document": show.show.model_dump()}

    def _send(self, do: str, **what: Any) -> None:
        try:
            self.caller.send(do, **what)
        except zmq.Again:
            pass  # Ten thousand commands wait already: the engine is away, and gets the newest show when it is back.

    def seek(self, seconds: float) -> None:
        self._send("seek", seconds=seconds)

    def measure(self) -> None:
        self._send("measure")

    def tell(self, kind: str, data: Any) -> None:
        for viewer in self.viewers:
            viewer.tell(kind, data)

    async def view(self, socket: WebSocket) -> None:
        """Serve one page until it goes. It may say {"want": [block ids]}; anything else is answered, not obeyed."""
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
                    viewer.wanted = {int(block) for block in asked["want"]}
                except (orjson.JSONDecodeError, KeyError, TypeError, ValueError):
                    viewer.tell("problem", {"title": "That message was not understood", "detail": 'A page may say {"want": [block ids]}.'})
        except (WebSocketDisconnect, RuntimeError):
            pass
        finally:
            self.viewers.discard(viewer)
            sending.cancel()

    async def listen(self, socket: WebSocket, channels: int, rate: int) -> None:
        """Take live sound from a page: interleaved float32. The page that came last is heard."""
        resampler = ResampleStream(rate, 48_000, channels, dtype="float32") if rate != 48_000 else None
        self.audio_owner = socket
        try:
            while True:
                message = await socket.receive()
                if message["type"] == "websocket.disconnect":
                    break
                pcm = message.get("bytes")
                if pcm is None or len(pcm) > 1 << 20 or len(pcm) % (4 * channels):
                    await socket.close(1003, "Live sound is whole float32 samples.")
                    break
                if self.audio_owner is not socket:
                    await socket.close(4000, "Another page sends live sound now.")
                    break
                if resampler is not None:
                    pcm = resampler.resample_chunk(np.frombuffer(pcm, "<f4").reshape(-1, channels)).tobytes()
                self._send("audio", pcm=pcm, channels=channels)
        except (WebSocketDisconnect, RuntimeError):
            pass

    def close(self) -> None:
        self.caller.close()
        self.context.destroy(linger=0)

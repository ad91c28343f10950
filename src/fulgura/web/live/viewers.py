"""The pages that look on: frames and news out to them. What they say is given on."""

import asyncio
from collections import deque
from collections.abc import Callable
from itertools import count
from typing import Any

import orjson
from fastapi import WebSocket, WebSocketDisconnect

from fulgura.core import wire

FRAMES_KEPT = 3
"""Frames that wait for a slow viewer before it loses its oldest."""
NEWS_KEPT = 400
NUMBERS = count(1)


class Viewer:
    """One connected page. A hidden panel asks for no blocks, and gets none."""

    def __init__(self, socket: WebSocket, output: str = "") -> None:
        """output: the address of the one that it shows, empty for a desk."""
        self.socket, self.output = socket, output
        self.name = f"page-{next(NUMBERS)}"
        self.wanted: set[int] = set()
        self.frames: deque[bytes] = deque(maxlen=FRAMES_KEPT)
        self.news: deque[str] = deque(maxlen=NEWS_KEPT)
        self.ready = asyncio.Event()

    def frame(self, message: bytes) -> None:
        """A frame for it, if it wants any."""
        if self.wanted:
            if len(self.frames) == FRAMES_KEPT:
                # What a slow viewer misses of the picture is gone; hits and beats still reach its score.
                lost = self.frames.popleft()
                self.frames[0] = wire.with_events_of(lost, self.frames[0])
            self.frames.append(message)
            self.ready.set()

    def tell(self, kind: str, data: Any) -> None:
        """News for it."""
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


class Viewers:
    """All connected pages."""

    def __init__(self) -> None:
        self.connected: set[Viewer] = set()

    def __bool__(self) -> bool:
        return bool(self.connected)

    def frame(self, message: bytes) -> None:
        for viewer in self.connected:
            viewer.frame(message)

    def tell(self, kind: str, data: Any) -> None:
        """News for all."""
        for viewer in self.connected:
            viewer.tell(kind, data)

    def tell_each(self, kind: str, data: Callable[[Viewer], Any]) -> None:
        """News that each page has in its own way; None for those that it does not concern."""
        for viewer in self.connected:
            if (news := data(viewer)) is not None:
                viewer.tell(kind, news)

    async def serve(
        self,
        socket: WebSocket,
        greet: Callable[[Viewer], None],
        said: Callable[[dict[str, Any], str], None],
        gone: Callable[[str], None],
        output: str = "",
    ) -> None:
        """Serve one page until it goes. output: the address of the one that it shows, empty for a desk.

        greet: tells it what it must know first. It may say {"want": [block ids]}; whatever else it says goes
        to ``said``, with a name for the page, and what that refuses with KeyError, TypeError or ValueError is
        answered, not obeyed. gone: hears of its end.
        """
        viewer = Viewer(socket, output)
        self.connected.add(viewer)
        greet(viewer)
        sending = asyncio.create_task(viewer.send())
        try:
            while True:
                message = await socket.receive()
                if message["type"] == "websocket.disconnect":
                    break
                try:
                    asked = orjson.loads(message.get("text") or "")
                    if "want" in asked:
                        viewer.wanted = {int(block) for block in asked["want"]}
                    else:
                        said(asked, viewer.name)
                except (orjson.JSONDecodeError, KeyError, TypeError, ValueError):
                    viewer.tell(
                        "problem",
                        {
                            "title": "That message was not understood",
                            "detail": 'A page may say {"want": [block ids]} or {"event": {...}}.',
                        },
                    )
        except (WebSocketDisconnect, RuntimeError):
            pass
        finally:
            self.connected.discard(viewer)
            sending.cancel()
            gone(viewer.name)

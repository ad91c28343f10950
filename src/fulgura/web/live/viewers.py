"""The pages that look on: frames and news out to them. What they say is given on.

A page that does not read costs nothing: it gets no more, and is closed. When this process itself cannot
keep up, all get fewer pictures, never later edits.
"""

import asyncio
import contextlib
import time
from collections import deque
from collections.abc import Callable
from itertools import count
from typing import Any

import orjson
from fastapi import WebSocket, WebSocketDisconnect

from fulgura.web.live.outgoing import Missed, Outgoing

FRAMES_KEPT = 3
"""Frames that wait for a slow viewer before it loses its oldest."""
NEWS_KEPT = 400
MUTE_S, GONE_S = 2.0, 10.0
"""A page that has read nothing for so long gets no more, and is closed."""
NUMBERS = count(1)
EASY_S, HARD_S = 0.02, 0.08
"""How late this process may be: while it is later than the second, half as many pictures go out; once it is
sooner than the first, twice as many again.
"""
PACES = (1, 2, 4)
"""One frame of so many goes out: 60, 30 or 15 a second."""


class Viewer:
    """One connected page. A hidden panel asks for no blocks, and gets none."""

    def __init__(self, socket: WebSocket, output: str = "") -> None:
        """output: the address of the one that it shows, empty for a desk."""
        self.socket, self.output = socket, output
        self.name = f"page-{next(NUMBERS)}"
        self.wanted: frozenset[int] = frozenset()
        self.frames: deque[Outgoing] = deque()
        self.missed = Missed()
        self.news: deque[str] = deque(maxlen=NEWS_KEPT)
        self.ready, self.given_up = asyncio.Event(), asyncio.Event()
        self.since: float | None = None
        """When it was given what it has not read yet, in monotonic seconds."""
        self.told_all = True
        """Whether it got all news: one that did not must be told all anew once it reads again."""

    def mute_s(self) -> float:
        """For how long it has read nothing of what is there for it."""
        return time.monotonic() - self.since if self.since is not None else 0.0

    def frame(self, frame: Outgoing, shown: bool = True) -> None:
        """A frame for it, if it wants any. One that is not shown leaves what happened in it."""
        if not self.wanted:
            return
        if not shown or self.mute_s() > MUTE_S:
            self.missed.add(frame)
            return
        if len(self.frames) == FRAMES_KEPT:
            # What a slow viewer misses of the picture is gone.
            self.missed.add(self.frames.popleft())
        self.frames.append(frame)
        self.ready.set()

    def next_frame(self) -> bytes:
        """What goes to it of the oldest frame that waits."""
        return self.missed.before(self.frames.popleft(), self.wanted)

    def tell(self, kind: str, data: Any) -> None:
        """News for it."""
        self.tell_text(_text(kind, data))

    def tell_text(self, text: str) -> None:
        if self.mute_s() > MUTE_S:
            self.news.clear()
            self.frames.clear()
            self.told_all = False
            return
        self.news.append(text)
        self.ready.set()

    async def send(self, greet: Callable[["Viewer"], None]) -> None:
        """Send what waits, for ever; news before frames. greet: tells all anew to a page that missed news."""
        while True:
            await self.ready.wait()
            self.ready.clear()
            while self.news or self.frames:
                self.since = time.monotonic()
                if self.news:
                    await self.socket.send_text(self.news.popleft())
                else:
                    await self.socket.send_bytes(self.next_frame())
                self.since = None
                if not self.told_all:
                    self.told_all = True
                    greet(self)


class Pace:
    """How many frames go out, by how late this process is."""

    def __init__(self) -> None:
        self.step = 0
        self.calm = 0

    @property
    def every(self) -> int:
        return PACES[self.step]

    def late(self, seconds: float) -> None:
        """How much later it was just now than it wanted to be; asked some times a second."""
        if seconds > HARD_S:
            self.step, self.calm = min(self.step + 1, len(PACES) - 1), 0
        elif seconds < EASY_S:
            self.calm += 1
            if self.calm >= 8 and self.step:
                self.step, self.calm = self.step - 1, 0
        else:
            self.calm = 0


class Viewers:
    """All connected pages."""

    def __init__(self) -> None:
        self.connected: set[Viewer] = set()
        self.pace = Pace()

    def __bool__(self) -> bool:
        return bool(self.connected)

    def frame(self, message: bytes) -> None:
        if not self.connected:
            return
        frame = Outgoing(message)
        shown = frame.number % self.pace.every == 0
        for viewer in self.connected:
            viewer.frame(frame, shown)

    def tell(self, kind: str, data: Any) -> None:
        """News for all."""
        if self.connected:
            text = _text(kind, data)
            for viewer in self.connected:
                viewer.tell_text(text)

    def tell_each(self, kind: str, data: Callable[[Viewer], Any]) -> None:
        """News that each page has in its own way; None for those that it does not concern."""
        # Most pages are told the very same: that is written once.
        texts: dict[int, tuple[Any, str]] = {}
        for viewer in self.connected:
            if (news := data(viewer)) is None:
                continue
            if id(news) not in texts:
                texts[id(news)] = news, _text(kind, news)
            viewer.tell_text(texts[id(news)][1])

    def look_after(self, late_s: float) -> None:
        """Some times a second: let go of pages that do not read. late_s: how late that is."""
        self.pace.late(late_s)
        for viewer in self.connected:
            if viewer.mute_s() > GONE_S:
                viewer.given_up.set()

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
        tasks = [
            asyncio.create_task(each)
            for each in (viewer.send(greet), self._hear(viewer, said), viewer.given_up.wait())
        ]
        try:
            await asyncio.wait(tasks, return_when=asyncio.FIRST_COMPLETED)
        finally:
            self.connected.discard(viewer)
            for task in tasks:
                task.cancel()
            gone(viewer.name)
        for ended in await asyncio.gather(*tasks, return_exceptions=True):
            if isinstance(ended, Exception) and not isinstance(ended, WebSocketDisconnect | RuntimeError):
                raise ended
        if viewer.given_up.is_set():
            with contextlib.suppress(TimeoutError, RuntimeError, WebSocketDisconnect):
                await asyncio.wait_for(socket.close(1013, "This page has not read for long."), 1.0)

    async def _hear(self, viewer: Viewer, said: Callable[[dict[str, Any], str], None]) -> None:
        """Until it goes."""
        while (message := await viewer.socket.receive())["type"] != "websocket.disconnect":
            try:
                asked = orjson.loads(message.get("text") or "")
                if "want" in asked:
                    viewer.wanted = frozenset(int(block) for block in asked["want"])
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


def _text(kind: str, data: Any) -> str:
    return orjson.dumps({"type": kind, "data": data}).decode()

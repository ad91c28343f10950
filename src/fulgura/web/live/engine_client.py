"""The engine as this process sees it: commands to it, frames, layouts and states from it. Over the
bus only.
"""

import time
from collections.abc import Callable, Mapping
from typing import Any

import msgpack
import zmq
import zmq.asyncio

from fulgura import bus
from fulgura.core.kinds.faults import Fault
from fulgura.core.show.events import Event
from fulgura.folders import Folders

STALE_S = 1.0
"""Without a frame for so long, the engine counts as away."""


class EngineClient:
    """Sends commands to the engine and takes what it publishes.

    layout: what frames mean and what is drawn, as it was published last; state: what it measures of itself;
    positions_s: where tracks are, for an engine that begins anew.
    """

    def __init__(self, folders: Folders) -> None:
        self.context = zmq.asyncio.Context()
        self.frames = self.context.socket(zmq.SUB)
        self.frames.rcvhwm = 60
        self.frames.subscribe(b"")
        self.frames.connect(bus.addresses(folders.run)[0])
        self.caller = bus.Caller(folders.run, zmq.Context(self.context))
        self.layout: dict[str, Any] | None = None
        self.state: dict[str, Any] = {}
        self.positions_s: dict[str, float] = {}
        self._frame_at = 0.0

    @property
    def alive(self) -> bool:
        """Whether a frame came lately."""
        return time.monotonic() - self._frame_at < STALE_S

    async def run(self, on_frame: Callable[[bytes], None], on: Mapping[bytes, Callable[[Any], None]]) -> None:
        """Take what the engine publishes, for ever. on: who hears of each other topic."""
        self.send("hello")
        while True:
            topic, message = await self.frames.recv_multipart()
            if topic == bus.FRAME:
                self._frame_at = time.monotonic()
                on_frame(message)
                continue
            data = msgpack.unpackb(message)
            if topic == bus.LAYOUT:
                self.layout = data
            elif topic == bus.STATE:
                self._take_state(data)
            if topic in on:
                on[topic](data)

    def _take_state(self, state: dict[str, Any]) -> None:
        self.state = state
        self.positions_s |= {
            input_id: each["position_s"]
            for input_id, each in state["inputs"].items()
            if each.get("position_s")
        }

    def fault_of(self, input_id: str) -> Fault | None:
        """What is wrong with an input."""
        found = self.state.get("inputs", {}).get(input_id, {}).get("fault")
        return Fault.model_validate(found) if found else None

    def send(self, do: str, **what: Any) -> None:
        """Queue a command."""
        try:
            self.caller.send(do, **what)
        except zmq.Again:
            # Ten thousand commands wait already: the engine is away, and gets the newest show when back.
            pass

    def act(self, event: Event) -> None:
        """A hand on the performance that is no edit of ours; it moved just now."""
        self.send("event", event=event.model_dump(), at=time.monotonic())

    def close(self) -> None:
        self.caller.close()
        self.context.destroy(linger=0)

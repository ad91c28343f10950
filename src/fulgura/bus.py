"""The bus between the engine and everyone else: ZeroMQ over sockets in a private folder. One small module.

The engine publishes (frames, layouts, states) and takes commands; everyone else does the reverse. Queues are
bounded: a slow subscriber loses its oldest frames, commands wait while the engine restarts.
"""

from pathlib import Path
from typing import Any

import msgpack
import zmq

FRAME, LAYOUT, STATE = b"F", b"L", b"S"
"""Topics: a frame message (wire format), a layout with its plan (msgpack), the engine's state (msgpack)."""
EDIT, SURFACE, CONTROL, FEEDBACK, TEMPO = b"E", b"U", b"C", b"B", b"T"
"""And, all msgpack: an edit that a hand made at the engine; what the playing surface shows; what controls
said; what they are to show; where the beat is.
"""


def addresses(folder: Path) -> tuple[str, str]:
    """Where frames are published and where commands are taken."""
    return f"ipc://{folder}/frames", f"ipc://{folder}/commands"


class EngineSide:
    """Publishes frames, takes commands. Nothing here ever blocks."""

    def __init__(self, folder: Path) -> None:
        self.context = zmq.Context()
        publish, commands = addresses(folder)
        self.frames = self.context.socket(zmq.PUB)
        self.frames.sndhwm = 120
        self.commands = self.context.socket(zmq.PULL)
        self.commands.rcvhwm = 10_000
        for socket, address in ((self.frames, publish), (self.commands, commands)):
            socket.linger = 0
            socket.bind(address)

    def publish(self, topic: bytes, message: bytes) -> None:
        try:
            self.frames.send_multipart([topic, message], zmq.DONTWAIT, copy=True)
        except zmq.Again:
            pass

    def publish_data(self, topic: bytes, data: Any) -> None:
        self.publish(topic, msgpack.packb(data))

    def take(self, wait_s: float = 0.0) -> list[dict]:
        """All commands that have arrived; waits up to wait_s for the first."""
        taken: list[dict] = []
        if wait_s > 0 and not self.commands.poll(max(1, int(wait_s * 1000))):
            return taken
        while len(taken) < 1000:
            try:
                taken.append(msgpack.unpackb(self.commands.recv(zmq.DONTWAIT)))
            except zmq.Again:
                break
            except (ValueError, msgpack.UnpackException):
                continue
        return [command for command in taken if isinstance(command, dict)]

    def close(self) -> None:
        self.context.destroy(linger=0)


class Caller:
    """Sends commands to the engine, from any one thread."""

    def __init__(self, folder: Path, context: zmq.Context | None = None) -> None:
        self.socket = (context or zmq.Context.instance()).socket(zmq.PUSH)
        self.socket.sndhwm = 10_000
        self.socket.linger = 0
        self.socket.connect(addresses(folder)[1])

    def send(self, do: str, **what: Any) -> None:
        """Queue a command; raises zmq.Again when ten thousand are waiting already."""
        self.socket.send(msgpack.packb({"do": do, **what}), zmq.DONTWAIT)

    def close(self) -> None:
        self.socket.close(0)

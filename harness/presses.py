"""How long a press takes: from when it is made to when the frame that shows it is published."""

import socket
import time
from collections.abc import Callable
from typing import Any

import msgpack
import numpy as np
import zmq

from fulgura import bus
from fulgura.core import wire
from harness.measuring import lent
from harness.stack import Stack

GAP_S = (0.05, 0.12)
# Presses that are made at most, and how many of them must be the program's own for a percentile.
MOST, FEWEST = 600, 40


class Frames:
    """Frames as the engine publishes them, beside the web process."""

    def __init__(self, stack: Stack) -> None:
        self.socket: zmq.Socket[bytes] = zmq.Context.instance().socket(zmq.SUB)
        for topic in (bus.FRAME, bus.LAYOUT):
            self.socket.subscribe(topic)
        self.socket.connect(bus.addresses(stack.folders.run)[0])
        self.caller = bus.Caller(stack.folders.run, zmq.Context.instance())

    def index_of(self, signal: str) -> int:
        """Where a signal stands in the frames' block."""
        self.caller.send("hello")
        while True:
            topic, message = self.socket.recv_multipart()
            if topic == bus.LAYOUT:
                signals = msgpack.unpackb(message)["layout"]["signals"]
                return next(at for at, row in enumerate(signals) if row["id"] == signal)

    def wait_for_hit(self, index: int, seconds: float) -> float | None:
        """When a frame comes in which a signal is up, in monotonic seconds; None when none does."""
        until = time.monotonic() + seconds
        while (left := until - time.monotonic()) > 0:
            if not self.socket.poll(int(left * 1000)):
                return None
            topic, message = self.socket.recv_multipart()
            came = time.monotonic()
            if topic == bus.FRAME and wire.decode(message).blocks[wire.BlockId.SIGNALS][index] > 0:
                return came
        return None

    def close(self) -> None:
        self.caller.close()
        self.socket.close(0)


def press_to_frame(
    stack: Stack,
    press: Callable[[], float | None],
    release: Callable[[], object],
    signal: str,
    count: int = 120,
) -> np.ndarray:
    """Milliseconds from press to frame, of so many presses during which the host lent nothing to others; of
    all that were made when it hardly ever lent nothing. Shape (count,), or (MOST,). press: makes one, and may
    say when it did, in monotonic seconds. Raises AssertionError for a press that was lost.
    """
    frames, chance = Frames(stack), np.random.default_rng(5)
    index = frames.index_of(signal)
    took: list[float] = []
    ours: list[float] = []
    while len(ours) < count and len(took) < MOST:
        time.sleep(chance.uniform(*GAP_S))
        while frames.socket.poll(0):
            frames.socket.recv_multipart()
        before, at = lent(), time.monotonic()
        at = press() or at
        came = frames.wait_for_hit(index, 1.0)
        release()
        assert came is not None, "a press was lost"
        took.append(1000.0 * (came - at))
        if lent() == before:
            ours.append(took[-1])
    frames.close()
    return np.array(ours if len(ours) >= FEWEST else took)


def line_to(port: int) -> socket.socket:
    """A MIDI line over the network."""
    line = socket.create_connection(("127.0.0.1", port))
    line.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
    return line


def percentiles(took: np.ndarray) -> dict[str, Any]:
    """Their median and the 95th percentile, rounded."""
    p50, p95 = np.percentile(took, [50, 95])
    return {"p50": round(float(p50), 1), "p95": round(float(p95), 1)}

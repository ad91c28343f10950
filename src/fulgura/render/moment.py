"""This moment of an output as a PNG: the engine's next frames drawn in Python, at any size, with alpha where
its ground is transparent.
"""

import io
import sys
import time
from pathlib import Path
from typing import Any

import msgpack
import numpy as np
import zmq
from numpy.typing import NDArray
from PIL import Image

from fulgura import bus
from fulgura.core import wire
from fulgura.core.picture.plan import plan_of
from fulgura.render.executor import Executor

DRAWN_S = 2.0
"""Feedback of before is not known here: it is drawn for so long."""
PATIENCE_S = 20.0


def straight(premultiplied: NDArray[Any]) -> NDArray[Any]:
    """RGBA bytes whose colours are not multiplied by alpha, as PNG has them, from such that are."""
    alpha = premultiplied[..., 3:].astype(float)
    colour = np.where(alpha > 0, premultiplied[..., :3] * 255.0 / np.maximum(alpha, 1.0), 0.0)
    return np.concatenate([np.clip(np.round(colour), 0, 255), alpha], axis=-1).astype(np.uint8)


def draw(folder: Path, pictures: Path, output: str, size: tuple[int, int]) -> bytes | None:
    """The PNG of an output; None when the engine says nothing of it in time."""
    context = zmq.Context()
    frames, caller = context.socket(zmq.SUB), bus.Caller(folder, context)
    frames.connect(bus.addresses(folder)[0])
    for topic in (bus.FRAME, bus.LAYOUT):
        frames.subscribe(topic)
    executor, plan, drawn, until = Executor(*size, pictures), None, 0, 0.0
    end = time.monotonic() + PATIENCE_S
    caller.send("hello")
    try:
        while time.monotonic() < end:
            if not frames.poll(500):
                continue
            topic, message = frames.recv_multipart()
            if topic == bus.LAYOUT:
                plan = plan_of(msgpack.unpackb(message), output)
                if plan is not None:
                    executor.load(plan)
            elif plan is not None and not frames.poll(
                0
            ):  # The newest: a large picture takes longer than a frame.
                packet = wire.decode(message)
                executor.draw(packet, min(6, max(1, packet.number - drawn)))
                drawn, until = packet.number, until or time.monotonic() + DRAWN_S
                if time.monotonic() > until:
                    return _png(executor, plan.clear_ground)
        return None
    finally:
        executor.close()
        context.destroy(linger=0)


def _png(executor: Executor, clear_ground: bool) -> bytes:
    out = io.BytesIO()
    pixels = straight(executor.pixels(4)) if clear_ground else np.ascontiguousarray(executor.pixels())
    Image.fromarray(pixels).save(out, "PNG")
    return out.getvalue()


if __name__ == "__main__":
    png = draw(Path(sys.argv[1]), Path(sys.argv[2]), sys.argv[3], (int(sys.argv[4]), int(sys.argv[5])))
    sys.stdout.buffer.write(png or b"")

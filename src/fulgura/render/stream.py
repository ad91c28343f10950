"""The live picture drawn in Python, as JPEG frames one after the other: for browsers that cannot draw it
themselves.
"""

import io
import sys
import time
from pathlib import Path
from typing import BinaryIO

import msgpack
import numpy as np
import zmq
from PIL import Image

from fulgura import bus
from fulgura.core import wire
from fulgura.core.picture.plan import Plan, plan_of
from fulgura.render.executor import Executor

SIZE = (640, 360)
MOST_A_SECOND = 20.0
BOUNDARY = "picture"


def part(jpeg: bytes) -> bytes:
    """One picture of a multipart stream (RFC 2046, section 5.1)."""
    return (
        f"--{BOUNDARY}\r\nContent-Type: image/jpeg\r\nContent-Length: {len(jpeg)}\r\n\r\n".encode()
        + jpeg
        + b"\r\n"
    )


def run(folder: Path, pictures: Path, out: BinaryIO, output: str = "", size: tuple[int, int] = SIZE) -> None:
    """Draw what the engine publishes, newest first, until nobody reads any more. output: its id, or the live
    picture as the desk sees it.
    """
    context = zmq.Context()
    frames, caller = context.socket(zmq.SUB), bus.Caller(folder, context)
    frames.connect(bus.addresses(folder)[0])
    for topic in (bus.FRAME, bus.LAYOUT):
        frames.subscribe(topic)
    executor, plan, drawn = Executor(*size, pictures), None, 0
    try:
        while True:
            started = time.monotonic()
            if plan is None:
                caller.send("hello")  # It tells what its frames mean.
            newest = None
            if frames.poll(500):
                while frames.poll(0):
                    topic, message = frames.recv_multipart()
                    if topic == bus.LAYOUT:
                        layout = msgpack.unpackb(message)
                        plan = plan_of(layout, output) if output else Plan.model_validate(layout["plan"])
                        if plan is not None:
                            executor.load(plan)
                    else:
                        newest = message
            if newest is None or plan is None:
                continue
            packet = wire.decode(newest)
            executor.draw(packet, min(6, max(1, packet.number - drawn)))
            drawn = packet.number
            picture = io.BytesIO()
            Image.fromarray(np.ascontiguousarray(executor.pixels())).save(picture, "JPEG", quality=82)
            out.write(part(picture.getvalue()))
            out.flush()
            time.sleep(max(0.0, 1.0 / MOST_A_SECOND - (time.monotonic() - started)))
    except BrokenPipeError:
        pass
    finally:
        executor.close()
        context.destroy(linger=0)


if __name__ == "__main__":
    _, run_folder, picture_folder, *of = sys.argv
    at = (of[0], (int(of[1]), int(of[2]))) if of else ()
    run(Path(run_folder), Path(picture_folder), sys.stdout.buffer, *at)

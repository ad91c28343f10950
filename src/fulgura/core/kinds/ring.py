"""Lines that are added to those of before: a ring of them in a texture, of which only new ones go on the
wire.

A block is a head of eight bytes and its lines, the newest first, each of so many bytes. Head: uint32, the
number of the newest line, counted from 1 on; uint16, how many bytes a line has; uint16, how many lines
follow. A line stands in the texture at its number modulo LINES; those that an executor has missed are as the
oldest that follows.
"""

from typing import NamedTuple

import numpy as np

from fulgura.core.arrays import Array

LINES = 2048
HEAD_BYTES = 8


def block_of(number: int, lines: Array) -> Array:
    """A block. number: of the newest line; lines: uint8, shape (lines, bytes), the newest first."""
    head = np.array([number & 0xFFFFFFFF], dtype="<u4").tobytes()
    head += np.array([lines.shape[1], lines.shape[0]], dtype="<u2").tobytes()
    return np.frombuffer(head + np.ascontiguousarray(lines, dtype=np.uint8).tobytes(), dtype=np.uint8)


class Read(NamedTuple):
    """A block as it is read."""

    number: int
    lines: Array


def read(block: Array) -> Read:
    """A block's head and lines."""
    raw = np.ascontiguousarray(block, dtype=np.uint8).tobytes()
    number = int(np.frombuffer(raw, "<u4", 1)[0])
    width, count = (int(each) for each in np.frombuffer(raw, "<u2", 2, 4))
    return Read(number, np.frombuffer(raw, np.uint8, width * count, HEAD_BYTES).reshape(count, width))

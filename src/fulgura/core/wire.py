"""Frames on the wire: written down in docs/formats/frame.md; the desk's reader is desk/src/shared/wire.ts.

A fixed little-endian header, then blocks of (id, kind, length, bytes), each padded to four bytes.
"""

import struct
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from enum import IntEnum
from typing import Any

import numpy as np

from fulgura.core.arrays import Array

MAGIC = b"FULG"
VERSION = 1
HEADER = struct.Struct("<4sHHIIQd")
"""magic, version, number of blocks, plan id, layout id, frame number, stream time in seconds."""
BLOCK_HEADER = struct.Struct("<HHI")


class BlockId(IntEnum):
    """What a block holds."""

    UNIFORMS = 1
    """The draw plan's uniform block."""
    WAVEFORM = 2
    """512 samples of the newest sound, -1..1."""
    STATUS = 3
    """See docs/formats/frame.md: 17 numbers of each input, for meters."""
    SIGNALS = 4
    """The signal table's values."""
    LIVE = 5
    """Every parameter's live value."""
    ROUTES = 6
    """For each route in turn: what came in, what came out of each shaper, what it gives out. The layout says
    where each begins.
    """
    SPECTRUM = 7
    """96 display levels of each input, 0 (-90 dBFS) to 255 (0 dBFS)."""
    HITS = 8
    """Rows of (detector, reason, time, strength, threshold)."""
    BEATS = 9
    """Rows of (time, bar position, input): beats announced since the last frame."""
    LAMPS = 10
    """Of each light of each lamp, by what is sent: linear red, green and blue of its colour, and its
    intensity, 0..1.
    """
    TELEMETRY = 11
    """Of each route its recent peak, motion in the last bar and clamped share; then the recent peak of each
    signal.
    """
    STEREO = 12
    """The newest samples of the main input for a scope: 1024 of the left, then as many of the right, -1..1.
    """
    POSE = 13
    """Of each lamp, by what is sent: degrees of pan, tilt and width of the beam, and flashes a second."""
    CHANNELS = 14
    """The 512 channels of each universe of the layout, as sent."""
    PICTURE = 15
    """1 while the picture stands still, else 0; how often feedback was cleared since the engine began;
    beats of the show modulo 4096.
    """
    PICTURES = 16
    """Ids of the plans of further pictures, from the first on."""
    PALETTE = 17
    """The colours of the palette in use, linear red, green and blue and a 1 each, 64 of them; those that it
    does not have are its first again.
    """
    # From 64 on: what sources of the shown look have for themselves; the plan says what is what.


class ValueKind(IntEnum):
    """How a block's bytes are to be read."""

    FLOAT32 = 1
    UINT8 = 2
    FLOAT64 = 3
    UINT16 = 4


KINDS: dict[Any, ValueKind] = {
    np.dtype("<f4"): ValueKind.FLOAT32,
    np.dtype("u1"): ValueKind.UINT8,
    np.dtype("<f8"): ValueKind.FLOAT64,
    np.dtype("<u2"): ValueKind.UINT16,
}
TYPES: dict[ValueKind, np.dtype[Any]] = {kind: dtype for dtype, kind in KINDS.items()}


@dataclass
class Packet:
    """A decoded frame message."""

    plan: int
    layout: int
    number: int
    time: float
    blocks: dict[int, Array]


def encode(packet: Packet) -> bytes:
    """A packet to bytes. Blocks must be float32, float64, uint8 or uint16; raises KeyError for others."""
    parts = [
        HEADER.pack(
            MAGIC, VERSION, len(packet.blocks), packet.plan, packet.layout, packet.number, packet.time
        )
    ]
    for block, values in packet.blocks.items():
        raw = values.tobytes()
        parts.append(BLOCK_HEADER.pack(block, KINDS[values.dtype], len(raw)))
        parts.append(raw + b"\0" * (-len(raw) % 4))
    return b"".join(parts)


def decode(message: bytes) -> Packet:
    """Bytes to a packet. Raises ValueError for anything that is not a whole frame message of this version.

    >>> packet = decode(encode(Packet(1, 2, 3, 0.05, {BlockId.LIVE: np.float32([0.5, 1.0])})))
    >>> packet.number, packet.blocks[BlockId.LIVE].tolist()
    (3, [0.5, 1.0])
    """
    if len(message) < HEADER.size:
        raise ValueError("too short for a frame")
    magic, version, count, plan, layout, number, time = HEADER.unpack_from(message)
    if magic != MAGIC or version != VERSION:
        raise ValueError("not a frame of this version")
    blocks, at = {}, HEADER.size
    for _ in range(count):
        if len(message) < at + BLOCK_HEADER.size:
            raise ValueError("a block's header is cut off")
        block, kind, length = BLOCK_HEADER.unpack_from(message, at)
        at += BLOCK_HEADER.size
        if len(message) < at + length or kind not in TYPES or length % TYPES[kind].itemsize:
            raise ValueError("a block is cut off or of an unknown kind")
        blocks[block] = np.frombuffer(message, TYPES[kind], length // TYPES[kind].itemsize, at)
        at += length + (-length % 4)
    return Packet(plan, layout, number, time, blocks)


def keep(message: bytes, wanted: Collection[int]) -> bytes:
    """The same message with only the wanted blocks, so that a hidden panel costs nothing on the way
    either.
    """
    parts, at, kept = [], HEADER.size, 0
    for _ in range(struct.unpack_from("<H", message, 6)[0]):
        block, _, length = BLOCK_HEADER.unpack_from(message, at)
        end = at + BLOCK_HEADER.size + length + (-length % 4)
        if block in wanted:
            parts.append(message[at:end])
            kept += 1
        at = end
    return b"".join([message[:6], struct.pack("<H", kept), message[8 : HEADER.size], *parts])


EVENTS = {BlockId.HITS: 5, BlockId.BEATS: 3}
"""Blocks of things that happened, and how long their rows are: a viewer that loses a frame must not lose
these.
"""
MOST_EVENTS = 500


def events_of(message: bytes) -> tuple[int, dict[int, Array]]:
    """(layout, rows of what happened, by block) of a message; blocks in which nothing did are left out."""
    layout, at, rows = HEADER.unpack_from(message)[4], HEADER.size, {}
    for _ in range(struct.unpack_from("<H", message, 6)[0]):
        block, kind, length = BLOCK_HEADER.unpack_from(message, at)
        at += BLOCK_HEADER.size
        if block in EVENTS and length:
            rows[block] = np.frombuffer(message, TYPES[kind], length // TYPES[kind].itemsize, at)
        at += length + (-length % 4)
    return layout, rows


def with_events(layout: int, rows: Mapping[int, Array], message: bytes) -> bytes:
    """A message with earlier events before its own, unless they mean something else; the newest 500
    of each.
    """
    after = decode(message)
    if layout != after.layout:
        return message
    for block, before in rows.items():
        if block in after.blocks:
            joined = np.concatenate([before, after.blocks[block]])
            after.blocks[block] = joined[-MOST_EVENTS * EVENTS[BlockId(block)] :]
    return encode(after)

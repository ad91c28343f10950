"""Art-Net 4: packets as bytes, both ways. Layout after the protocol's published tables (from memory)."""

import struct
from dataclasses import dataclass

from fulgura.core.arrays import Array
from fulgura.core.show.patch import CHANNELS

PORT = 6454
_IDENTIFIER = b"Art-Net\0"
_VERSION = 14
OUTPUT, POLL, POLL_REPLY = 0x5000, 0x2000, 0x2100
_DMX = struct.Struct("<8sH")
_DMX_REST = struct.Struct(">HBBBBH")
HEADER = _DMX.size + _DMX_REST.size
"""Octets before the first channel: 18."""
SEQUENCE_AT = 12
LAST_PORT_ADDRESS = 32_767


def dmx_packet(port_address: int, channels: Array, sequence: int = 0) -> bytearray:
    """An ArtDmx packet. port_address: net, sub-net and universe in 15 bits; channels: uint8, an even number
    of them; sequence: 1 to 255, 0 where it is not counted.
    """
    raw = channels.tobytes()
    low, net = port_address & 0xFF, port_address >> 8 & 0x7F
    rest = _DMX_REST.pack(_VERSION, sequence, 0, low, net, len(raw))
    return bytearray(_DMX.pack(_IDENTIFIER, OUTPUT) + rest + raw)


def next_sequence(sequence: int) -> int:
    """The one after: from 255 to 1, for 0 says that nobody counts.

    >>> next_sequence(0), next_sequence(255)
    (1, 1)
    """
    return sequence % 255 + 1


@dataclass(frozen=True)
class Dmx:
    """What an ArtDmx packet says."""

    port_address: int
    sequence: int
    channels: bytes


def read(raw: bytes) -> Dmx:
    """An ArtDmx packet read. Raises ValueError for everything else."""
    if len(raw) < HEADER or raw[:8] != _IDENTIFIER:
        raise ValueError("no Art-Net packet")
    _, operation = _DMX.unpack_from(raw)
    if operation != OUTPUT:
        raise ValueError("no ArtDmx packet")
    version, sequence, _, low, net, length = _DMX_REST.unpack_from(raw, _DMX.size)
    if version < _VERSION or net > 127 or not 2 <= length <= CHANNELS or len(raw) < HEADER + length:
        raise ValueError("it is cut off or of another version")
    return Dmx(net << 8 | low, sequence, bytes(raw[HEADER : HEADER + length]))

"""Streaming ACN (ANSI E1.31): data packets as bytes, both ways. Layout after tables 4-1 to 4-3 and 5-1 to
6-3.
"""

import struct
from dataclasses import dataclass
from uuid import UUID

from fulgura.core.arrays import Array
from fulgura.core.show.patch import CHANNELS

PORT = 5568
_ROOT = struct.Struct(">HH12sHI16s")
_FRAMING = struct.Struct(">HI64sBHBBH")
_DMP = struct.Struct(">HBBHHHB")
_IDENTIFIER = b"ASC-E1.17\0\0\0"
_DATA, _E131_DATA, _SET_PROPERTY, _ADDRESS_TYPE = 0x4, 0x2, 0x02, 0xA1
HEADER = _ROOT.size + _FRAMING.size + _DMP.size
"""Octets before the first channel: 126."""
SEQUENCE_AT, OPTIONS_AT = 111, 112
TERMINATED, PREVIEW = 0x40, 0x80
LOST_AFTER_S = 2.5
"""E131_NETWORK_DATA_LOSS_TIMEOUT, appendix A."""


def multicast_group(universe: int) -> str:
    """The address that a universe is sent to (9.3.1).

    >>> multicast_group(7962)
    '239.255.31.26'
    """
    return f"239.255.{universe >> 8}.{universe & 255}"


def _length(octets: int) -> int:
    """Flags 0x7 and the length of what follows, this field included."""
    return 0x7000 | octets


def data_packet(
    component: UUID,
    source: str,
    universe: int,
    priority: int,
    channels: Array,
    sequence: int = 0,
    options: int = 0,
) -> bytearray:
    """A data packet of 638 octets. channels: uint8, shape (512,); source: at most 63 octets of it
    are sent.
    """
    raw = channels.tobytes()
    root = _ROOT.pack(16, 0, _IDENTIFIER, _length(HEADER + len(raw) - 16), _DATA, component.bytes)
    name = source.encode()[:63].decode(errors="ignore").encode()
    length = _length(HEADER + len(raw) - _ROOT.size)
    framing = _FRAMING.pack(length, _E131_DATA, name, priority, 0, sequence, options, universe)
    dmp = _length(_DMP.size + len(raw))
    return bytearray(
        root + framing + _DMP.pack(dmp, _SET_PROPERTY, _ADDRESS_TYPE, 0, 1, 1 + len(raw), 0) + raw
    )


@dataclass(frozen=True)
class Data:
    """What a data packet says. component: who sent it; channels: as many as there are, at most 512."""

    component: bytes
    source: str
    universe: int
    priority: int
    sequence: int
    options: int
    start_code: int
    channels: bytes

    @property
    def terminated(self) -> bool:
        """Whether it is the last of its stream."""
        return bool(self.options & TERMINATED)


def read(raw: bytes) -> Data:
    """A data packet read. Raises ValueError for everything else: another protocol, cut off, values out of
    range.
    """
    if len(raw) < HEADER:
        raise ValueError("too short for a data packet")
    preamble, _, identifier, _, vector, component = _ROOT.unpack_from(raw)
    if preamble != 16 or identifier != _IDENTIFIER or vector != _DATA:
        raise ValueError("no E1.31 data packet")
    framing = _FRAMING.unpack_from(raw, _ROOT.size)
    _, vector, name, priority, _, sequence, options, universe = framing
    _, dmp_vector, address_type, first, step, count, start = _DMP.unpack_from(raw, _ROOT.size + _FRAMING.size)
    right = (vector, dmp_vector, address_type, first, step) == (
        _E131_DATA,
        _SET_PROPERTY,
        _ADDRESS_TYPE,
        0,
        1,
    )
    if not right or not 1 <= count <= CHANNELS + 1 or len(raw) < HEADER + count - 1:
        raise ValueError("its layers do not fit together")
    if priority > 200 or not 1 <= universe <= 63_999:
        raise ValueError("its priority or universe is out of range")
    source = name.split(b"\0")[0].decode(errors="replace")
    channels = bytes(raw[HEADER : HEADER + count - 1])
    return Data(component, source, universe, priority, sequence, options, start, channels)

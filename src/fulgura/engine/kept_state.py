"""What an engine leaves for its successor: in memory that outlives it, whole or not at all."""

import os
import struct
import time
import zlib
from contextlib import suppress
from pathlib import Path
from typing import Any

from fulgura import VERSION
from fulgura.core.kept import as_bytes, from_bytes

HEAD = struct.Struct("<8s16sdIQ")
"""Mark, version, when it was kept (monotonic seconds, the same clock for all processes), CRC-32, length."""
MARK = b"fulgura\0"
OLDEST_S = 10.0
"""What is older is no use to go on from."""


def keep(path: Path, parts: dict[str, Any]) -> None:
    """Leave the parts. Raises OSError."""
    raw = as_bytes(parts)
    head = HEAD.pack(MARK, VERSION.encode()[:16], time.monotonic(), zlib.crc32(raw), len(raw))
    draft = path.with_suffix(".new")
    file = os.open(draft, os.O_WRONLY | os.O_CREAT | os.O_TRUNC | os.O_NOFOLLOW, 0o600)
    try:
        os.writev(file, [head, raw])
    finally:
        os.close(file)
    os.replace(draft, path)


def left(path: Path) -> tuple[dict[str, Any], float] | None:
    """(the parts that were left last, when); None for nothing that is whole, of this version, ours and
    fresh.
    """
    with suppress(OSError, ValueError, struct.error):
        if path.stat().st_uid != os.geteuid():
            return None
        raw = path.read_bytes()
        mark, version, kept_at, checksum, length = HEAD.unpack_from(raw)
        body = raw[HEAD.size :]
        ours = mark == MARK and version.rstrip(b"\0") == VERSION.encode()[:16]
        if not ours or len(body) != length or zlib.crc32(body) != checksum:
            return None
        if not 0.0 <= time.monotonic() - kept_at < OLDEST_S:
            return None
        parts = from_bytes(body)
        assert isinstance(parts, dict)
        return parts, kept_at
    return None

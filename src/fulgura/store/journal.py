"""The journal: an edit is on disk before it is answered. Records in order, each with a checksum; one sync for
all that wait (group commit, as databases do).
"""

import fcntl
import os
import struct
import threading
import zlib
from collections import deque
from concurrent.futures import Future
from pathlib import Path

from fulgura.kept_file import sync

MARK = b"fulgura-journal-1\n"
HEAD = struct.Struct("<II")
"""Before each record: its length in bytes, and its CRC-32 (ISO 3309, as zlib has it)."""
LARGE = 16 * 2**20
"""Bytes from which on a journal that is never quite empty is written anew."""
AGAIN_S = 0.5


def read(path: Path) -> tuple[list[bytes], int]:
    """(records up to the first that is broken, where they end in the file)."""
    raw = path.read_bytes() if path.exists() else b""
    records: list[bytes] = []
    if not raw.startswith(MARK):
        return records, 0
    at = len(MARK)
    while at + HEAD.size <= len(raw):
        length, checksum = HEAD.unpack_from(raw, at)
        record = raw[at + HEAD.size : at + HEAD.size + length]
        if len(record) < length or zlib.crc32(record) != checksum:
            break
        records.append(record)
        at += HEAD.size + length
    return records, at


def packed(record: bytes) -> bytes:
    return HEAD.pack(len(record), zlib.crc32(record)) + record


class JournalInUse(RuntimeError):
    """Another process keeps this journal; the message is for whoever starts one."""


class Journal:
    """Keeps records on disk until they are cut. A thread of its own writes: nobody else waits for a disk.

    What cannot be written is tried again, the whole journal in a new file: after a sync that failed nobody
    knows what of the old one is on disk.
    """

    def __init__(self, path: Path) -> None:
        """Goes on after the whole records of before; what is broken is put aside, beside it. Raises
        JournalInUse.
        """
        self.path = path
        # To read: so it opens on a disk, too, that has become read-only.
        self._lock = os.open(path.with_suffix(".lock"), os.O_RDONLY | os.O_CREAT, 0o600)
        try:
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            os.close(self._lock)
            raise JournalInUse(
                f"Another Fulgura already keeps the shows in {path.parent}. End that one first."
            ) from error
        self.left, end = read(path)
        """Records of before."""
        self.broken = self._put_aside(end)
        """Bytes that could not be read."""
        self.fault = ""
        """Why nothing can be kept; empty while all is well."""
        self._kept: deque[bytes] = deque(self.left)
        self._new: list[tuple[bytes, Future[bool]]] = []
        self._cut = 0
        self._changed = threading.Condition()
        self._stop = False
        self._file = -1
        self._size = 0
        self.thread = threading.Thread(target=self._run, daemon=True, name="journal")
        self.thread.start()

    def _put_aside(self, end: int) -> int:
        raw = self.path.read_bytes() if self.path.exists() else b""
        if len(raw) > end:
            try:
                self.path.with_suffix(".broken").write_bytes(raw[end:])
            except OSError:
                pass  # A disk that takes nothing: then nothing is put aside either.
        return len(raw) - end

    def add(self, record: bytes) -> "Future[bool]":
        """A record more; its result is whether it is on disk."""
        done: Future[bool] = Future()
        with self._changed:
            self._new.append((record, done))
            self._changed.notify_all()
        return done

    def cut(self, count: int) -> None:
        """Forget so many of the oldest records: they are kept elsewhere."""
        with self._changed:
            self._cut += count
            self._changed.notify_all()

    def close(self) -> None:
        """Write what waits, and end."""
        with self._changed:
            self._stop = True
            self._changed.notify_all()
        self.thread.join(5.0)

    def _run(self) -> None:
        while True:
            with self._changed:
                self._changed.wait_for(
                    lambda: self._new or self._cut or self._stop, AGAIN_S if self.fault else None
                )
                new, self._new = self._new, []
                cut, self._cut = self._cut, 0
                stop = self._stop
            self._kept.extend(record for record, _ in new)
            for _ in range(min(cut, len(self._kept))):
                self._kept.popleft()
            on_disk = self._keep([record for record, _ in new], cut > 0)
            for _, done in new:
                done.set_result(on_disk)
            if stop:
                if self._file >= 0:
                    os.close(self._file)
                os.close(self._lock)
                return

    def _keep(self, new: list[bytes], cut: bool) -> bool:
        try:
            if self._file < 0 or self.fault:
                self._begin_anew()
            elif new:
                self._append(b"".join(map(packed, new)))
            if cut and (not self._kept or self._size > LARGE):
                self._shorten()
        except OSError as error:
            self.fault = error.strerror or str(error)
            return False
        self.fault = ""
        return True

    def _append(self, raw: bytes) -> None:
        left = memoryview(raw)
        while left:
            left = left[os.write(self._file, left) :]
        os.fdatasync(self._file)
        self._size += len(raw)

    def _begin_anew(self) -> None:
        """All that is kept in a new file, which takes the old one's place once it is on disk."""
        if self._file >= 0:
            os.close(self._file)
            self._file = -1
        draft = self.path.with_suffix(".new")
        self._file = os.open(draft, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
        self._size = 0
        self._append(MARK + b"".join(map(packed, self._kept)))
        os.replace(draft, self.path)
        sync(self.path.parent)

    def _shorten(self) -> None:
        # Records that come back after a power cut are known by their numbers: nobody waits for this.
        if self._kept:
            self._begin_anew()
            return
        os.ftruncate(self._file, len(MARK))
        os.lseek(self._file, 0, os.SEEK_END)
        self._size = len(MARK)

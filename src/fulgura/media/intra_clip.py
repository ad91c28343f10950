"""Prepared clips: every picture of a film for itself, so that any is one read away.

It is a ZIP file (stored, not compressed) of numbered JPEG or, where the film has clear places, WebP
pictures, with a ``reel.json`` beside them: {"width", "height", "frames", "rate"}. Their colours are already
multiplied by alpha, in light.
"""

import io
import json
import zipfile
from collections import OrderedDict
from pathlib import Path
from threading import Lock
from types import TracebackType

import numpy as np
from numpy.typing import NDArray
from PIL import Image

INFO = "reel.json"
QUALITY = 88


class NoIntraClip(KeyError):
    """There is no such clip, or it is damaged."""


class IntraClip:
    """A prepared clip, open for reading. May be read by several threads at once."""

    def __init__(self, path: Path) -> None:
        """Raises NoIntraClip."""
        try:
            self._file = zipfile.ZipFile(path)
            info = json.loads(self._file.read(INFO))
            self.width, self.height, self.frames, self.rate = (
                int(info["width"]),
                int(info["height"]),
                int(info["frames"]),
                float(info["rate"]),
            )
        except (OSError, zipfile.BadZipFile, KeyError, ValueError) as error:
            raise NoIntraClip(path.stem) from error

    def picture(self, number: int) -> bytes:
        """One picture as its file holds it. Raises NoIntraClip for one that is not there."""
        try:
            return self._file.read(_name(number))
        except (KeyError, OSError, zipfile.BadZipFile) as error:
            raise NoIntraClip(number) from error

    def texels(self, number: int) -> NDArray:
        """One picture, uint8, shape (height, width, 4), the bottom row first. Raises NoIntraClip."""
        try:
            with Image.open(io.BytesIO(self.picture(number))) as opened:
                return np.asarray(opened.convert("RGBA"))[::-1]
        except OSError as error:
            raise NoIntraClip(number) from error

    def close(self) -> None:
        self._file.close()


class Writer:
    """Writes one, picture after picture; what is not finished leaves nothing but a file that its maker
    removes.
    """

    def __init__(self, path: Path, width: int, height: int, rate: float) -> None:
        self._file = zipfile.ZipFile(path, "w", zipfile.ZIP_STORED, allowZip64=True)
        self.width, self.height, self.rate, self.frames = width, height, rate, 0

    def __enter__(self) -> "Writer":
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        if kind is None:
            self._write(
                INFO,
                json.dumps(
                    {"width": self.width, "height": self.height, "frames": self.frames, "rate": self.rate}
                ).encode(),
            )
        self._file.close()

    def add(self, pixels: NDArray) -> None:
        """The next picture, uint8, the top row first, shape (height, width, 3), or (height, width, 4) where
        it may be clear.
        """
        kept = io.BytesIO()
        if pixels.shape[2] == 3:
            # Colour in full: both executors then see the very same texels.
            Image.fromarray(pixels).save(kept, "JPEG", quality=QUALITY, subsampling=0)
        else:
            Image.fromarray(pixels).save(kept, "WEBP", quality=QUALITY, method=1)
        self._write(_name(self.frames), kept.getvalue())
        self.frames += 1

    def _write(self, name: str, content: bytes) -> None:
        # A fixed date: the same film gives the same file.
        self._file.writestr(zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0)), content)


class IntraClips:
    """The intra-only clips of a folder, the last few kept open. May be used by several threads at once."""

    OPEN = 16

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._open: OrderedDict[str, IntraClip] = OrderedDict()
        self._lock = Lock()

    def intra_clip(self, key: str) -> IntraClip:
        """Raises NoIntraClip."""
        with self._lock:
            if key not in self._open:
                path = self.folder / f"{key}.zip"
                if path.parent != self.folder:
                    raise NoIntraClip(key)
                self._open[key] = IntraClip(path)
                if len(self._open) > self.OPEN:
                    self._open.popitem(last=False)
            self._open.move_to_end(key)
            return self._open[key]

    def close(self) -> None:
        for intra_clip in self._open.values():
            intra_clip.close()
        self._open.clear()


def _name(number: int) -> str:
    return f"{number:06d}"

"""A film's own sound, locked to the picture that is shown of it."""

import tempfile
import threading
from pathlib import Path

import numpy as np
import soundfile
from numpy.typing import NDArray

from fulgura.core.clock import BLOCK, FRAME_RATE, SAMPLE_RATE
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.engine.inputs import SILENT
from fulgura.media.sound_file import AudioFileError, open_track

PIECE = 65_536
FASTEST = 8.0
"""Seconds of film in a second: what goes faster was sent there."""
LEAP_S = 0.1
"""What is farther off than what was expected was sent elsewhere: the sound begins there, without a slide."""


class FilmInput:
    """Plays the stretch of a film's sound that its picture has gone through since the last tick: at its
    speed, in its direction. A thread of its own unpacks the file to the disk's cache; until then there is
    silence.

    ``at_s`` is told before each tick: where in the film the picture is, in seconds; None while it is not
    shown.
    """

    def __init__(self, path: Path | None) -> None:
        """path: of the sound; None for a film without."""
        self.path = path
        self.fault = None if path is not None else Fault.of(FaultCode.FILM_SILENT)
        self.at_s: float | None = None
        self._speed = 0.0
        self._samples: NDArray | None = None
        self._was: float | None = None
        self._place = 0.0
        """Where the sound is, in samples."""
        if path is not None:
            threading.Thread(target=self._unpack, args=(path,), daemon=True).start()

    def _unpack(self, path: Path) -> None:
        try:
            with tempfile.TemporaryFile() as raw, open_track(path) as file:
                while len(piece := file.read(PIECE, dtype="int16", always_2d=True)):
                    raw.write(np.ascontiguousarray(piece[:, [0, min(1, piece.shape[1] - 1)]]).tobytes())
                if raw.tell():
                    raw.flush()
                    self._samples = np.memmap(raw, dtype=np.int16, mode="r").reshape(-1, 2)
        except (AudioFileError, soundfile.LibsndfileError, OSError):
            self.fault = Fault.of(
                FaultCode.TRACK_UNREADABLE, words="The film’s sound cannot be read. Add the film again."
            )

    def blocks(self, due: int) -> list[NDArray]:
        """See Input."""
        samples, at = self._samples, self.at_s
        was, self._was = self._was, at
        self._speed = 0.0 if at is None or was is None else (at - was) * FRAME_RATE
        if samples is None or at is None or was is None or due == 0:
            return [SILENT] * due
        # Where the picture will be when these blocks are over, if it goes on as it went.
        ticks = due * BLOCK * FRAME_RATE / SAMPLE_RATE
        if abs(self._speed) > FASTEST:
            self._speed = 0.0  # It jumped: it does not run there.
        by = self._speed / FRAME_RATE * ticks * SAMPLE_RATE
        end = at * SAMPLE_RATE + by
        start = self._place
        if abs(end - by - start) > LEAP_S * SAMPLE_RATE * max(1.0, abs(self._speed)):
            start = end - by
        self._place = end
        places = np.linspace(start, end, due * BLOCK, endpoint=False)
        if start == end:
            return [SILENT] * due
        return list(_read(samples, places).reshape(due, BLOCK, 2))

    def state(self) -> dict:
        hidden = Fault.of(FaultCode.FILM_HIDDEN) if self.at_s is None else None
        film = {"at_s": self.at_s, "speed": self._speed, "track": self.path.stem if self.path else ""}
        return {"fault": self.fault or hidden, "film": film}

    def close(self) -> None:
        self._samples = None


def _read(samples: NDArray, places: NDArray) -> NDArray:
    """Samples between samples, full scale is 1; silence before the first and after the last."""
    below = np.floor(places).astype(int)
    share = (places - below)[:, None].astype(np.float32)
    inside = ((below >= 0) & (below < len(samples) - 1))[:, None]
    first = np.clip(below, 0, len(samples) - 2)
    low, high = int(first.min()), int(first.max()) + 2
    piece = np.asarray(samples[low:high], dtype=np.float32) / 32768.0
    found: NDArray = (piece[first - low] * (1.0 - share) + piece[first - low + 1] * share) * inside
    return found

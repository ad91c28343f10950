"""Where the engine's blocks come from: a track, the house band, or a browser's live sound."""

import threading
from pathlib import Path
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from fulgura.core import BLOCK, SAMPLE_RATE
from fulgura.core.show.document import Show
from fulgura.core.sound.houseband import HouseBand
from fulgura.engine.audiofile import AudioFileError, load

SILENT = np.zeros((BLOCK, 2), dtype=np.float32)


class Input(Protocol):
    """Gives blocks of shape (256, 2). Never waits."""

    def blocks(self, due: int) -> list[NDArray]:
        """The blocks of this tick; due is how many the clock asks for."""

    def state(self) -> dict:
        """What the desk shows of it."""


class TrackInput:
    """Plays one file of the library. It is read in a thread of its own: a tick never waits for the disk."""

    def __init__(self, path: Path, track: str, position_s: float = 0.0) -> None:
        self.track, self.path = track, path
        self.samples: NDArray | None = None
        self.trouble = ""
        self.playing = self.loop = True
        self.position = int(position_s * SAMPLE_RATE)
        threading.Thread(target=self._load, daemon=True).start()

    def _load(self) -> None:
        try:
            samples, _ = load(self.path)
            self.samples = np.ascontiguousarray(np.repeat(samples, 2, axis=1) if samples.shape[1] == 1 else samples[:, :2])
        except AudioFileError as error:
            self.trouble = str(error)

    def seek(self, seconds: float) -> None:
        self.position = max(0, int(seconds * SAMPLE_RATE))

    def blocks(self, due: int) -> list[NDArray]:
        return [self._block() for _ in range(due)]

    def _block(self) -> NDArray:
        samples = self.samples
        if samples is None or not self.playing:
            return SILENT
        if self.position >= len(samples):
            if not self.loop:
                return SILENT
            self.position %= len(samples)
        block = samples[self.position : self.position + BLOCK]
        self.position += BLOCK
        if len(block) < BLOCK:
            missing = BLOCK - len(block)
            rest = samples[:missing] if self.loop else SILENT[:missing]
            block = np.concatenate([block, rest, SILENT])[:BLOCK]
            if self.loop:
                self.position = missing
        return block

    def state(self) -> dict:
        length = 0 if self.samples is None else len(self.samples)
        return {
            "track": self.track, "position_s": self.position / SAMPLE_RATE, "length_s": length / SAMPLE_RATE,
            "playing": self.playing, "trouble": self.trouble,
        }


class HouseInput:
    """The house band."""

    def __init__(self, show: Show) -> None:
        self.band, self.settings = HouseBand(show.seed), show.input.house

    def blocks(self, due: int) -> list[NDArray]:
        return [self.band.block(self.settings) for _ in range(due)]

    def state(self) -> dict:
        return {"trouble": "", "creep_db": round(self.band.creep_db, 2)}


class LiveInput:
    """Sound that a browser sends. Plays it out as it comes; what is too much is dropped and counted."""

    LONGEST = SAMPLE_RATE // 5

    def __init__(self) -> None:
        self.waiting = np.zeros((0, 2), dtype=np.float32)
        self.dropped = 0
        self.silent_ticks = 10_000

    def feed(self, pcm: bytes, channels: int) -> None:
        """Interleaved float32 at 48 kHz. Pieces that are not whole are ignored."""
        if channels not in (1, 2) or len(pcm) % (4 * channels):
            return
        samples = np.frombuffer(pcm, dtype="<f4").reshape(-1, channels)
        self.waiting = np.concatenate([self.waiting, np.repeat(samples, 2, axis=1) if channels == 1 else samples])
        excess = len(self.waiting) - self.LONGEST
        if excess > 0:
            self.waiting, self.dropped = self.waiting[excess:], self.dropped + excess
        self.silent_ticks = 0

    def blocks(self, due: int) -> list[NDArray]:
        count = min(len(self.waiting) // BLOCK, 8)
        if count == 0:
            self.silent_ticks += 1
            # While a device is gone time goes on in silence, so that signals fall to rest instead of freezing.
            return [SILENT] * due if self.silent_ticks > 12 else []
        taken, self.waiting = self.waiting[: count * BLOCK], self.waiting[count * BLOCK :]
        return list(taken.reshape(count, BLOCK, 2))

    def state(self) -> dict:
        gone = self.silent_ticks > 30
        return {"trouble": "No live sound arrives. Choose a device in Hear." if gone else "", "dropped": self.dropped, "arriving": not gone}

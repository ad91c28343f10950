"""Where the engine's blocks come from: a track, the house band, or a browser's live sound."""

import threading
from collections import deque
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

import numpy as np
import soundfile
from numpy.typing import NDArray
from soxr import ResampleStream

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.synthesis.house_band import HouseBand, bar_seconds
from fulgura.media.sound_file import AudioFileError, open_track

SILENT = np.zeros((BLOCK, 2), dtype=np.float32)


class Input(Protocol):
    """Gives blocks of shape (256, 2). Never waits."""

    def blocks(self, due: int) -> list[NDArray]:
        """The blocks of this tick; due is how many the clock asks for."""

    def state(self) -> dict:
        """What the desk shows of it."""


@dataclass(frozen=True)
class Stretch:
    """What of a track is played, in samples, and how fast."""

    loop: bool = True
    first: int = 0
    last: int = 0
    speed: float = 1.0


class TrackInput:
    """Plays one file of the library. A thread of its own reads two seconds ahead: a tick never waits for the
    disk, and an hour takes no more memory than a minute. Until something is read there is silence.
    """

    AHEAD = 2 * SAMPLE_RATE // BLOCK
    PIECE = 32

    def __init__(self, path: Path, track: str, position_s: float = 0.0) -> None:
        self.track, self.path = track, path
        self.length = 0
        self.fault: Fault | None = None
        self.playing = True
        self.position = int(position_s * SAMPLE_RATE)
        self._stretch = Stretch()
        # Rows of (turn, position after the block, block). Whenever what was read ahead is not wanted any more
        # the turn grows, and rows of an older turn are passed over.
        self._queue: deque[tuple[int, int, NDArray]] = deque()
        self._turn, self._from = 0, self.position
        self._wake, self._closed = threading.Event(), False
        threading.Thread(target=self._read, daemon=True).start()

    def arrange(self, loop: bool, from_s: float = 0.0, to_s: float = 0.0, speed: float = 1.0) -> None:
        """Whether it loops, which stretch, and how fast; a stretch that ends at 0 ends with the track."""
        stretch = Stretch(loop, int(from_s * SAMPLE_RATE), int(to_s * SAMPLE_RATE), speed)
        if stretch != self._stretch:
            self._stretch = stretch
            self._restart(self.position)

    def seek(self, seconds: float) -> None:
        self._restart(max(0, int(seconds * SAMPLE_RATE)))

    def close(self) -> None:
        self._closed = True
        self._wake.set()

    def _restart(self, position: int) -> None:
        self.position = self._from = position
        self._turn += 1
        self._wake.set()

    @property
    def ready(self) -> bool:
        """Whether the next block can be played."""
        return bool(self._queue) and self._queue[-1][0] == self._turn

    def blocks(self, due: int) -> list[NDArray]:
        return [self._block() for _ in range(due)]

    def _block(self) -> NDArray:
        if not self.playing:
            return SILENT
        while self._queue:
            turn, position, block = self._queue.popleft()
            if turn == self._turn:
                self.position = position
                if len(self._queue) < self.AHEAD // 2:
                    self._wake.set()
                return block
        self._wake.set()
        return SILENT

    def _read(self) -> None:
        """The reading thread: keeps the queue filled with what is wanted now."""
        try:
            with open_track(self.path) as file:
                self.length = file.frames
                turn, at, resample, rest = -1, 0, None, SILENT[:0]
                while not self._closed:
                    if turn != self._turn:
                        turn, at, speed = self._turn, self._from, self._stretch.speed
                        # Played at this rate, and heard at the usual one.
                        resample = (
                            ResampleStream(
                                SAMPLE_RATE * speed, SAMPLE_RATE, 2, dtype="float32"
                            ).resample_chunk
                            if speed != 1.0
                            else None
                        )
                        rest = SILENT[:0]
                    if len(self._queue) >= self.AHEAD and self._queue[-1][0] == self._turn:
                        self._wake.wait(0.2)
                        self._wake.clear()
                        continue
                    samples, ends = self._piece(file, at)
                    at = ends[-1]
                    if resample is not None:
                        samples = np.concatenate([rest, resample(samples)])
                    count = len(samples) // BLOCK
                    rest = samples[count * BLOCK :]
                    for k in range(count):
                        self._queue.append(
                            (
                                turn,
                                ends[-(-(k + 1) * len(ends) // count) - 1],
                                samples[k * BLOCK : (k + 1) * BLOCK],
                            )
                        )
        except AudioFileError as error:
            self.fault = Fault.of(FaultCode.TRACK_UNREADABLE, words=error)
        except (soundfile.LibsndfileError, RuntimeError, OSError) as error:
            why = str(error).rstrip(".")
            self.fault = Fault.of(FaultCode.TRACK_BROKEN, file=self.path.name, why=why)

    def _piece(self, file: soundfile.SoundFile, at: int) -> tuple[NDArray, list[int]]:
        """(the next samples, as many as PIECE blocks have; the position after each block)."""
        loop, first, last = self._stretch.loop, self._stretch.first, self._stretch.last
        last = min(last, self.length) if last > first + BLOCK else self.length
        first = first if first < last - BLOCK else 0
        wanted, count = self.PIECE * BLOCK, 0
        parts: list[NDArray] = []
        ends: list[int] = []
        while count < wanted:
            if at >= last and loop:
                at = first
            take = min(wanted - count, (last if at < last else self.length) - at)
            if take <= 0:
                parts.append(np.zeros((wanted - count, 2), dtype=np.float32))
                ends += [at] * (self.PIECE - len(ends))
                break
            file.seek(at)
            read = file.read(take, dtype="float32", always_2d=True)
            if len(read) == 0:
                raise AudioFileError(f"{self.path.name} ends before it should; add it to the library again.")
            ends += [at + (k + 1) * BLOCK - count for k in range(len(ends), (count + len(read)) // BLOCK)]
            parts.append(read if read.shape[1] == 2 else np.repeat(read[:, :1], 2, axis=1))
            count, at = count + len(read), at + len(read)
        ends = ends[: self.PIECE]
        if ends:
            ends[-1] = at
        return np.concatenate(parts), ends

    def state(self) -> dict:
        return {
            "track": self.track,
            "position_s": self.position / SAMPLE_RATE,
            "length_s": self.length / SAMPLE_RATE,
            "playing": self.playing,
            "fault": self.fault,
        }


class HouseInput:
    """The house band."""

    def __init__(self, seed: int, settings: HouseBandSettings) -> None:
        self.band, self.settings = HouseBand(seed), settings

    def blocks(self, due: int) -> list[NDArray]:
        return [self.band.block(self.settings) for _ in range(due)]

    def state(self) -> dict:
        in_bar_s = self.band.bar_place * bar_seconds(self.settings)
        return {"fault": None, "creep_db": round(self.band.creep_db, 2), "in_bar_s": round(in_bar_s, 3)}


class LiveInput:
    """Sound that comes when it comes, from a browser. Plays it out as it arrives; what is too much is dropped
    and counted.
    """

    LONGEST = SAMPLE_RATE // 2
    """Samples that may wait: a device that delivers in bursts loses nothing."""
    FASTEST = 8
    """Blocks of one tick: more than twice real time, so that a burst is soon caught up with."""
    GAP_TICKS, GONE_TICKS = 24, 60
    """Ticks without sound after which there is silence instead, and after which it is told."""
    RESTLESS_S = 0.15

    def __init__(self) -> None:
        self.waiting = np.zeros((0, 2), dtype=np.float32)
        self.dropped = 0
        self.silent_ticks = 10_000
        self.gaps: deque[int] = deque([0], maxlen=64)
        """Samples that came together, lately."""

    def feed(self, pcm: bytes, channels: int) -> None:
        """Interleaved float32 at 48 kHz. Pieces that are not whole are ignored."""
        if channels not in (1, 2) or len(pcm) % (4 * channels):
            return
        samples = np.frombuffer(pcm, dtype="<f4").reshape(-1, channels)
        self.take(np.repeat(samples, 2, axis=1) if channels == 1 else samples)

    def take(self, samples: NDArray) -> None:
        """Sound that has come, shape (n, 2)."""
        self.waiting = np.concatenate([self.waiting, samples])
        excess = len(self.waiting) - self.LONGEST
        if excess > 0:
            self.waiting, self.dropped = self.waiting[excess:], self.dropped + excess
        if self.silent_ticks:
            self.gaps.append(0)
        self.gaps[-1] += len(samples)
        self.silent_ticks = 0

    def blocks(self, due: int) -> list[NDArray]:
        count = min(len(self.waiting) // BLOCK, self.FASTEST)
        self.silent_ticks += 1
        if count == 0:
            # While a device is gone time goes on in silence, so that signals fall to rest instead of
            # freezing.
            return [SILENT] * due if self.silent_ticks > self.GAP_TICKS else []
        taken, self.waiting = self.waiting[: count * BLOCK], self.waiting[count * BLOCK :]
        return list(taken.reshape(count, BLOCK, 2))

    @property
    def burst_s(self) -> float:
        """How much sound usually comes at once."""
        return float(np.median(self.gaps)) / SAMPLE_RATE

    def state(self) -> dict:
        gone = self.silent_ticks > self.GONE_TICKS
        said = (
            f"Sound comes in bursts of {self.burst_s:.2f} s, so all that it moves comes late and in jerks."
            " Give the device a smaller buffer."
            if not gone and self.burst_s > self.RESTLESS_S
            else ""
        )
        return {
            "fault": Fault.of(FaultCode.LIVE_GONE) if gone else None,
            "warning": said,
            "dropped": self.dropped,
            "arriving": not gone,
        }

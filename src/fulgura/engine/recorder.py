"""Keeps what an input brought: blocks into a FLAC file, written by a thread of its own so that no tick waits
for a disk.

A file that is being written is called ``NAME.recording``; when it is whole, or when a crash left it behind,
it becomes ``NAME.recorded``, and the web process takes it into the library.
"""

import threading
from collections import deque
from pathlib import Path

import numpy as np
import soundfile
from numpy.typing import NDArray

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.folders import RECORDED, RECORDING
from fulgura.kept_file import sync

LONGEST_WAIT = 30 * SAMPLE_RATE // BLOCK
"""Blocks that may wait for a disk that is slow."""
PAUSE_S = 0.25


class Recorder:
    """One recording: ``add`` each block, ``close`` at the end."""

    def __init__(self, folder: Path, name: str) -> None:
        self.path = folder / f"{name}{RECORDING}"
        self.blocks = 0
        self.lost = 0
        self.fault: Fault | None = None
        self._waiting: deque[NDArray] = deque()
        self._end = threading.Event()
        self._thread = threading.Thread(target=self._write, daemon=True)
        self._thread.start()

    def add(self, block: NDArray) -> None:
        """Shape (256, 2). Never waits."""
        if self.fault or len(self._waiting) >= LONGEST_WAIT:
            self.lost += 1
            return
        self._waiting.append(block)
        self.blocks += 1

    def close(self) -> None:
        """Write what still waits; the file is whole soon afterwards."""
        self._end.set()

    def wait(self, seconds: float) -> None:
        """Wait until it is whole, at most so long."""
        self._thread.join(seconds)

    @property
    def finished(self) -> bool:
        return not self._thread.is_alive()

    def state(self) -> dict:
        return {"seconds": self.blocks * BLOCK / SAMPLE_RATE, "lost": self.lost, "fault": self.fault}

    def _write(self) -> None:
        try:
            with soundfile.SoundFile(self.path, "w", SAMPLE_RATE, 2, format="FLAC", subtype="PCM_24") as file:
                while True:
                    ending = self._end.wait(PAUSE_S)
                    while self._waiting:
                        pieces = [self._waiting.popleft() for _ in range(min(64, len(self._waiting)))]
                        file.write(np.clip(np.nan_to_num(np.concatenate(pieces)), -1.0, 1.0))
                    file.flush()
                    if ending:
                        break
            sync(
                self.path
            )  # Here, where nobody waits: not in assemble, which a successor calls as it takes over.
        except (soundfile.LibsndfileError, RuntimeError, OSError) as error:
            self.fault = Fault.of(FaultCode.RECORDING_STOPPED, why=str(error).rstrip("."))
        assemble(self.path)


def assemble(path: Path) -> None:
    """A recording that nobody writes any more is whole."""
    try:
        path.rename(path.with_suffix(RECORDED))
    except OSError:
        pass


def assemble_left_behind(folder: Path) -> None:
    """What a crash left half written is kept as far as it goes."""
    for path in folder.glob(f"*{RECORDING}"):
        assemble(path)

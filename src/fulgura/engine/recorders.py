"""The recordings that are being made, one of an input at most."""

from pathlib import Path

from fulgura.engine.recorder import Recorder


class Recorders:
    """By the id of the input."""

    def __init__(self, tracks: Path) -> None:
        self.tracks = tracks
        self.of: dict[str, Recorder] = {}

    def begin(self, input_id: str, name: str) -> None:
        if input_id not in self.of:
            self.of[input_id] = Recorder(self.tracks, Path(name).name)

    def end(self, input_id: str) -> None:
        if input_id in self.of:
            self.of[input_id].close()
            if self.of[input_id].finished:  # It ended by itself, and its fault has been read.
                del self.of[input_id]

    def tidy(self, inputs: set[str]) -> None:
        """End those whose input is gone, and forget those that are finished."""
        for input_id, recorder in list(self.of.items()):
            if input_id not in inputs:
                recorder.close()
            if recorder.finished and not recorder.fault:
                del self.of[input_id]

    def close(self) -> None:
        for recorder in self.of.values():
            recorder.close()
        for recorder in self.of.values():
            recorder.wait(3.0)

"""The frames of the last ten seconds: for finding a band, and for fitting a range to what came in."""

from collections import deque
from typing import Any

import numpy as np
from numpy.typing import NDArray

from fulgura.core import wire
from fulgura.core.clock import FRAME_RATE

KEPT = 10 * FRAME_RATE


class FrameHistory:
    """The newest frame messages. What is asked of them decodes hundreds: ask in a thread, of a ``copy``."""

    def __init__(self, frames: deque[bytes] | None = None) -> None:
        self.frames: deque[bytes] = deque(maxlen=KEPT) if frames is None else frames

    def add(self, message: bytes) -> None:
        self.frames.append(message)

    def copy(self) -> "FrameHistory":
        """The same frames, for another thread."""
        return FrameHistory(self.frames.copy())

    def newest(self, layout: dict[str, Any] | None) -> wire.Packet | None:
        """The last frame, when it is of this layout."""
        packet = wire.decode(self.frames[-1]) if self.frames else None
        return packet if packet is not None and layout and packet.layout == layout["layout"]["id"] else None

    def signals(
        self, layout: dict[str, Any] | None
    ) -> tuple[NDArray[np.float64], NDArray[np.int64], dict[str, int]]:
        """(values, hits) of all signals, shape (ticks, signals) each, and where each stands."""
        if layout is None:
            return np.zeros((0, 0)), np.zeros((0, 0), dtype=np.int64), {}
        infos = layout["layout"]["signals"]
        rows = [packet.blocks[wire.BlockId.SIGNALS] for packet in self._packets(layout)]
        values = np.array(rows, dtype=float).reshape(len(rows), len(infos))
        are_hits = np.array([info["kind"] == "hits" for info in infos], dtype=np.int64)
        order = {word: i for i, info in enumerate(infos) for word in (info["word"], info["id"])}
        return values, (values > 0.0).astype(np.int64) * are_hits, order

    def spectra(
        self, layout: dict[str, Any] | None, input_id: str
    ) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """(display levels in dBFS (frames, bins), stream seconds (frames,)) of an input."""
        if layout is None:
            return np.zeros((0, 0)), np.zeros(0)
        order = [info["id"] for info in layout["layout"]["inputs"]]
        bins = layout["layout"]["spectrum"]["bins"]
        packets = self._packets(layout)
        if input_id not in order or not packets:
            return np.zeros((0, bins)), np.zeros(0)
        first = order.index(input_id) * bins
        rows = [
            packet.blocks[wire.BlockId.SPECTRUM][first : first + bins] * (90.0 / 255.0) - 90.0
            for packet in packets
        ]
        return np.array(rows), np.array([packet.time for packet in packets])

    def _packets(self, layout: dict[str, Any]) -> list[wire.Packet]:
        """The frames of this layout, the oldest first."""
        wanted = layout["layout"]["id"]
        return [packet for packet in map(wire.decode, self.frames) if packet.layout == wanted]

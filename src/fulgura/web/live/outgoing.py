"""Frames on their way to many pages: what several ask for is made once."""

from collections.abc import Mapping

import numpy as np

from fulgura.core import wire
from fulgura.core.arrays import Array


class Outgoing:
    """One frame message."""

    def __init__(self, message: bytes) -> None:
        self.message = message
        self.number = wire.HEADER.unpack_from(message)[5]
        self._kept: dict[frozenset[int], bytes] = {}
        self._events: tuple[int, Mapping[int, Array]] | None = None

    def kept(self, wanted: frozenset[int]) -> bytes:
        """The message with the wanted blocks alone; made once, whoever asks."""
        if wanted not in self._kept:
            self._kept[wanted] = wire.keep(self.message, wanted)
        return self._kept[wanted]

    @property
    def events(self) -> tuple[int, Mapping[int, Array]]:
        """(layout, rows of what happened in it, by block)."""
        if self._events is None:
            self._events = wire.events_of(self.message)
        return self._events


class Missed:
    """What happened in frames that a page missed: hits and beats still reach its score."""

    def __init__(self) -> None:
        self.layout = 0
        self.rows: dict[int, Array] = {}

    def add(self, frame: Outgoing) -> None:
        layout, rows = frame.events
        if layout != self.layout:
            self.layout, self.rows = layout, {}
        for block, row in rows.items():
            before = self.rows.get(block)
            joined = row if before is None else np.concatenate([before, row])
            self.rows[block] = joined[-wire.MOST_EVENTS * wire.EVENTS[wire.BlockId(block)] :]

    def before(self, frame: Outgoing, wanted: frozenset[int]) -> bytes:
        """The wanted blocks of a frame, with what was missed before it; then nothing is missed any more."""
        if not any(block in wanted for block in self.rows):
            return frame.kept(wanted)
        message = wire.with_events(self.layout, self.rows, frame.message)
        self.rows = {}
        return wire.keep(message, wanted)

"""MIDI 1.0 as it comes down a wire: bytes to whole messages (The MIDI Association, 1996, "Data format").

A status may be left out where it is that of the message before (running status); real time messages may stand
anywhere, also within another; exclusive messages are passed over, and so are data bytes that belong to none.
"""

from dataclasses import dataclass, field

LENGTHS = {8: 3, 9: 3, 10: 3, 11: 3, 12: 2, 13: 2, 14: 3}
SYSTEM = {0xF1: 2, 0xF2: 3, 0xF3: 2, 0xF6: 1}
EXCLUSIVE, REAL_TIME = 0xF0, 0xF8


@dataclass
class MidiStream:
    """Takes bytes as they come, in pieces of any size.

    >>> MidiStream().feed(bytes([0x90, 36, 100, 38, 0xF8, 90, 5]))
    [[144, 36, 100], [248], [144, 38, 90]]
    """

    status: int = 0
    data: list[int] = field(default_factory=list)

    def feed(self, piece: bytes) -> list[list[int]]:
        """The messages that are whole now, each its status and its data."""
        found: list[list[int]] = []
        for byte in piece:
            if byte >= REAL_TIME:
                found.append([byte])
            elif byte & 0x80:
                self.status, self.data = byte, []
                if SYSTEM.get(byte) == 1:
                    found.append([byte])
            elif self._length():
                self.data.append(byte)
                if len(self.data) == self._length() - 1:
                    found.append([self.status, *self.data])
                    self.data = []
                    if self.status >= EXCLUSIVE:
                        self.status = 0  # Running status is for channel messages alone.
        return found

    def _length(self) -> int:
        """Bytes of a message of the status that holds; 0 where data belong to nothing."""
        return SYSTEM.get(self.status, 0) if self.status >= EXCLUSIVE else LENGTHS.get(self.status >> 4, 0)

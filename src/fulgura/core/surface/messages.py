"""What controls say, whatever their protocol: a source with a name, a value, and perhaps a press.

MIDI 1.0 (The MIDI Association, "MIDI 1.0 Detailed Specification", 1996): channel messages; a note-on of
velocity 0 is a note-off; controllers 32 to 63 are the lower seven bits of 0 to 31.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

from fulgura.core.show.surface import Coding


@dataclass(frozen=True)
class Message:
    """source: what the control is called; value: where it stands, 0..1; down: whether it is pressed, None for
    what has no press of its own; raw: the number that came; fine: the same of 14 bits, where the lower seven
    came too.
    """

    controller: str
    source: str
    value: float
    down: bool | None = None
    raw: float = 0.0
    fine: float | None = None

    @property
    def pressed(self) -> bool:
        """Whether it counts as a press."""
        return self.value > 0.0 if self.down is None else self.down


NOTE_OFF, NOTE_ON, PRESSURE_OF_KEY, CONTROL, PROGRAM, PRESSURE, BEND = range(8, 15)
LENGTHS = {NOTE_OFF: 3, NOTE_ON: 3, PRESSURE_OF_KEY: 3, CONTROL: 3, PROGRAM: 2, PRESSURE: 2, BEND: 3}


@dataclass
class MidiReader:
    """Reads whole MIDI messages; remembers the upper halves of fine controls."""

    upper: dict[tuple[str, int, int], int] = field(default_factory=dict)

    def read(self, controller: str, data: Sequence[int]) -> list[Message]:
        """What a channel message says; nothing for what is none, or is not whole.

        >>> MidiReader().read("", [0x90, 36, 127])
        [Message(controller='', source='midi 1 note 36', value=1.0, down=True, raw=127, fine=None)]
        """
        kind, channel = data[0] >> 4, (data[0] & 15) + 1
        if LENGTHS.get(kind) != len(data) or any(byte > 127 for byte in data[1:]):
            return []
        first, last = data[1], data[-1]
        name = f"midi {channel}"
        match kind:
            case 8:
                return [Message(controller, f"{name} note {first}", 0.0, False, 0)]
            case 9:
                return [Message(controller, f"{name} note {first}", last / 127, last > 0, last)]
            case 10:
                return [Message(controller, f"{name} key pressure {first}", last / 127, None, last)]
            case 11:
                return self._control(controller, name, channel, first, last)
            case 12:
                return [Message(controller, f"{name} program {first}", 1.0, True, first)]
            case 13:
                return [Message(controller, f"{name} pressure", first / 127, None, first)]
        whole = last << 7 | first
        return [Message(controller, f"{name} bend", whole / 16383, None, whole)]

    def _control(self, controller: str, name: str, channel: int, number: int, value: int) -> list[Message]:
        found = [Message(controller, f"{name} cc {number}", value / 127, None, value)]
        if number < 32:
            self.upper[controller, channel, number] = value
        elif number < 64 and (controller, channel, number - 32) in self.upper:
            whole = self.upper[controller, channel, number - 32] << 7 | value
            found.append(
                Message(controller, f"{name} cc {number - 32}", whole / 16383, None, whole, whole / 16383)
            )
        return found


def steps(coding: Coding, raw: float) -> int:
    """How many steps an encoder turned, by how it says so (common practice: two's complement, offset of 64,
    sign in bit 6).

    >>> [steps("twos", raw) for raw in (1, 127, 3)], steps("offset", 63), steps("sign", 66)
    ([1, -1, 3], -1, -2)
    """
    number = int(raw)
    match coding:
        case "twos":
            return number if number < 64 else number - 128
        case "offset":
            return number - 64
        case "sign":
            return -(number & 63) if number & 64 else number
    return 0

"""Fixture profiles: what a lamp can do, and how its channels say it.

A kind declares its parameters, its emitters and, for each of its modes, what every channel carries. Bytes,
colour mixing, the drawing of the rig and the file for the stand-in all follow from that.
"""

from dataclasses import dataclass
from enum import IntEnum
from typing import Any, ClassVar, Literal

from fulgura.core.kinds.registry import Kind

EMITTERS: dict[str, tuple[float, float, float]] = {
    "red": (1.0, 0.0, 0.0),
    "green": (0.0, 1.0, 0.0),
    "blue": (0.0, 0.0, 1.0),
    "white": (1.0, 1.0, 1.0),
    "amber": (1.0, 0.214, 0.0),
    "uv": (0.15, 0.0, 0.5),
    "warm": (1.0, 0.415, 0.099),
    "cold": (1.0, 1.0, 1.0),
}
"""Light of each emitter in linear sRGB, its strongest part 1 (of uv, which is hardly seen, less).

Amber is the chromaticity x 0.57, y 0.43, warm that of a black body of 2700 K, x 0.4599, y 0.4106 (both from
memory), through the matrix of IEC 61966-2-1; cold is its white point, D65. How uv looks is common practice.
"""


class Form(IntEnum):
    """What a channel carries."""

    DIMMER = 0
    """How bright the whole lamp is."""
    EMITTER = 1
    """What the mix of the colour wants of one emitter; times the brightness where there is no dimmer."""
    SPAN = 2
    """A parameter, from low at 0 to high at full."""
    STROBE = 3
    """Flashes a second; 0 is open."""
    STEPS = 4
    """A choice: one value for each."""
    FIXED = 5
    """Always the same."""
    WHEEL = 6
    """The slot of a colour wheel that comes nearest to the colour."""
    HELD = 7
    """A parameter that acts only while a hand holds it."""
    OWN = 8
    """An emitter that is no part of the mix: a parameter, times the brightness."""


@dataclass(frozen=True)
class Channel:
    """What one channel carries, or two that make one number of 16 bits.

    of: parameter or emitter. low, high: of the parameter, at 0 and at full. first, last: bytes between which
    flashes go from slow to fast, first alone for what is fixed; open: the byte of no flashes. steps: a byte
    for each choice; wheel: byte and colour of each slot.
    """

    form: Form
    of: str = ""
    bits: Literal[8, 16] = 8
    low: float = 0.0
    high: float = 1.0
    first: int = 0
    last: int = 255
    open: int = 0
    steps: tuple[int, ...] = ()
    wheel: tuple[tuple[int, str], ...] = ()

    @property
    def width(self) -> int:
        """How many channels it takes."""
        return self.bits // 8


def dimmer(bits: Literal[8, 16] = 8) -> Channel:
    """How bright the whole lamp is."""
    return Channel(Form.DIMMER, "level", bits)


def emitter(name: str) -> Channel:
    """One emitter of the mix."""
    return Channel(Form.EMITTER, name)


def span(parameter: str, low: float, high: float, bits: Literal[8, 16] = 8) -> Channel:
    """A parameter from low to high."""
    return Channel(Form.SPAN, parameter, bits, low=low, high=high)


def strobe(first: int, last: int, slow: float, fast: float, open: int = 0) -> Channel:
    """Flashes: ``open`` for none, else from first (slow a second) to last (fast)."""
    return Channel(Form.STROBE, "strobe", low=slow, high=fast, first=first, last=last, open=open)


@dataclass(frozen=True)
class Mode:
    """head: channels that a lamp has once; pixel: those that each of its pixels has, behind them."""

    head: tuple[Channel, ...] = ()
    pixel: tuple[Channel, ...] = ()

    def channels(self, pixels: int) -> list[tuple[Channel, int]]:
        """What a lamp of so many pixels takes, in order: (channel, pixel that it belongs to)."""
        behind = [(channel, pixel) for pixel in range(pixels) for channel in self.pixel]
        return [(channel, 0) for channel in self.head] + behind

    def width(self, pixels: int = 1) -> int:
        """How many channels that are."""
        return sum(channel.width for channel, _ in self.channels(pixels))


class Fixture(Kind):
    """A lamp's profile.

    emitters: that its colour is mixed of, by their names in EMITTERS. modes: by name, the first is the usual
    one. pixels: how many it has if nobody says, and most_pixels how many it can have; 1 for a lamp that is
    one light. beam: degrees across at half of the intensity, for lamps without a zoom. drawn: its shape on
    the drawing.
    """

    family: ClassVar[str] = "fixture"
    emitters: ClassVar[tuple[str, ...]] = ()
    modes: ClassVar[dict[str, Mode]]
    pixels: ClassVar[int] = 1
    most_pixels: ClassVar[int] = 1
    beam: ClassVar[float] = 30.0
    drawn: ClassVar[Literal["can", "bar", "head", "box"]] = "can"

    @classmethod
    def mode(cls, name: str) -> Mode:
        """The mode of that name; the usual one for the empty name. Raises KeyError."""
        return cls.modes[name or next(iter(cls.modes))]

    @classmethod
    def more_info(cls) -> dict[str, Any]:
        return {
            "modes": [
                {"name": name, "channels": mode.width(cls.pixels), "a_pixel": mode.width(1) - mode.width(0)}
                for name, mode in cls.modes.items()
            ],
            "pixels": (cls.pixels, cls.most_pixels),
            "drawn": cls.drawn,
            "beam": cls.beam,
        }

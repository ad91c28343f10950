"""Fixture profiles: what a lamp can do, and how its channels say it."""

from typing import ClassVar

from fulgura.core.arrays import Array
from fulgura.core.kinds.registry import Kind


class Fixture(Kind):
    """A lamp's profile. channels: how many it takes in its universe."""

    family: ClassVar[str] = "fixture"
    channels: ClassVar[int]

    @classmethod
    def channel_values(cls, live: Array) -> Array:
        """Live values in the order of the parameters, flat float, to channel values 0..255, uint8, shape
        (channels,).
        """
        raise NotImplementedError

    @classmethod
    def light(cls, channel_values: Array) -> tuple[tuple[float, float, float], float]:
        """How the lamp shines when it is sent these channel values, shape (channels,): its colour in linear
        red, green and blue, the strongest of which is 1, and its intensity, 0..1.
        """
        raise NotImplementedError

"""Fixture profiles: what a lamp can do, and how its channels say it."""

from typing import ClassVar

from numpy.typing import NDArray

from fulgura.core.kinds.registry import Kind


class Fixture(Kind):
    """A lamp's profile. channels: slots that it takes in its universe."""

    family: ClassVar[str] = "fixture"
    channels: ClassVar[int]

    @classmethod
    def slots(cls, live: NDArray) -> NDArray:
        """Live values in the order of the parameters, flat float, to channel values 0..255, shape
        (channels,).
        """
        raise NotImplementedError

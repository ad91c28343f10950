"""Fixture profiles: what a lamp can do, and how its channels say it."""

from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

from fulgura.core.parameters import Colour, Kind, Ratio, param


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


class RgbLamp(Fixture):
    """A lamp with red, green and blue emitters, eight bits each. Its dimmer is made by the three together."""

    title = "RGB lamp"
    channels = 3

    level: Ratio = param(0.15, help="Brightness of the lamp", group="Light")
    colour: Colour = param("#ffb36b", help="Colour of the light", group="Light")

    @classmethod
    def slots(cls, live: NDArray) -> NDArray:
        # Emitters are driven by pulse width: channel values are proportional to light, so linear, not
        # sRGB-encoded.
        return np.rint(np.clip(live[1:4] * live[0], 0.0, 1.0) * 255.0).astype(np.uint8)

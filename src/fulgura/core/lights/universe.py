"""Universe frames: 512 channels of 8 bits (ANSI E1.11), made from the lamps' live values."""

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from fulgura.core.arrays import Array
from fulgura.core.kinds.fixture import Fixture
from fulgura.core.show.lights import Lamp

CHANNELS = 512


def universes(
    lamps: Sequence[Lamp], index_of: Mapping[str, int], live: Array, *, dark: bool
) -> dict[int, Array]:
    """Universe number -> channel values, uint8, shape (512,). Lamps on one channel: the highest value takes
    precedence.

    index_of: parameter address -> index in the live block. dark: all zeros; a blackout does not stop sending.
    """
    frames: dict[int, Array] = {}
    for lamp in lamps:
        frame = frames.setdefault(lamp.universe, np.zeros(CHANNELS, dtype=np.uint8))
        if dark:
            continue
        profile = Fixture.kinds[lamp.fixture.kind]
        parameters = profile.parameters()
        first = index_of[f"{lamp.fixture.id}.{parameters[0].name}"]
        values = profile.channel_values(live[first : first + sum(parameter.size for parameter in parameters)])
        taken = _channels(lamp, profile)
        frame[taken] = np.maximum(frame[taken], values)
    return frames


def lights(lamps: Sequence[Lamp], frames: Mapping[int, Array]) -> NDArray[np.float32]:
    """How each lamp shines by what is sent: linear red, green and blue of its colour, and its intensity,
    0..1, shape (lamps, 4). Every fixture has four numbers, however many channels it takes.
    """
    found = np.zeros((len(lamps), 4), dtype=np.float32)
    for row, lamp in zip(found, lamps):
        profile = Fixture.kinds[lamp.fixture.kind]
        row[:3], row[3] = profile.light(frames[lamp.universe][_channels(lamp, profile)])
    return found


def _channels(lamp: Lamp, profile: type[Fixture]) -> slice:
    return slice(lamp.address - 1, lamp.address - 1 + profile.channels)

"""Universe frames: 512 slots of 8 bits (ANSI E1.11), made from the lamps' live values."""

import numpy as np
from numpy.typing import NDArray

from fulgura.core.kinds.fixture import Fixture
from fulgura.core.show.lights import Lamp

SLOTS = 512


def universes(
    lamps: list[Lamp], places: dict[str, int], live: NDArray, *, blackout: bool
) -> dict[int, NDArray]:
    """Universe number -> slot values, uint8, shape (512,). Lamps on one slot: the highest value takes
    precedence.

    places: parameter address -> index in the live block. A blackout sends zeros, it does not stop sending.
    """
    frames: dict[int, NDArray] = {}
    for lamp in lamps:
        frame = frames.setdefault(lamp.universe, np.zeros(SLOTS, dtype=np.uint8))
        profile = Fixture.kinds[lamp.fixture.kind]
        if blackout:
            continue
        names = profile.parameters()
        first = places[f"{lamp.fixture.id}.{names[0].name}"]
        values = profile.slots(live[first : first + sum(p.size for p in names)])
        slot = slice(lamp.address - 1, lamp.address - 1 + profile.channels)
        frame[slot] = np.maximum(frame[slot], values)
    return frames

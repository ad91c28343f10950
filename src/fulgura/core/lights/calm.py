"""No lamp flashes more than three times in a second, whatever makes it, unless the show allows it.

A flash is a rise of a tenth of full brightness and the fall behind it; three in any second are allowed (WCAG
2.2, SC 2.3.1). A fourth rise waits in the dark. Brightness is relative luminance, so that a colour that
changes counts too.
"""

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.lights.run import SAFE_FLASHES

FLASHES = np.dtype(
    [
        ("trough", "f8"),
        ("peak", "f8"),
        ("rising", "b1"),
        ("next", "i8"),
        ("held", "f8"),
        ("times", "f8", (3,)),
    ]
)
"""Of each lamp: how dark it was since the last flash, how bright since this one began, whether it rises, when
the last three began, and when one was held back last.
"""
assert int(SAFE_FLASHES) == 3
STEP = 0.1
"""Share of full brightness that makes a flash."""
LONG_AGO = -1e9


def no_flashes(lamps: int) -> Array:
    """The memory of so many lamps that have not flashed yet."""
    memory = np.zeros(lamps, dtype=FLASHES)
    memory["times"], memory["held"], memory["trough"] = LONG_AGO, LONG_AGO, 1.0
    return memory


@njit(cache=True)
def calm(lamps: Array, level: Array, colour: Array, passed: Array, memory: Array, now: float) -> None:
    """Hold back what would flash too often, in place: level (cells,), colour (cells, 3). passed: (lamps,)
    those that are left as they are; now: seconds.
    """
    for number in range(lamps.shape[0]):
        lamp, own = lamps[number], memory[number]
        bright = 0.0
        for cell in range(lamp.cell, lamp.cell_end):
            shade = 0.2126 * colour[cell, 0] + 0.7152 * colour[cell, 1] + 0.0722 * colour[cell, 2]
            bright = max(bright, level[cell] * shade)
        if passed[number]:
            continue
        if own.rising:
            own.peak = max(own.peak, bright)
            if own.peak - bright >= STEP:
                own.rising, own.trough = False, bright
            continue
        own.trough = min(own.trough, bright)
        if bright - own.trough < STEP:
            continue
        if now - own.times[own.next] < 1.0 - 1e-6:
            own.held = now
            scale = (own.trough + 0.99 * STEP) / bright
            for cell in range(lamp.cell, lamp.cell_end):
                level[cell] *= scale
            continue
        own.times[own.next], own.next = now, (own.next + 1) % 3
        own.rising, own.peak = True, bright

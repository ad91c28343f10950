"""Data blocks of the show that shaders read: declared here once for the wire, the plan and both executors."""

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.display import DISPLAY_BINS
from fulgura.core.kinds.providers import SCOPE
from fulgura.core.picture.plan import Data
from fulgura.core.wire import BlockId

WAVEFORM = 512
MOST_COLOURS = 64

SHARED = {
    "waveform": Data(name="waveform", block=BlockId.WAVEFORM, form="wave", width=WAVEFORM),
    "spectrum": Data(name="spectrum", block=BlockId.SPECTRUM, form="level", width=DISPLAY_BINS),
    "palette": Data(name="palette", block=BlockId.PALETTE, form="rows", width=MOST_COLOURS),
    "stereo": Data(name="stereo", block=BlockId.STEREO, form="wave", width=SCOPE),
}


HEARD = ("waveform", "spectrum", "stereo")
"""Those that are another input's where a picture hears another."""


def display_levels(spectrum: Array) -> Array:
    """Levels in dBFS as bytes: 0 for -90 and below, 255 for 0."""
    return np.clip((spectrum + 90.0) * (255.0 / 90.0), 0, 255).astype(np.uint8).reshape(-1)


FIRST_OWN = 64
"""Number of the first block that a part of what plays has for itself."""
FIRST_FIT, FIRST_FURTHER, A_PICTURE = 512, 1024, 256
"""Numbers of the first block of an output, of the first of a further picture, and how many such a one has."""


def first_of(number: int) -> int:
    """The first block of a further picture, from 1 on: its uniforms, then what it hears, then its
    parts' own.
    """
    return FIRST_FURTHER + (number - 1) * A_PICTURE


def uniforms_of(number: int) -> int:
    """The block of a picture's uniforms; 0 is what plays."""
    return first_of(number) if number else int(BlockId.UNIFORMS)


def first_own(number: int) -> int:
    """The first block that a part of a picture has for itself."""
    return first_of(number) + 8 if number else FIRST_OWN


def shared_of(number: int) -> dict[str, Data]:
    """The blocks of sound that a picture's shaders read: a further picture may hear another input."""
    if not number:
        return SHARED
    return SHARED | {
        name: SHARED[name].model_copy(update={"block": first_of(number) + at})
        for at, name in enumerate(HEARD, 1)
    }

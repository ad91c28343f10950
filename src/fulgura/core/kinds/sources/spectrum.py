from collections.abc import Mapping
from typing import Any, Literal

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.display import DISPLAY_BINS, DISPLAY_HIGH_HZ, DISPLAY_LOW_HZ
from fulgura.core.kinds.drawn import Own, Source
from fulgura.core.kinds.parameters import Angle, Colour, Count, Length, Number, Ratio, Seconds, param
from fulgura.core.kinds.ramps import Ramped
from fulgura.core.kinds.providers import TickInput


def starts(count: int, evenly_in_hz: bool) -> Array:
    """The first display bin of each bar, shape (count,): bins are evenly spaced in log frequency, and bars
    either so or in Hz.
    """
    share = np.arange(count) / count
    if evenly_in_hz:
        hz = DISPLAY_LOW_HZ + share * (DISPLAY_HIGH_HZ - DISPLAY_LOW_HZ)
        share = np.log(hz / DISPLAY_LOW_HZ) / np.log(DISPLAY_HIGH_HZ / DISPLAY_LOW_HZ)
    found: Array = np.minimum((share * DISPLAY_BINS + 1e-9).astype(int), DISPLAY_BINS - 1)
    return found


class Falling:
    """A level for each bar, that rises at once and falls slowly; bytes, shape (96,): 0 is -90 dBFS, 255 is 0
    dBFS.

    The display bins are evenly spaced in log frequency; the loudest of a bar's own stands for it.
    """

    def __init__(self, seed: int) -> None:
        self.held = np.full(DISPLAY_BINS, -90.0)

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        fall = heard.context.dt * 90.0 / values["fall"] if values["fall"] > 0.0 else np.inf
        self.held = np.maximum(heard.spectrum, self.held - fall)
        count = int(np.clip(round(values["count"]), 1, DISPLAY_BINS))
        bars = np.maximum.reduceat(self.held, starts(count, evenly_in_hz=int(values["scale"]) == 1))
        return np.pad(
            np.clip((bars + 90.0) * (255.0 / 90.0), 0.0, 255.0).astype(np.uint8), (0, DISPLAY_BINS - count)
        )


class Spectrum(Ramped, Source):
    """What is heard, by pitch: low sounds at one end, high ones at the other."""

    shader = "spectrum.frag"
    own = Own("level", DISPLAY_BINS, Falling)

    style: Literal["bars", "dots", "line"] = param("bars", help="How each pitch is shown", group="Form")
    form: Literal["straight", "round"] = param(
        "straight", help="Along the picture, or around a circle", group="Form"
    )
    scale: Literal["by octaves", "evenly in Hz"] = param(
        "by octaves", help="How pitches are spread: as they are heard, or as they are measured", group="Form"
    )
    mirrored: bool = param(True, help="Shown twice, one the mirror image of the other", group="Form")
    count: Count = param(32.0, 4.0, 96.0, "How many bars there are", group="Form")
    gap: Ratio = param(0.3, 0.0, 0.9, "Share of a bar's place that stays empty", group="Form")
    rounded: bool = param(False, help="Bars with round ends", group="Form", when=("style", "bars"))
    height: Length = param(0.8, 0.05, 2.0, "How tall the loudest is", group="Form")
    radius: Length = param(0.35, 0.0, 1.5, "Where bars begin on a circle", group="Form")
    rotation: Angle = param(0.0, -180.0, 180.0, "Angle by which all is turned", group="Form", title="Turn")
    floor: Ratio = param(
        0.25, 0.0, 0.9, "What is quieter is not shown: 0 is -90 dBFS, 0.9 is -9", group="Sound"
    )
    fall: Seconds = param(
        0.6, 0.0, 8.0, "How long a full bar takes to fall to nothing; 0 at once", group="Sound"
    )
    low_colour: Colour = param("#ff7d5c", help="Colour of the lowest", group="Light")
    high_colour: Colour = param("#86c5ff", help="Colour of the highest", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

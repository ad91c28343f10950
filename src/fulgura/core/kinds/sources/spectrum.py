from collections.abc import Mapping
from typing import Any, Literal

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.drawn import Own, Source
from fulgura.core.kinds.parameters import Angle, Colour, Count, Length, Number, Ratio, param
from fulgura.core.kinds.providers import TickInput
from fulgura.core.kinds.ramps import Ramped
from fulgura.core.kinds.sounded import SpectrumDrawn
from fulgura.core.kinds.spectra import FollowedSpectrum, as_bytes

MOST_BARS = 512


class Bars:
    """A level for each bar, bytes, shape (bars,): 0 at the floor, 255 at the ceiling."""

    def __init__(self, seed: int) -> None:
        self.spectrum = FollowedSpectrum()

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        count = int(np.clip(round(values["count"]), 1, MOST_BARS))
        levels = self.spectrum.step(values, heard, count)
        return as_bytes(levels, MOST_BARS)


class Spectrum(Ramped, SpectrumDrawn, Source):
    """What is heard, by pitch: low sounds at one end, high ones at the other."""

    shader = "spectrum.frag"
    own = Own("level", MOST_BARS, Bars)

    style: Literal["bars", "dots", "line"] = param("bars", help="How each pitch is shown", group="Form")
    form: Literal["straight", "round"] = param(
        "straight", help="Along the picture, or around a circle", group="Form"
    )
    mirrored: bool = param(True, help="Shown twice, one the mirror image of the other", group="Form")
    grows: Literal["from the middle", "upward", "downward"] = param(
        "from the middle",
        help="Where bars begin: to both sides of the middle, or at one edge",
        group="Form",
        when=("form", "straight"),
    )
    count: Count = param(32.0, 4.0, float(MOST_BARS), "How many bars there are", group="Form", useful=96.0)
    gap: Ratio = param(0.3, 0.0, 0.9, "Share of a bar's place that stays empty", group="Form")
    rounded: bool = param(False, help="Bars with round ends", group="Form", when=("style", "bars"))
    height: Length = param(0.8, 0.05, 2.0, "How tall the loudest is", group="Form")
    radius: Length = param(0.35, 0.0, 1.5, "Where bars begin on a circle", group="Form")
    rotation: Angle = param(0.0, -180.0, 180.0, "Angle by which all is turned", group="Form", title="Turn")
    low_colour: Colour = param("#ff7d5c", help="Colour of the lowest", group="Light")
    high_colour: Colour = param("#86c5ff", help="Colour of the highest", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

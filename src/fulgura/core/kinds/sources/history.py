from collections.abc import Mapping
from typing import Any, Literal

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.drawn import Own, Source
from fulgura.core.kinds.parameters import Colour, Count, Decibels, Number, Ratio, Seconds, param
from fulgura.core.kinds.providers import TickInput
from fulgura.core.kinds.ramps import Ramped
from fulgura.core.kinds.ring import LINES, block_of
from fulgura.core.kinds.sounded import SpectrumDrawn
from fulgura.core.kinds.spectra import FollowedSpectrum

LEAST_BINS, MOST_BINS = 32, 1024


class Rows:
    """The spectrum's newest rows as bytes; see ring.py for the block."""

    def __init__(self, seed: int) -> None:
        self.spectrum = FollowedSpectrum()
        self.row: Array = np.zeros(0, dtype=np.uint8)
        self.number = 1
        self.due = 0.0

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        bins = int(np.clip(round(values["bins"]), LEAST_BINS, MOST_BINS))
        row = (self.spectrum.step(values, heard, bins) * 255.0 + 0.5).astype(np.uint8)
        per = 1.0 if values["per"] == 0 else heard.context.dt / heard.context.beat_s
        self.due = min(self.due + float(values["speed"]) * per, float(LINES))
        new = int(self.due)
        self.due -= new
        if len(self.row) != bins:
            self.row = np.zeros(bins, dtype=np.uint8)
        # Until its time is over, a row shows the loudest of it.
        self.row = row if new else np.maximum(self.row, row)
        self.number += new
        return block_of(self.number, np.repeat(self.row[None], max(1, new), axis=0))


class History(Ramped, SpectrumDrawn, Source):
    """The spectrum over time: each moment is a row of light that moves away as new ones come."""

    shader = "history.frag"
    own = Own("ring", 0, Rows)

    goes: Literal["down", "up", "left", "right", "outwards"] = param(
        "down", help="Which way the past goes", group="Form"
    )
    per: Literal["frame", "beat"] = param("frame", help="What the speed is counted in", group="Form")
    speed: Number = param(1.0, 0.02, 64.0, "Rows in that time", group="Form", title="Rows")
    span: Count = param(160.0, 8.0, float(LINES), "Rows that are in sight", group="Form", useful=512.0)
    bins: Count = param(
        256.0, float(LEAST_BINS), float(MOST_BINS), "How finely pitches are told apart", group="Form"
    )
    floor: Decibels = param(-63.0, -100.0, -6.0, "What is softer is not shown", group="Sound")
    fall: Seconds = param(0.0, 0.0, 8.0, "How long all takes to fall to nothing; 0 at once", group="Sound")
    curve: Number = param(1.6, 0.2, 6.0, "Higher shows only what is loud", group="Light")
    quiet: Colour = param("#120a2a", help="Colour of what is just above the floor", group="Light")
    middle: Colour = param("#ff5c7a", help="Colour of what is half as loud", group="Light")
    loud: Colour = param("#ffe9a8", help="Colour of the loudest", group="Light")
    half: Ratio = param(0.5, 0.05, 0.95, "Where between quiet and loud the middle colour lies", group="Light")
    fades: Ratio = param(0.6, help="How dark the oldest row is", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

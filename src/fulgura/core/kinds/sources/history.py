from collections.abc import Mapping
from typing import Any, Literal

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.display import DISPLAY_BINS
from fulgura.core.kinds.drawn import Own, Source
from fulgura.core.kinds.parameters import Colour, Count, Number, Ratio, param
from fulgura.core.kinds.ramps import Ramped
from fulgura.core.kinds.providers import TickInput

ROWS = 256


class Rows:
    """The spectrum's last rows, the newest first, bytes, shape (ROWS * 96,): 0 is -90 dBFS, 255 is 0 dBFS."""

    def __init__(self, seed: int) -> None:
        self.rows = np.zeros((ROWS, DISPLAY_BINS), dtype=np.uint8)
        self.due = 0.0

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        row = np.clip((heard.spectrum + 90.0) * (255.0 / 90.0), 0.0, 255.0).astype(np.uint8)
        per = 1.0 if values["per"] == 0 else heard.context.dt / heard.context.beat_s
        self.due = min(self.due + float(values["speed"]) * per, float(ROWS))
        new = int(self.due)
        self.due -= new
        if new:
            self.rows = np.concatenate([np.repeat(row[None], new, axis=0), self.rows[: ROWS - new]])
        else:  # Until its time is over, a row shows the loudest of it.
            self.rows[0] = np.maximum(self.rows[0], row)
        return self.rows.reshape(-1).copy()


class History(Ramped, Source):
    """The spectrum over time: each moment is a row of light that moves away as new ones come."""

    shader = "history.frag"
    own = Own("level", DISPLAY_BINS, Rows)

    goes: Literal["down", "up", "left", "right", "outwards"] = param(
        "down", help="Which way the past goes", group="Form"
    )
    per: Literal["frame", "beat"] = param("frame", help="What the speed is counted in", group="Form")
    speed: Number = param(1.0, 0.02, 64.0, "Rows in that time", group="Form", title="Rows")
    span: Count = param(160.0, 8.0, 256.0, "Rows that are in sight", group="Form")
    curve: Number = param(1.6, 0.2, 6.0, "Higher shows only what is loud", group="Light")
    floor: Ratio = param(0.3, help="Levels below this stay dark", group="Light")
    quiet: Colour = param("#120a2a", help="Colour of what is just above the floor", group="Light")
    middle: Colour = param("#ff5c7a", help="Colour of what is half as loud", group="Light")
    loud: Colour = param("#ffe9a8", help="Colour of the loudest", group="Light")
    half: Ratio = param(0.5, 0.05, 0.95, "Where between quiet and loud the middle colour lies", group="Light")
    fades: Ratio = param(0.6, help="How dark the oldest row is", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

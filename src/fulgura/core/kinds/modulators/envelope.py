"""A line over beats."""

from functools import lru_cache
from math import floor

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.compiled import through
from fulgura.core.kinds.modulator import State
from fulgura.core.kinds.parameters import Beats, Points, param
from fulgura.core.kinds.tick import TickContext
from fulgura.core.kinds.turning import Turning


class Envelope(Turning):
    """A line drawn by hand over some beats."""

    points: Points = param(
        [(0.0, 0.0), (0.25, 1.0), (1.0, 0.0)],
        help="Corners of the line: place in the length and height, both 0 to 1",
    )
    beats: Beats = param(4.0, 0.25, 64.0, "How long it is", title="Length")

    def step(self, state: State, now: TickContext) -> tuple[float, int]:
        turns = self.turned(state, now, self.beats, True)
        if turns is None:
            return (self.points[-1][1] if self.points else 0.0), 0
        return through(_flat(tuple(self.points)), turns - floor(turns)), 0


@lru_cache(256)
def _flat(points: tuple[tuple[float, float], ...]) -> Array:
    return np.array(points).ravel()

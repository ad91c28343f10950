"""A line over beats."""

from functools import lru_cache
from math import floor

import numpy as np
from numpy.typing import NDArray

from fulgura.core.kinds.compiled import through
from fulgura.core.kinds.parameters import Beats, Points, SignalRef, param
from fulgura.core.kinds.turning import ONE_SHOT, TRIGGER, Turning


class Envelope(Turning):
    """A line drawn by hand over some beats."""

    points: Points = param(
        [(0.0, 0.0), (0.25, 1.0), (1.0, 0.0)],
        help="Corners of the line: place in the length and height, both 0 to 1",
    )
    beats: Beats = param(4.0, 0.25, 64.0, "How long it is", title="Length")
    once: bool = param(False, help=ONE_SHOT, title="Once")
    trigger: SignalRef = param("", help=TRIGGER, when=("once", "true"))

    def step(self, state, now):
        turns = self.turned(state, now, self.beats, True)
        if turns is None:
            return (self.points[-1][1] if self.points else 0.0), 0
        return through(_flat(tuple(self.points)), turns - floor(turns)), 0


@lru_cache(256)
def _flat(points: tuple[tuple[float, float], ...]) -> NDArray:
    return np.array(points).ravel()

"""A value under a hand."""

from fulgura.core.kinds.modulator import Modulator
from fulgura.core.kinds.parameters import Ratio, param


class Fader(Modulator):
    """A value under a hand: on the desk or on a controller."""

    made_by = "hand"

    level: Ratio = param(0.0, help="What it gives")

    def step(self, state, now):
        return self.level, 0

"""A value under a hand."""

from fulgura.core.kinds.modulator import Modulator, State
from fulgura.core.kinds.parameters import Ratio, param
from fulgura.core.kinds.tick import TickContext


class Fader(Modulator):
    """A value under a hand: on the desk or on a controller."""

    made_by = "hand"

    level: Ratio = param(0.0, help="What it gives")

    def step(self, state: State, now: TickContext) -> tuple[float, int]:
        return self.level, 0

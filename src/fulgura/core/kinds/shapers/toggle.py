"""On and off by turns."""

from fulgura.core.arrays import Array
from fulgura.core.kinds.compiled import toward
from fulgura.core.kinds.counting import NO_TRIGGER, TRIGGER, counted
from fulgura.core.kinds.parameters import Milliseconds, SignalRef, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import DT


class Toggle(Shaper):
    """Each hit changes over: on, off, on."""

    says = "on and off by turns"

    counts_hits = True

    start_on: bool = param(False, help="Whether it begins on", title="Begins on")
    glide: Milliseconds = param(0.0, 0.0, 5000.0, "Time to cover 63 % of the change")
    trigger: SignalRef = param("", help=TRIGGER, empty=NO_TRIGGER)

    def start(self, seed: int) -> list[float]:
        return [0.0, float(self.start_on)]  # hits counted, the value

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        fell = counted(hits, p[2], fallen)
        s[0] += fell
        s[1] = toward(s[1], (s[0] + p[0]) % 2.0, p[1], now[DT])
        return s[1], fell

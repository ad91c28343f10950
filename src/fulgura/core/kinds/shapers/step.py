"""A step for each hit."""

from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.compiled import toward
from fulgura.core.kinds.counting import NO_TRIGGER, TRIGGER, counted
from fulgura.core.kinds.parameters import Milliseconds, Number, SignalRef, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import DT


class Step(Shaper):
    """Each hit goes one step on."""

    says = "one step of {size}{units} a hit"

    counts_hits = True

    counted: Literal["share", "units"] = param(
        "share",
        help="share: of the whole way from the lower to the upper end; units: in the parameter's own unit",
        title="Counted in",
    )
    size: Number = param(
        0.25,
        -1.0,
        1.0,
        "How far a hit goes, as a share of the whole way; below 0 down",
        when=("counted", "share"),
    )
    units: Number = param(
        1.0,
        -1000.0,
        1000.0,
        "How far a hit goes, in the parameter's unit",
        title="Size",
        when=("counted", "units"),
    )
    end: Literal["wrap", "bounce", "stop"] = param(
        "wrap", help="At an end: begin anew at the other, turn round, or stay"
    )
    glide: Milliseconds = param(0.0, 0.0, 5000.0, "Time to cover 63 % of a step")
    trigger: SignalRef = param("", help=TRIGGER, empty=NO_TRIGGER)

    def start(self, seed: int) -> list[float]:
        return [
            0.0,
            0.0,
            1.0,
        ]  # hits counted, the value, the way's length in the parameter's unit (the route fills it in)

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        fell = counted(hits, p[5], fallen)
        s[0] += fell
        size = p[2] / s[2] if s[2] > 0.0 else 0.0
        if p[0] == 0:
            size = p[1]
        # From the count, not from the last place: after a million hits it still stands where it should.
        position = abs(s[0] * size)
        if p[3] == 2:
            position = min(1.0, position)
        elif p[3] == 1:
            position = position % 2.0
            position = 2.0 - position if position > 1.0 else position
        elif size != 0.0:
            # The upper end is a place of its own: with a quarter there are five, 0 to 1, before it begins
            # anew.
            count = round(1.0 / abs(size)) + 1.0
            whole = abs(abs(size) * (count - 1.0) - 1.0) < 1e-9
            position = (s[0] % count) * abs(size) if whole else position % 1.0
        s[1] = toward(s[1], 1.0 - position if size < 0.0 else position, p[4], now[DT])
        return s[1], fell

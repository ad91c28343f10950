"""Slower up, slower down."""

from math import exp

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Milliseconds, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import DT


class Smooth(Shaper):
    """A one-pole glide with its own time up and down: the time covers 1 - 1/e (63 %) of a step."""

    says = "smoothed {attack} up, {release} down"

    attack: Milliseconds = param(0.0, 0.0, 5000.0, "Time to rise", title="Up")
    release: Milliseconds = param(200.0, 0.0, 5000.0, "Time to fall", title="Down")

    def start(self, seed: int) -> list[float]:
        return [0.0]

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        ms = p[0] if value > s[0] else p[1]
        s[0] += (1.0 - exp(-1000.0 * now[DT] / ms) if ms > 0.0 else 1.0) * (value - s[0])
        return s[0], hits

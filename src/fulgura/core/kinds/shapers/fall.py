"""At once up, slowly down."""

from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Milliseconds, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import DT


class Fall(Shaper):
    """Rises at once, and falls on its own: evenly, or ever faster as a dropped thing does."""

    says = "falling in {time}"

    way: Literal["even", "gravity"] = param(
        "gravity", help="even: the same distance each moment; gravity: from rest, ever faster"
    )
    time: Milliseconds = param(400.0, 10.0, 10_000.0, "Time to fall from 1 to 0")

    def start(self, seed: int) -> list[float]:
        return [0.0, 0.0]  # height, speed

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        seconds, dt = p[1] / 1000.0, now[DT]
        if p[0] == 0:
            s[0] -= dt / seconds
        else:
            # From 1 at rest to 0 in that time: 1 = g t^2 / 2. Height by the mean of old and new speed is
            # exact.
            gained = 2.0 / (seconds * seconds) * dt
            s[0] -= (s[1] + 0.5 * gained) * dt
            s[1] += gained
        if value >= s[0]:
            s[0], s[1] = value, 0.0
        return s[0], hits

"""A bend."""

from math import exp
from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.compiled import through
from fulgura.core.kinds.parameters import Number, Points, param
from fulgura.core.kinds.shaper import Shaper, compiled_step


class Curve(Shaper):
    """Bends the way from 0 to 1, and leaves both ends where they are."""

    says = "bent {shape} {gamma}{steepness}{tension}"

    shape: Literal["gamma", "s", "tension", "points"] = param(
        "gamma",
        help=(
            "gamma: a power; s: slow at both ends, or, below 0, in the middle; tension: an exponential bend;"
            " points: a line through your own points"
        ),
    )
    gamma: Number = param(
        1.0, 0.1, 8.0, "Below 1 lifts quiet values, above 1 keeps headroom", when=("shape", "gamma")
    )
    steepness: Number = param(0.5, -1.0, 1.0, "0 is straight", title="S", when=("shape", "s"))
    tension: Number = param(
        2.0, -8.0, 8.0, "0 is straight; above, it begins slowly; below, quickly", when=("shape", "tension")
    )
    points: Points = param(
        [(0.0, 0.0), (0.5, 0.25), (1.0, 1.0)],
        help="Corners of the line, from left to right",
        when=("shape", "points"),
    )

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        if p[0] == 0:
            return (value ** p[1] if value > 0.0 else 0.0), hits
        if p[0] == 3:
            return through(p[4:], value), hits
        x = min(1.0, max(0.0, value))
        if p[0] == 2:
            bend = p[3]
            # The exponential through (0, 0) and (1, 1); at 0 it is the straight line that it tends to.
            return (x if abs(bend) < 1e-6 else (exp(bend * x) - 1.0) / (exp(bend) - 1.0)), hits
        # Smoothstep 3x^2 - 2x^3, or for the other way its mirror about the diagonal, 2x less it, mixed with
        # the line.
        return x + p[2] * (x * x * (3.0 - 2.0 * x) - x), hits

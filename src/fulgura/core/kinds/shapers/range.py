"""One range onto another."""

from typing import Literal

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Ratio, param
from fulgura.core.kinds.shaper import Shaper, compiled_step


class Range(Shaper):
    """Spreads an incoming bracket over an outgoing one. Ends in reverse order turn it over."""

    says = "from {low} to {high}"
    fits = "To nine tenths of what came in the last ten seconds"
    edges = ("low", "high")

    low: Ratio = param(0.0, help="Incoming value that becomes the lower end", title="From")
    high: Ratio = param(1.0, help="Incoming value that becomes the upper end", title="To")
    to_low: Ratio = param(0.0, help="What the lower end becomes", title="Becomes from")
    to_high: Ratio = param(1.0, help="What the upper end becomes", title="Becomes to")
    outside: Literal["clamp", "fold", "let through"] = param(
        "clamp",
        help=(
            "What lies outside the bracket: stays at its ends, is mirrored back into it, or goes on in a"
            " straight line"
        ),
    )

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        low, high = p[0], p[1]
        # A bracket of no width is a switch at its value: a slip of the hand must not divide by zero.
        share = 1.0 if value >= low else 0.0
        if high != low:
            share = (value - low) / (high - low)
        if p[4] == 0:
            share = min(1.0, max(0.0, share))
        elif p[4] == 1:
            share = share % 2.0
            share = 2.0 - share if share > 1.0 else share
        return p[2] + share * (p[3] - p[2]), hits

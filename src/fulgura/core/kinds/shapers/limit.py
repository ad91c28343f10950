"""No faster than so much."""

from fulgura.core.arrays import Array
from fulgura.core.kinds.parameters import Count, PerSecond, param
from fulgura.core.kinds.shaper import Shaper, compiled_step
from fulgura.core.kinds.tick import DT

LONGEST_BEAT_S = 60.0 / 40.0
"""At the slowest tempo: how much a delay of a beat must be able to remember."""


MOST_FLASHES = 30


class Limit(Shaper):
    """Keeps motion and flashing within bounds: how fast the value may move, and how often it may flash."""

    says = "at most {flashes} flashes a second"

    rise: PerSecond = param(
        60.0, 0.1, 60.0, "Largest rise in a second; at 60 the whole way in one tick", title="Up at most"
    )
    fall: PerSecond = param(60.0, 0.1, 60.0, "Largest fall in a second", title="Down at most")
    flashes: Count = param(
        3.0,
        1.0,
        float(MOST_FLASHES),
        "Flashes in any second; three is what WCAG 2.2 SC 2.3.1 allows",
        title="Flashes at most",
    )
    swing: PerSecond = param(
        0.1,
        0.02,
        1.0,
        "A rise and fall of this height is a flash; WCAG counts from 0.1 of relative luminance",
        title="Swing",
    )

    def start(self, seed: int) -> list[float]:
        # value; seconds; the low since the last rise; whether it rises; when each of the last rises began
        return [0.0, 0.0, 0.0, 0.0] + [-10.0] * MOST_FLASHES

    @compiled_step
    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        last, up, down = s[0], p[0] * now[DT], p[1] * now[DT]
        value = max(last - down, min(last + up, value))
        s[1] += now[DT]
        if s[3]:
            if value < last - 1e-12:
                s[3], s[2] = 0.0, value
        else:
            s[2] = min(s[2], value)
            if value - s[2] >= p[3]:
                oldest, lately = 4, 0
                for k in range(4, s.shape[0]):
                    lately += s[1] - s[k] <= 1.0 + 1e-9
                    oldest = k if s[k] < s[oldest] else oldest
                if lately < round(p[2]):
                    s[oldest], s[3] = s[1], 1.0
                else:
                    # One rise more would be one flash too many: it waits, just below what counts as one.
                    value = min(value, max(last, s[2]))
        s[0] = value
        return value, hits

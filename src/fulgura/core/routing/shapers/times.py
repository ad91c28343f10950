"""Shapers that look back: how fast a value may move, and when it arrives."""

from math import ceil, exp, log2
from typing import Literal

from fulgura.core import FRAME_RATE
from fulgura.core.parameters import Beats, Count, Milliseconds, PerSecond, param
from fulgura.core.routing.shapers.base import BEAT_S, BEATS, DT, Shaper, step

LONGEST_BEAT_S = 60.0 / 40.0
"""At the slowest tempo: how much a delay of a beat must be able to remember."""


class Smooth(Shaper):
    """A one-pole glide with its own time up and down: the time covers 1 - 1/e (63 %) of a step."""

    says = "smoothed {attack} up, {release} down"

    attack: Milliseconds = param(0.0, 0.0, 5000.0, "Time to rise", title="Up")
    release: Milliseconds = param(200.0, 0.0, 5000.0, "Time to fall", title="Down")

    def start(self, seed):
        return [0.0]

    @step
    def step(value, hits, p, s, now, values, fallen):
        ms = p[0] if value > s[0] else p[1]
        s[0] += (1.0 - exp(-1000.0 * now[DT] / ms) if ms > 0.0 else 1.0) * (value - s[0])
        return s[0], hits


class Fall(Shaper):
    """Rises at once, and falls on its own: evenly, or ever faster as a dropped thing does."""

    says = "falling in {time}"

    way: Literal["even", "gravity"] = param(
        "gravity", help="even: the same distance each moment; gravity: from rest, ever faster"
    )
    time: Milliseconds = param(400.0, 10.0, 10_000.0, "Time to fall from 1 to 0")

    def start(self, seed):
        return [0.0, 0.0]  # height, speed

    @step
    def step(value, hits, p, s, now, values, fallen):
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


class Delay(Shaper):
    """What comes in comes out later: values and hits alike, none lost, none doubled."""

    says = "{ms}{beats} later"

    by: Literal["ms", "beats"] = param("ms", help="What the delay is counted in")
    ms: Milliseconds = param(200.0, 0.0, 10_000.0, "How much later", title="Later", when=("by", "ms"))
    beats: Beats = param(1.0, 0.0, 32.0, "How much later", title="Later", when=("by", "beats"))

    def start(self, seed):
        seconds = self.ms / 1000.0 if self.by == "ms" else self.beats * LONGEST_BEAT_S
        # In powers of two, so that turning the knob seldom throws away what waits.
        rows = 2 ** ceil(log2(seconds * FRAME_RATE + 8.0))
        return [0.0, 0.0, 0.0, 0.0] + [0.0] * (
            3 * rows
        )  # first that waits, count, clock, value that is out; rows of (when, value, hits)

    @step
    def step(value, hits, p, s, now, values, fallen):
        rows = (s.shape[0] - 4) // 3
        s[2] += now[DT]
        clock, later, grace = s[2], p[1] / 1000.0, 0.5 * now[DT]
        if p[0] == 1:
            clock, later, grace = now[BEATS], p[2], 0.5 * now[DT] / now[BEAT_S]
        first, count, out = int(s[0]), int(s[1]), 0
        at = 4 + 3 * ((first + count) % rows)
        s[at], s[at + 1], s[at + 2] = clock, value, hits
        count += 1
        # Half a tick of grace, so that a delay of so many ticks is so many and not one more by a rounding.
        # When there is no more room, what waited longest comes out early: better than lost.
        while count > 0 and (s[4 + 3 * first] <= clock - later + grace or count >= rows):
            at = 4 + 3 * first
            s[3] = s[at + 1]
            out += int(s[at + 2])
            first, count = (first + 1) % rows, count - 1
        s[0], s[1] = first, count
        return s[3], out


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

    def start(self, seed):
        # value; seconds; the low since the last rise; whether it rises; when each of the last rises began
        return [0.0, 0.0, 0.0, 0.0] + [-10.0] * MOST_FLASHES

    @step
    def step(value, hits, p, s, now, values, fallen):
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

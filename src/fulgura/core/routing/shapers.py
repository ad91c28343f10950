"""Shapers: the steps of a route. Each turns one value into one value; its memory is passed in and out."""

from math import inf
from typing import ClassVar, Literal

from fulgura.core.parameters import Kind, Milliseconds, Number, Ratio, param
from fulgura.core.sound.levels import coefficient


class Shaper(Kind):
    """A step of a route. Values between shapers are 0..1 unless a shaper leads them out of it."""

    family: ClassVar[str] = "shaper"
    rest: ClassVar[tuple[float, ...]] = ()
    """The memory a chain starts with."""

    def step(self, value: float, memory: tuple[float, ...], dt: float) -> tuple[float, tuple[float, ...]]:
        """One tick of dt seconds: the shaped value and the new memory."""
        raise NotImplementedError


class Gain(Shaper):
    """Multiplies, then adds."""

    gain: Number = param(1.0, -16.0, 16.0, "Factor")
    offset: Number = param(0.0, -1.0, 1.0, "Added afterwards")

    def step(self, value, memory, dt):
        return value * self.gain + self.offset, memory


class Range(Shaper):
    """Spreads an incoming bracket over 0 to 1; what lies outside is clamped. Ends in reverse order invert."""

    title = "From"

    low: Ratio = param(0.0, help="Incoming value that becomes 0")
    high: Ratio = param(1.0, help="Incoming value that becomes 1")

    def step(self, value, memory, dt):
        # A bracket of no width is a switch at its value: a slip of the hand must not divide by zero.
        if self.high == self.low:
            return (1.0 if value >= self.low else 0.0), memory
        return min(1.0, max(0.0, (value - self.low) / (self.high - self.low))), memory


class Curve(Shaper):
    """Bends the way from 0 to 1: gamma below 1 lifts quiet values, above 1 keeps headroom."""

    gamma: Number = param(1.0, 0.1, 8.0, "Exponent")

    def step(self, value, memory, dt):
        return (value ** self.gamma if value > 0.0 else 0.0), memory


class Smooth(Shaper):
    """A one-pole glide with its own time up and down: the time covers 1 - 1/e (63 %) of a step."""

    attack: Milliseconds = param(0.0, 0.0, 5000.0, "Time to rise")
    release: Milliseconds = param(200.0, 0.0, 5000.0, "Time to fall")
    rest = (0.0,)

    def step(self, value, memory, dt):
        state = memory[0]
        state += coefficient((self.attack if value > state else self.release) / 1000.0, 1.0 / dt) * (value - state)
        return state, (state,)


class Gate(Shaper):
    """Lets through only what is above a threshold; closes a little lower than it opens, so that it does not chatter."""

    threshold: Ratio = param(0.3, help="Opens at this value")
    hysteresis: Ratio = param(0.05, help="Closes this much lower")
    hold: Milliseconds = param(0.0, 0.0, 5000.0, "Stays open at least this long")
    passes: Literal["value", "one"] = param("value", help="What comes out while it is open: the value itself, or 1")
    rest = (0.0, inf)

    def step(self, value, memory, dt):
        is_open, since = memory
        since += dt
        if is_open:
            if value < self.threshold - self.hysteresis and since * 1000.0 >= self.hold - 1e-6:
                is_open = 0.0
        elif value >= self.threshold:
            is_open, since = 1.0, 0.0
        out = (value if self.passes == "value" else 1.0) if is_open else 0.0
        return out, (is_open, since)

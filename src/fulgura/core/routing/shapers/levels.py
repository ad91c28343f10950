"""Shapers that look at the value alone."""

from math import exp
from typing import Literal

from fulgura.core.parameters import Count, Number, Points, Ratio, SignalRef, param
from fulgura.core.routing.shapers.base import BARS, FALLEN, Shaper, step, through


class Gain(Shaper):
    """Multiplies, then adds."""

    says = "times {gain} plus {offset}"

    gain: Number = param(1.0, -16.0, 16.0, "Factor", title="Times")
    offset: Number = param(0.0, -1.0, 1.0, "Added afterwards", title="Plus")

    @step
    def step(value, hits, p, s, now, values, fallen):
        return value * p[0] + p[1], hits


class Range(Shaper):
    """Spreads an incoming bracket over an outgoing one. Ends in reverse order turn it over."""

    says = "from {low} to {high}"

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

    @step
    def step(value, hits, p, s, now, values, fallen):
        low, high = p[0], p[1]
        # A bracket of no width is a switch at its value: a slip of the hand must not divide by zero.
        share = (value - low) / (high - low) if high != low else 1.0 if value >= low else 0.0
        if p[4] == 0:
            share = min(1.0, max(0.0, share))
        elif p[4] == 1:
            share = share % 2.0
            share = 2.0 - share if share > 1.0 else share
        return p[2] + share * (p[3] - p[2]), hits


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

    @step
    def step(value, hits, p, s, now, values, fallen):
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


class Invert(Shaper):
    """Turns the value over: what was 0 becomes 1."""

    says = "turned over"

    middle: Ratio = param(0.5, help="The value that stays where it is")

    @step
    def step(value, hits, p, s, now, values, fallen):
        return 2.0 * p[0] - value, hits


class Quantise(Shaper):
    """Leaves only a few values, or lets changes and hits through only on the beat."""

    says = "held to {to} {count}"

    to: Literal["values", "beat", "bar"] = param(
        "values",
        help=(
            "values: the nearest of so many; beat, bar: what comes in waits for the next one, and several"
            " hits become one"
        ),
    )
    count: Count = param(
        4.0,
        2.0,
        64.0,
        "How many values are left, both ends among them",
        title="Values",
        when=("to", "values"),
    )

    def start(self, seed):
        return [0.0, 0.0, 0.0]  # the value that is held; whether a hit waits; whether hits come at all

    @step
    def step(value, hits, p, s, now, values, fallen):
        if p[0] == 0:
            most = float(round(p[1])) - 1.0
            return round(value * most) / most, hits
        if hits:
            s[0], s[1], s[2] = value, 1.0, 1.0  # A hit's strength must outlast the tick that it came in.
        due = now[FALLEN] > 0 if p[0] == 1 else now[BARS] > 0
        if s[2]:  # Where hits come there is nothing between them.
            waits = s[1] > 0.0
            if due:
                s[1] = 0.0
            return (s[0], 1) if due and waits else (0.0, 0)
        if due:
            s[0] = value
        return s[0], 0


class Mix(Shaper):
    """Joins another signal to the value."""

    says = "{how} with {signal}"

    how: Literal["sum", "largest", "smallest", "product", "mean", "difference"] = param(
        "product", help="How the two become one", title="As"
    )
    signal: SignalRef = param("", help="The other signal", title="With")

    @step
    def step(value, hits, p, s, now, values, fallen):
        if p[1] < 0:
            return value, hits
        other = values[int(p[1])]
        if p[0] == 0:
            return value + other, hits
        if p[0] == 1:
            return max(value, other), hits
        if p[0] == 2:
            return min(value, other), hits
        if p[0] == 3:
            return value * other, hits
        if p[0] == 4:
            return (value + other) / 2.0, hits
        return value - other, hits

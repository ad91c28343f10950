"""Shapers that count hits or make them."""

from math import exp, inf
from typing import Literal

from numba import njit
from numpy.typing import NDArray

from fulgura.core.parameters import Milliseconds, Number, Ratio, SignalRef, param
from fulgura.core.routing.shapers.base import DT, Shaper, random_at, step, toward

TRIGGER = "Whose hits count; nothing here: those that come in"


_TWENTIETH = -2.995732273553991
"""ln(1/20)."""


@njit(cache=True)
def counted(hits: int, trigger: float, fallen: NDArray) -> int:
    """The hits of this tick that count: those that come in, or those of a signal that is named."""
    return fallen[int(trigger)] if trigger >= 0 else hits


class Gate(Shaper):
    """Lets through only what is above a threshold; closes a little lower than it opens, so that it does not
    chatter.

    A level that opens it makes a hit: this is how levels are counted. Hits go through when they are strong
    enough.
    """

    says = "only above {threshold}"

    threshold: Ratio = param(0.3, help="Opens at this value", title="Above")
    hysteresis: Ratio = param(0.05, help="Closes this much lower", title="Closes lower by")
    hold: Milliseconds = param(0.0, 0.0, 5000.0, "Stays open at least this long", title="Open for")
    passes: Literal["value", "one"] = param(
        "value", help="What comes out while it is open: the value itself, or 1"
    )

    def start(self, seed):
        return [0.0, inf]  # whether it is open, seconds since it opened

    @step
    def step(value, hits, p, s, now, values, fallen):
        s[1] += now[DT]
        out = 0
        if hits and value >= p[0]:
            s[0], s[1], out = 1.0, 0.0, hits  # Each hit that is strong enough opens it anew.
        elif s[0]:
            if value < p[0] - p[1] and s[1] * 1000.0 >= p[2] - 1e-6:
                s[0] = 0.0
        elif value >= p[0]:
            s[0], s[1], out = 1.0, 0.0, 1
        return ((value if p[3] == 0 else 1.0) if s[0] else 0.0), out


class Pulse(Shaper):
    """Each hit rises, holds and decays: a flash that appears at once and fades. It never stays on."""

    says = "as a pulse of {decay}"

    counts_hits = True

    attack: Milliseconds = param(0.0, 0.0, 2000.0, "Time to rise", title="Up")
    hold: Milliseconds = param(0.0, 0.0, 5000.0, "Time at the top", title="Hold")
    decay: Milliseconds = param(
        300.0,
        0.0,
        10_000.0,
        "Time to fall to a twentieth; 200 suits dance music (common practice)",
        title="Down",
    )
    retrigger: bool = param(True, help="Off: a hit that falls into a pulse changes nothing")
    strength: bool = param(True, help="On: as high as the hit was strong; off: always 1")
    trigger: SignalRef = param("", help=TRIGGER)

    def start(self, seed):
        return [inf, 0.0, 0.0, 0.0]  # seconds since the hit, its height, where it began, the value

    @step
    def step(value, hits, p, s, now, values, fallen):
        attack, hold, decay = p[0] / 1000.0, p[1] / 1000.0, p[2] / 1000.0
        s[0] += now[DT]
        fell = counted(hits, p[5], fallen)
        if fell and (p[3] or s[0] >= attack + hold + decay):
            strength = value if p[5] < 0 else values[int(p[5])]
            s[0], s[1], s[2] = 0.0, strength if p[4] else 1.0, s[3]
        since = s[0]
        if since < attack:
            s[3] = s[2] + (s[1] - s[2]) * since / attack
        elif since <= attack + hold + 1e-9:
            s[3] = s[1]
        elif decay == 0.0 or since - attack - hold >= 3.0 * decay:
            s[3] = 0.0
        else:
            s[3] = s[1] * exp(_TWENTIETH * (since - attack - hold) / decay)
        return s[3], fell


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
    trigger: SignalRef = param("", help=TRIGGER)

    def start(self, seed):
        return [
            0.0,
            0.0,
            1.0,
        ]  # hits counted, the value, the way's length in the parameter's unit (the route fills it in)

    @step
    def step(value, hits, p, s, now, values, fallen):
        fell = counted(hits, p[5], fallen)
        s[0] += fell
        size = p[1] if p[0] == 0 else p[2] / s[2] if s[2] > 0.0 else 0.0
        # From the count, not from the last place: after a million hits it still stands where it should.
        place = abs(s[0] * size)
        if p[3] == 2:
            place = min(1.0, place)
        elif p[3] == 1:
            place = place % 2.0
            place = 2.0 - place if place > 1.0 else place
        elif size != 0.0:
            # The upper end is a place of its own: with a quarter there are five, 0 to 1, before it begins
            # anew.
            count = round(1.0 / abs(size)) + 1.0
            whole = abs(abs(size) * (count - 1.0) - 1.0) < 1e-9
            place = (s[0] % count) * abs(size) if whole else place % 1.0
        s[1] = toward(s[1], 1.0 - place if size < 0.0 else place, p[4], now[DT])
        return s[1], fell


class Toggle(Shaper):
    """Each hit changes over: on, off, on."""

    says = "on and off by turns"

    counts_hits = True

    start_on: bool = param(False, help="Whether it begins on", title="Begins on")
    glide: Milliseconds = param(0.0, 0.0, 5000.0, "Time to cover 63 % of the change")
    trigger: SignalRef = param("", help=TRIGGER)

    def start(self, seed):
        return [0.0, float(self.start_on)]  # hits counted, the value

    @step
    def step(value, hits, p, s, now, values, fallen):
        fell = counted(hits, p[2], fallen)
        s[0] += fell
        s[1] = toward(s[1], (s[0] + p[0]) % 2.0, p[1], now[DT])
        return s[1], fell


class Hold(Shaper):
    """Takes a new value on each hit, and holds it until the next."""

    says = "held at each hit ({takes})"

    counts_hits = True

    takes: Literal["what comes in", "random"] = param(
        "what comes in", help="The value that comes in at the hit, or a new random one"
    )
    glide: Milliseconds = param(0.0, 0.0, 5000.0, "Time to cover 63 % of a change")
    trigger: SignalRef = param("", help=TRIGGER)

    def start(self, seed):
        return [0.0, 0.0, float(seed), 0.0]  # held, the value, seed, hits counted

    @step
    def step(value, hits, p, s, now, values, fallen):
        fell = counted(hits, p[2], fallen)
        if fell:
            s[3] += fell
            s[0] = random_at(s[2], s[3]) if p[0] == 1 else value
        s[1] = toward(s[1], s[0], p[1], now[DT])
        return s[1], fell


class Cycle(Shaper):
    """Several targets take turns: each hit goes to the next. What stands after it is done for each target by
    itself.
    """

    says = "taking turns {order}"

    counts_hits = True

    order: Literal["in order", "back and forth", "random"] = param(
        "in order", help="Who is next; random never takes the same twice in a row"
    )
    trigger: SignalRef = param("", help=TRIGGER)

    def start(self, seed):
        return [0.0, -1.0, float(seed)]  # hits counted, whose turn it is, seed

    @step
    def step(value, hits, p, s, now, values, fallen):
        return value, counted(hits, p[1], fallen)


@njit(cache=True)
def next_turn(p: NDArray, s: NDArray, targets: int) -> int:
    """Counts one hit of a cycle; whose it is, of so many targets."""
    count, last = int(s[0]), int(s[1])
    s[0] += 1.0
    turn = 0
    if targets > 1:
        if p[0] == 0:
            turn = count % targets
        elif p[0] == 1:
            turn = count % (2 * (targets - 1))
            turn = turn if turn < targets else 2 * (targets - 1) - turn
        elif 0 <= last < targets:
            turn = (last + 1 + int(random_at(s[2], s[0]) * (targets - 1))) % targets
        else:
            turn = int(random_at(s[2], s[0]) * targets)
    s[1] = turn
    return turn

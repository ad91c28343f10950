"""Movers: signals that are not heard but made. LFOs, envelopes, patterns, faders and expressions.

A mover is a part of the show like any other: its parameters have hand values, and routes can move them.
"""

from functools import lru_cache
from math import cos, floor, pi
from typing import Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray

from fulgura.core.parameters import Beats, Frequency, Kind, Points, Ratio, SignalRef, Steps, Words, param
from fulgura.core.routing.shapers.base import Moment, random_at, through
from fulgura.core.signals.expression import Expression, ExpressionError

State = list[Any]


class Mover(Kind):
    """Makes one signal."""

    family: ClassVar[str] = "mover"
    made_by: ClassVar[Literal["beat", "hand"]] = "beat"
    """What it follows, for its colour on the desk."""

    def start(self, seed: int) -> State:
        """The state that it begins with. seed: of everything random in it."""
        return []

    def step(self, state: State, now: Moment) -> tuple[float, int]:
        """One tick: (value, hits that fall)."""
        raise NotImplementedError

    def refers_to(self) -> tuple[str, ...]:
        """Signals that it looks at."""
        return ()

    def trouble(self, order: dict[str, int]) -> str:
        """What is wrong with it, in words; empty when nothing is. order: the signals that there are."""
        return next(
            (
                f"The signal “{signal}” that it listens to is gone."
                for signal in self.refers_to()
                if signal not in order
            ),
            "",
        )


ONE_SHOT = "On: one turn for each hit of a signal, then rest; off: on and on"
TRIGGER = "Whose hits begin a turn"


class Turning(Mover):
    """What turns round and round, by the clock or by the beat. Not a kind itself."""

    abstract: ClassVar[bool] = True

    def refers_to(self):
        return (self.trigger,) if self.once and self.trigger else ()

    def start(self, seed):
        # Turns at the anchor, the clock there, the clock, the rate there, seconds since the hit or none,
        # seed.
        return [0.0, 0.0, 0.0, None, None, seed]

    def turned(self, state: State, now: Moment, rate: float, by_beat: bool) -> float | None:
        """Turns so far, whole and part; None while a single turn has ended. rate: turns a second, or beats a
        turn.
        """
        state[2] += now.dt
        clock = now.beats if by_beat else state[2]
        if self.once:
            if now.hits_of(self.trigger):
                state[4] = clock
            if state[4] is None:
                return None
            gone = (clock - state[4]) / rate if by_beat else (clock - state[4]) * rate
            return gone if gone < 1.0 else None
        if by_beat:
            return clock / rate
        if state[3] != rate:  # The rate is being moved: go on from here, so that the phase never leaps.
            state[0] += (state[2] - now.dt - state[1]) * (state[3] or 0.0)
            state[1], state[3] = state[2] - now.dt, rate
        # From the anchor, not from the last tick: a million ticks add up no error.
        return state[0] + (state[2] - state[1]) * rate


class Lfo(Turning):
    """Swings by itself: so many times a second, or once in so many beats."""

    title = "LFO"

    shape: Literal["sine", "triangle", "saw", "square", "random"] = param(
        "sine", help="The form of a swing; random glides from one random value to the next"
    )
    by: Literal["beats", "seconds"] = param("beats", help="What it is counted in", title="Counted in")
    beats: Beats = param(4.0, 0.0625, 64.0, "Beats of one swing", title="Every", when=("by", "beats"))
    rate: Frequency = param(0.5, 0.01, 25.0, "Swings a second", when=("by", "seconds"))
    phase: Ratio = param(0.0, help="Where in the swing it begins")
    skew: Ratio = param(
        0.5, 0.02, 0.98, "Where the middle of a swing lies: share of it that rises, or that a square is on"
    )
    once: bool = param(False, help=ONE_SHOT, title="Once")
    trigger: SignalRef = param("", help=TRIGGER, when=("once", "true"))

    def step(self, state, now):
        beat = self.by == "beats"
        turns = self.turned(state, now, self.beats if beat else self.rate, beat)
        if turns is None:
            return 0.0, 0
        turns += self.phase
        whole = floor(turns)
        return swing(self.shape, turns - whole, self.skew, state[5], whole), 0


def swing(shape: str, phase: float, skew: float, seed: int = 0, turn: int = 0) -> float:
    """One point of a swing, 0..1, at phase 0 <= phase < 1. skew: share of the turn in which it rises."""
    bent = 0.5 * phase / skew if phase < skew else 0.5 + 0.5 * (phase - skew) / (1.0 - skew)
    match shape:
        case "sine":
            return 0.5 - 0.5 * cos(2.0 * pi * bent)
        case "triangle":
            return 2.0 * bent if bent < 0.5 else 2.0 - 2.0 * bent
        case "saw":
            return bent
        case "square":
            return 1.0 if phase < skew else 0.0
    a, b = random_at(seed, turn), random_at(seed, turn + 1)
    return a + (b - a) * bent * bent * (3.0 - 2.0 * bent)


class Envelope(Turning):
    """A line drawn by hand over some beats."""

    points: Points = param(
        [(0.0, 0.0), (0.25, 1.0), (1.0, 0.0)],
        help="Corners of the line: place in the length and height, both 0 to 1",
    )
    beats: Beats = param(4.0, 0.25, 64.0, "How long it is", title="Length")
    once: bool = param(False, help=ONE_SHOT, title="Once")
    trigger: SignalRef = param("", help=TRIGGER, when=("once", "true"))

    def step(self, state, now):
        turns = self.turned(state, now, self.beats, True)
        if turns is None:
            return (self.points[-1][1] if self.points else 0.0), 0
        return through(_flat(tuple(self.points)), turns - floor(turns)), 0


@lru_cache(256)
def _flat(points: tuple[tuple[float, float], ...]) -> NDArray:
    return np.array(points).ravel()


class Pattern(Mover):
    """A row of steps that are gone through on the beat. A step above 0 is a hit of that strength, too."""

    steps: Steps = param(
        [1.0, 0.0, 0.5, 0.0, 1.0, 0.0, 0.5, 0.25], help="Height of each step; from 4 to 64 of them"
    )
    beats: Beats = param(0.25, 0.0625, 8.0, "Beats of one step", title="Step every")
    length: Ratio = param(1.0, 0.05, 1.0, "Share of its step for which it sounds")
    glide: bool = param(False, help="On: runs from each height to the next")

    def start(self, seed):
        return [None]

    def step(self, state, now):
        count = len(self.steps)
        place = now.beats / self.beats
        whole = floor(place)
        last, state[0] = state[0], whole
        value = self.steps[whole % count]
        fell = 0
        if last is not None and whole > last:
            # Steps may be shorter than a tick: each is counted.
            fell = sum(1 for step in range(last + 1, whole + 1) if self.steps[step % count] > 0.0)
        if self.glide:
            return value + (self.steps[(whole + 1) % count] - value) * (place - whole), fell
        return (value if place - whole < self.length else 0.0), fell


class Fader(Mover):
    """A value under a hand: on the desk or on a controller."""

    made_by = "hand"

    level: Ratio = param(0.0, help="What it gives")

    def step(self, state, now):
        return self.level, 0


class Sum(Mover):
    """A small expression of signals, like “max(low, 0.5 * kick)”."""

    title = "Expression"

    words: Words = param(
        "0.7 * low + 0.3 * high",
        help=(
            "Signals by name, numbers with units, + - * / and brackets; min, max, mean, abs, floor, clamp,"
            " step, mix, wave, ramp"
        ),
        title="Is",
    )

    def refers_to(self):
        made = _compiled(self.words)
        return made.signals if isinstance(made, Expression) else ()

    def trouble(self, order):
        made = _compiled(self.words)
        if isinstance(made, str):
            return made
        return next(
            (f"There is no signal called “{name}”." for name in made.signals if name not in order), ""
        )

    def step(self, state, now):
        made = _compiled(self.words)
        return (made.value(now) if isinstance(made, Expression) else 0.0), 0


@lru_cache(256)
def _compiled(words: str) -> Expression | str:
    """The expression, or what is wrong with it."""
    try:
        return Expression.read(words)
    except ExpressionError as error:
        return str(error)

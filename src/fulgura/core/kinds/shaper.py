"""What every shaper is: one value and its hits in, one value and its hits out, each tick.

A shaper is declared once, as a class: its parameters, and a ``step`` that numba compiles. All steps have one
signature, so that thousands of them run in one compiled loop (see running.py); nothing is looked up by name
there.
"""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, ClassVar, Literal, cast

import numpy as np
from numba import float64, int64, njit, types

from fulgura.core.arrays import Array
from fulgura.core.kinds.registry import Kind
from fulgura.core.kinds.tick import TickContext

SIGNATURE: Any = types.Tuple((float64, int64))(  # type: ignore[no-untyped-call]
    float64, int64, float64[::1], float64[::1], float64[::1], float64[::1], int64[::1]
)


Step = Callable[[float, int, Array, Array, Array, Array, Array], tuple[float, int]]


def compiled_step(function: Step) -> Step:
    """Has a shaper's step compiled when it is first used: (value, hits, p, s, now, values, fallen) -> (value,
    hits).

    p: its parameters in the order of their declaration, as ``Shaper.numbers`` gives them; s: what it
    remembers, changed in place; now: a tick context's numbers; values, fallen: value and count of hits of
    every signal.
    """
    plain: Any = function.__func__ if isinstance(function, staticmethod) else function
    compiled: Any = staticmethod(njit(cache=True)(plain))
    return cast(Step, compiled)


class Shaper(Kind):
    """A step of a route. Values between shapers are 0..1 unless a shaper leads them out of it.

    Hits go beside the value: how many fell since the last tick. What counts hits counts these, so that none
    is lost or doubled whatever the tick's length; what changes values lets them through.
    """

    family: ClassVar[str] = "shaper"
    counts_hits: ClassVar[bool] = False
    """True when it does nothing without hits: a level needs a gate before it."""
    lanes: ClassVar[Literal["", "turns", "spread"]] = ""
    """How it parts the way of several targets: they take turns, or each comes later than the one before."""
    says: ClassVar[str]
    """How it reads in a route's sentence; parameters in braces."""
    gives_colours: ClassVar[bool] = False
    """Whether a colour behind it takes the palette's, not what lies between the ends of the route."""
    fits: ClassVar[str] = ""
    """What fitting it to what arrives sets; empty for what can't be fitted."""
    edges: ClassVar[tuple[str, ...]] = ()
    """Parameters that are edges in what comes in, lower one first: the desk draws them over it, and fitting
    sets them.
    """

    @staticmethod
    def step(
        value: float, hits: int, p: Array, s: Array, now: Array, values: Array, fallen: Array
    ) -> tuple[float, int]:
        """One tick; see ``compiled_step``."""
        raise NotImplementedError

    def start(self, seed: int) -> list[float]:
        """What it remembers at first. seed: of everything random in it."""
        return []

    def numbers(self, order: Mapping[str, int]) -> list[float]:
        """Its parameters as numbers: a choice by its place, a toggle as 0 or 1, a signal by its place (-1 for
        none and for one that is gone), points last, x and y in turn.
        """
        found: list[float] = []
        for parameter in self.parameters():
            value = getattr(self, parameter.name)
            match parameter.type:
                case "choice":
                    found.append(float(parameter.choices.index(value)))
                case "signal":
                    found.append(float(order.get(value, -1)))
                case "points":
                    found += [number for point in value for number in point]
                case _:
                    found.append(float(value))
        return found

    def refers_to(self) -> tuple[str, ...]:
        """Signals beside the route's own that it looks at."""
        return tuple(
            name
            for parameter in self.parameters()
            if parameter.type == "signal" and (name := getattr(self, parameter.name))
        )

    def run(
        self,
        values: Sequence[float],
        hits: Sequence[int] | None = None,
        moments: Sequence[TickContext] | None = None,
        seed: int = 0,
    ) -> tuple[Array, Array]:
        """Many ticks of this shaper alone: (values, hits) that come out, shape (ticks,) each. For tests and
        for fitting.
        """
        p, s = np.array(self.numbers(moments[0].order if moments else {})), np.array(self.start(seed))
        count = len(values)
        hits = [0] * count if hits is None else hits
        moments = [TickContext()] * count if moments is None else moments
        out = [
            type(self).step(float(v), int(h), p, s, m.numbers(), m.values, m.hits)
            for v, h, m in zip(values, hits, moments)
        ]
        return np.array([v for v, _ in out]), np.array([h for _, h in out], dtype=int)

"""What is to be seen now: a look, or one that goes over into another, compiled, with its data providers."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from zlib import crc32

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.providers import ClipLength, DataProvider, TickInput
from fulgura.core.kinds.sources.clip import Playing
from fulgura.core.picture.compiler import compile_look
from fulgura.core.picture.plan import Plan
from fulgura.core.picture.plan_builder import provided_parts, readable
from fulgura.core.show.document import Show
from fulgura.core.show.looks import Look
from fulgura.core.show.part import Part

BEATS_WRAP = 4096.0
"""Beats are told to shaders modulo this: 32 bits are exact to a thousandth of a beat there."""
EMPTY_LOOK = Look(id="empty", name="Empty")


@dataclass
class RunningProvider:
    """A data provider, and where the live values of its part stand."""

    provider: DataProvider
    fixed: dict[str, Any]
    index_of: dict[str, int]

    @classmethod
    def of(cls, part: Part, provider: DataProvider, index_of: Mapping[str, int]) -> "RunningProvider":
        """A provider for a part. index_of: parameter address -> index in the live block."""
        parameters = part.parameters()
        return cls(
            provider,
            {parameter.name: part.values[parameter.name] for parameter in parameters if parameter.size != 1},
            {
                parameter.name: index_of[f"{part.id}.{parameter.name}"]
                for parameter in parameters
                if parameter.size == 1
            },
        )

    def step(self, live: Array, heard: TickInput) -> Array:
        """The part's block of this tick."""
        values = {name: float(live[index]) for name, index in self.index_of.items()}
        return self.provider.step(self.fixed | values, heard)


class ShownPicture:
    """The plan that is drawn, and what its sources remember.

    number: which of the pictures that are drawn at once it is, 0 for what plays; fixed: a look of its own by
    its id; leaving: the look that is gone over from, while that lasts.
    """

    def __init__(self, number: int = 0, fixed: str = "") -> None:
        self.number, self.fixed = number, fixed
        self.plan: Plan
        self.providers: dict[str, DataProvider] = {}
        self.clips: dict[str, ClipLength] = {}
        self.leaving: Look | None = None
        self.moved: frozenset[str] = frozenset()
        self._running: list[RunningProvider] = []
        self._gather: Array = np.zeros(0, dtype=int)
        self._share = 0
        self._crossed_s = self._crossfade_s = 0.0

    def leave(self, look: Look | None, seconds: float) -> None:
        """Go over from a look in so many seconds; at once for 0."""
        self.leaving = look if seconds > 0.0 else None
        self._crossed_s, self._crossfade_s = 0.0, seconds

    def compile(self, show: Show, index_of: Mapping[str, int], floats: int, moved: frozenset[str]) -> None:
        """Make the plan of what is to be seen. Providers of parts that stay go on.

        index_of: parameter address -> index in the live block, which has so many floats; moved: addresses of
        choices and the like that something moves.
        """
        found = next((look for look in show.looks if look.id == self.fixed), None)
        look = found or show.shown() or EMPTY_LOOK
        # A look that is left may have been edited, or taken away, since.
        wanted = self.leaving.id if self.leaving is not None else None
        self.leaving = next((look for look in show.looks if look.id == wanted), None)
        beside = next(
            (other for other in show.looks if other.id == show.beside and other.id != look.id), None
        )
        if found is not None:
            self.leaving = beside = None
        first, second = (self.leaving, look) if self.leaving is not None else (look, beside)
        self.moved = moved
        self.plan = compile_look(
            first,
            readable(index_of, floats),
            second,
            show.crossfade if second is not None else None,
            moved,
            show.pictures,
            show.clips,
            self.number,
            show.guard.on,
            show.ramps,
        )
        self.clips = {clip.id: ClipLength(clip.frames, clip.rate) for clip in show.clips}
        self._gather = np.array(self.plan.gather, dtype=int)
        self._share = index_of[f"{show.crossfade.id}.share"]
        parts = [part for look in (first, second) if look is not None for part in provided_parts(look)]
        named = {f"{part.kind} {part.id}": part for part in parts}
        self.providers = {
            name: self.providers.get(name) or _provider(part, crc32(name.encode(), show.seed & 0xFFFFFFFF))
            for name, part in named.items()
        }
        self._running = [
            RunningProvider.of(part, self.providers[name], index_of) for name, part in named.items()
        ]

    def cross(self, live: Array, dt: float) -> bool:
        """One tick further from one look to the next, in place of what the hand says; whether it is over."""
        if self.leaving is None:
            return False
        self._crossed_s += dt
        if self._crossed_s >= self._crossfade_s:
            self.leaving = None
            return True
        live[self._share] = self._crossed_s / self._crossfade_s
        return False

    def uniforms(self, live: Array, beats: float, light: float) -> Array:
        """The plan's uniform block. light: of the whole picture, 0 in a blackout."""
        if not len(self._gather):
            return np.zeros(0)
        gathered: Array = np.append(live, [beats % BEATS_WRAP, light])[self._gather]
        return gathered

    def film_place(self, part: str) -> float | None:
        """Where in its film a source is, in seconds; None while it is not shown."""
        found = self.providers.get(f"clip {part}")
        return found.seconds if isinstance(found, Playing) else None

    def step(self, live: Array, heard: TickInput) -> list[Array]:
        """The blocks that sources have for themselves, in their order."""
        return [running.step(live, heard) for running in self._running]


def _provider(part: Part, seed: int) -> DataProvider:
    own = Source.kinds[part.kind].own
    assert own is not None, "only sources with a block of their own are asked"
    return own.provider(seed)

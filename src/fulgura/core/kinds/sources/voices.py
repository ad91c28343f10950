"""A voice for each hit."""

from collections.abc import Mapping
from typing import Any, Literal

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.drawn import Mesh, Own, Source
from fulgura.core.kinds.parameters import (
    Angle,
    Beats,
    Colour,
    Count,
    LayerRef,
    Length,
    Milliseconds,
    Number,
    Ratio,
    SignalRef,
    param,
)
from fulgura.core.kinds.providers import TickInput
from fulgura.core.kinds.ramps import Ramped
from fulgura.core.kinds.swarm import BY_CHANCE, COLOURED

MOST_VOICES = 64
WHEN_FULL = ("the oldest gives way", "nothing new starts")
GIVES_WAY, NOTHING_NEW = range(len(WHEN_FULL))
IN_BEATS = 1
"""Place of the choice that counts a life in beats."""


class Sounding:
    """Which voices sound: cells (MOST_VOICES, 4): share of its life that is over (-1: silent), strength of
    its hit, its number, and which colour of the palette it has and a number of its own 0..1, added up.

    A life is counted from the tick of its hit, and is over in the first tick that finds its time gone.
    """

    def __init__(self, seed: int) -> None:
        self.rng = np.random.default_rng(seed)
        self.cells = np.zeros((MOST_VOICES, 4), dtype=np.float32)
        self.cells[:, 0] = -1.0
        self.age = np.full(MOST_VOICES, -1.0)
        """Seconds or beats since its hit; below 0 it is silent."""
        self.started = self.colour = 0
        self.beats: float | None = None

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        now, in_beats = heard.context, int(values["lasts"]) == IN_BEATS
        gone = now.beats - self.beats if self.beats is not None else 0.0
        self.beats = now.beats
        life = max(1e-3, values["life_beats"] if in_beats else values["life"] / 1000.0)
        sounding = self.age >= 0.0
        self.age[sounding] += gone if in_beats else now.dt
        # A billionth is what adding up ticks may be short of a life that ends with one.
        self.age[self.age >= life - 1e-9] = -1.0
        most = int(np.clip(round(values["most"]), 1, MOST_VOICES))
        self.age[most:] = -1.0
        strength = now.value_of(values["by"])
        for _ in range(min(MOST_VOICES, now.hits_of(values["by"]))):
            self._start(most, strength, int(values["when_full"]))
            self._deal(int(values["coloured_by"]), len(now.palette))
        self.cells[:, 0] = np.where(self.age >= 0.0, self.age / life, -1.0)
        return self.cells.reshape(-1).copy()

    def _deal(self, by: int, colours: int) -> None:
        """The colour of the next one: never the same twice."""
        if colours > 1:
            further = 1 + int(self.rng.integers(colours - 1)) if by == BY_CHANCE else 1
            self.colour = (self.colour + further) % colours

    def _start(self, most: int, strength: float, when_full: int) -> None:
        silent = np.flatnonzero(self.age[:most] < 0.0)
        if len(silent):
            place = int(silent[0])
        elif when_full == GIVES_WAY:
            place = int(np.argmin(self.cells[:most, 2]))
        else:
            return
        self.started += 1
        self.age[place] = 0.0
        self.cells[place, 1:] = strength, self.started, self.colour + 0.999 * self.rng.random()


class Voices(Ramped, Source):
    """Every hit starts a form of its own, which grows, thins, turns and fades over its life. None begins anew
    before its end.
    """

    title = "Voices"
    shader = "voices.frag"
    data = ("palette",)
    own = Own("rows", MOST_VOICES, Sounding)
    mesh = Mesh("voices.vert", vertices=6, instances=MOST_VOICES)

    by: SignalRef = param("beat", help="Each of its hits starts one", group="Hits", empty="no hits yet")
    most: Count = param(16.0, 1.0, float(MOST_VOICES), "How many there are at once", group="Hits")
    when_full: Literal[*WHEN_FULL] = param(  # type: ignore[valid-type]
        "the oldest gives way", help="When as many are there as can be", group="Hits"
    )
    strength: Ratio = param(0.3, help="How much smaller those of weak hits are", group="Hits")
    lasts: Literal["ms", "beats"] = param("ms", help="What a life is counted in", group="Life")
    life: Milliseconds = param(
        2000.0, 30.0, 20_000.0, "How long one lives", group="Life", when=("lasts", "ms"), useful=4000.0
    )
    life_beats: Beats = param(
        4.0, 0.1, 64.0, "How long one lives", group="Life", title="Life", when=("lasts", "beats"), useful=8.0
    )
    shows: Literal["outline", "filled", "a layer"] = param("outline", help="What each is", group="Form")
    picture: LayerRef = param(
        "", help="The layer whose picture each is", group="Form", when=("shows", "a layer")
    )
    sides: Number = param(12.0, 3.0, 12.0, "Corners; 12 is a circle", group="Form")
    radius: Length = param(0.05, 0.0, 3.0, "Its size at first", group="Over its life")
    end_radius: Length = param(1.1, 0.0, 3.0, "Its size at last", group="Over its life")
    growth: Number = param(
        1.0, 0.2, 5.0, "Below 1 it grows early, above 1 late", group="Over its life", title="Growth's bend"
    )
    width: Length = param(0.05, 0.0, 0.5, "Thickness of the line at first", group="Over its life")
    end_width: Length = param(0.004, 0.0, 0.5, "Thickness of the line at last", group="Over its life")
    rotation: Angle = param(
        0.0, -180.0, 180.0, "How it is turned at first", group="Over its life", title="Turn"
    )
    end_rotation: Angle = param(
        0.0, -720.0, 720.0, "How much farther it is turned at last", group="Over its life", title="Turns by"
    )
    fades: Number = param(
        1.5, 0.0, 6.0, "How early it fades; 0: it goes out at once at its end", group="Over its life"
    )
    x: Length = param(0.0, -2.0, 2.0, "Where it is, to the right", group="Place", title="Across")
    y: Length = param(0.0, -1.0, 1.0, "Where it is, upward", group="Place", title="Up")
    scatter: Length = param(0.0, 0.0, 2.0, "How far around that, by chance", group="Place")
    softness: Ratio = param(0.4, help="Share of the line that fades out", group="Light")
    coloured_by: Literal[*COLOURED] = param(  # type: ignore[valid-type]
        "its life", help="its life: as below; else each has one colour of the palette", group="Light"
    )
    tint: Colour = param("#ffd84d", help="Colour at first", group="Light")
    end_tint: Colour = param("#ff5c7a", help="Colour at last", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

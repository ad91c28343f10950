from collections.abc import Mapping
from math import floor
from typing import Any, Literal

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.drawn import Own, Source
from fulgura.core.kinds.parameters import ClipRef, Colour, Count, Factor, Number, Ratio, SignalRef, param
from fulgura.core.kinds.providers import TickInput

GOES = ("on and on", "back and forth", "once", "by hand")
ON, BACK_AND_FORTH, ONCE, BY_HAND = range(len(GOES))
JUMPS = ("to its start", "anywhere", "a quarter on")
STARTS = ("as suits", "at once", "on the bar")
AS_SUITS, AT_ONCE, ON_THE_BAR = range(len(STARTS))


class Playing:
    """Which picture of its clip a part shows, each tick: one number, shape (1,).

    ``at`` is how far it is through its stretch, 0..1; on the way back of "back and forth" 1..2.
    """

    def __init__(self, seed: int) -> None:
        self.rng = np.random.default_rng(seed)
        self.file, self.at, self.beats, self.waits, self.jumps = "", 0.0, 0.0, False, False
        self.seconds = 0.0
        """Where in the film it is, between pictures too."""

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        clip, moment, goes = heard.clips.get(values["file"]), heard.context, int(values["goes"])
        gone, self.beats = moment.beats - self.beats, moment.beats
        if clip is None:
            return np.zeros(1, dtype=np.float32)
        starts = int(values["starts"])
        on_the_bar = starts == ON_THE_BAR or (starts == AS_SUITS and values["beats"] >= 1.0)
        if values["file"] != self.file:
            self.file, self.at, self.waits = values["file"], 0.0, True
        low, high = sorted((values["begins"], values["ends"]))
        first = min(clip.frames - 1, floor(low * clip.frames))
        length = max(1, min(clip.frames, round(high * clip.frames)) - first)
        self.jumps |= moment.hits_of(values["jump_by"]) > 0
        if self.jumps and (moment.bars or not on_the_bar):
            self.at, self.jumps = (0.0, self.rng.random(), (self.at + 0.25) % 1.0)[int(values["jump"])], False
        elif self.waits:
            self.waits = on_the_bar and not moment.bars
        else:
            self.at = self._further(
                self.at,
                (gone / values["beats"] if values["beats"] >= 1.0 else moment.dt * clip.rate / length)
                * values["speed"],
                goes,
            )
        there = self.at if self.at <= 1.0 else 2.0 - self.at
        at = values["place"] if goes == BY_HAND else there
        self.seconds = (first + min(1.0, at) * length) / clip.rate
        return np.array([first + min(length - 1, floor(at * length + 1e-6))], dtype=np.float32)

    @staticmethod
    def _further(at: float, by: float, goes: int) -> float:
        if goes == ONCE:
            return min(1.0, max(0.0, at + by))
        return (at + by) % (2.0 if goes == BACK_AND_FORTH else 1.0)


class Clip(Source):
    """A film of your own: at its own speed or in step with the beat, forward, backward, back and forth, or
    wherever a signal puts it.
    """

    shader = "picture.frag"
    own = Own("number", 1, Playing)

    file: ClipRef = param(
        "", help="Which of the show's clips; add one with the button", group="Clip", title="File"
    )
    goes: Literal[*GOES] = param(  # type: ignore[valid-type]
        "on and on", help="What happens at its end; by hand: its place is set below", group="Clip"
    )
    place: Ratio = param(
        0.0, help="Where in the clip it stands: give it a signal", group="Clip", when=("goes", "by hand")
    )
    speed: Factor = param(1.0, -4.0, 4.0, "How fast; below 0 it runs backward", group="Clip")
    beats: Count = param(
        0.0,
        0.0,
        64.0,
        "How many beats it takes from start to end; 0: as long as it is",
        group="Clip",
        title="Beats a loop",
    )
    begins: Ratio = param(0.0, help="What comes before is left out", group="Clip", title="In")
    ends: Ratio = param(1.0, help="What comes after is left out", group="Clip", title="Out")
    starts: Literal[*STARTS] = param(  # type: ignore[valid-type]
        "as suits",
        help="When it starts, and jumps; as suits: on the bar if it lasts beats, else at once",
        group="Jump",
    )
    jump_by: SignalRef = param("", help="Each hit of this makes it jump", group="Jump")
    jump: Literal[*JUMPS] = param("to its start", help="Where it jumps", group="Jump", title="Jumps")  # type: ignore[valid-type]
    fit: Literal["fill", "whole", "stretch"] = param(
        "fill",
        help="fill: cut where it is too long; whole: with room around it; stretch: out of shape",
        group="Picture",
    )
    zoom: Factor = param(1.0, 0.1, 8.0, "Size within its place", group="Picture")
    tint: Colour = param("#ffffff", help="Colour that it is lit with", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

"""Makers: what a source needs beside its parameters, made in Python each tick: particles, glyphs, the rows of
a history.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, NamedTuple, Protocol

from fulgura.core.arrays import Array
from fulgura.core.kinds.heard_sound import HeardSound
from fulgura.core.kinds.tick import TickContext


class ClipLength(NamedTuple):
    """How long a clip is: pictures, and how many of them a second."""

    frames: int
    rate: float


@dataclass
class TickInput:
    """What makers are told each tick beside their part's values.

    context: time, beat, and every signal's value and hits; names: what a text can show: the track, the look,
    the cue; clips: those of the show, by their id.
    """

    context: TickContext = field(default_factory=TickContext)
    names: Mapping[str, str] = field(default_factory=dict)
    clips: Mapping[str, ClipLength] = field(default_factory=dict)
    sounds: Mapping[str, HeardSound] = field(default_factory=dict)
    """Of every input, by its id."""
    input: str = ""
    """The one that the picture hears."""

    def sound_of(self, input: str) -> HeardSound:
        """What is heard of an input, of the picture's own for an empty id and for one that is gone."""
        return self.sounds.get(input) or self.sounds.get(self.input) or SILENCE


SCOPE = 1024
"""Points that a scope shows."""
SILENCE = HeardSound()


class DataProvider(Protocol):
    """Makes one part's data block. It keeps what it remembers; equal steps from an equal seed give equal
    blocks.
    """

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        """The block of this tick. values: the part's parameters: live where routes can move them, else as in
        the document.
        """
        ...

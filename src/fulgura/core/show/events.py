"""Everything that can happen to a performance beside sound. Live, offline and replay go through the same
door: Performer.act.

A performance is its sound and these, each at its tick: the same ones give the same frames, bit for bit.
"""

from typing import Annotated, Any, Literal

from pydantic import Field

from fulgura.core.show.edits import Edit
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.part import Strict


class EditMade(Strict):
    """The show was edited. Live values take this long to get to where they now belong."""

    event: Literal["edit-made"] = "edit-made"
    edit: Edit
    glide_ms: float = Field(0.0, ge=0, le=60_000)
    glide_beats: float = Field(0.0, ge=0, le=64)


class OverrideSet(Strict):
    """A hand holds a live value: at a value, or, without one, where it is."""

    event: Literal["override-set"] = "override-set"
    target: str = Field(max_length=120)
    value: Any = None


class OverrideReleased(Strict):
    """A held value goes back to what moves it; without a target all that are held."""

    event: Literal["override-released"] = "override-released"
    target: str = Field("", max_length=120)
    glide_ms: float = Field(400.0, ge=0, le=60_000)


class BeatTurned(Strict):
    """A hand on the main input's beat; see InputListener.turn_beat."""

    event: Literal["beat-turned"] = "beat-turned"
    what: Literal["half", "double", "nudge", "downbeat", "align", "anew"]
    value: float = 0.0


class RoomHeard(Strict):
    """The empty room of an input is measured from now on."""

    event: Literal["room-heard"] = "room-heard"
    input: str = MAIN


class LampsIdentified(Strict):
    """These lamps shine white, for a second from when it was said last; none: they are let go."""

    event: Literal["lamps-identified"] = "lamps-identified"
    lamps: list[str] = Field([], max_length=2000)


Event = Annotated[
    EditMade | OverrideSet | OverrideReleased | BeatTurned | RoomHeard | LampsIdentified,
    Field(discriminator="event"),
]

"""Everything that can happen to a performance beside sound. Live, offline and replay go through the same
door: Performer.act.

A performance is its sound and these, each at its tick: the same ones give the same frames, bit for bit.
"""

from typing import Annotated, Any, Literal

from pydantic import Field

from fulgura.core.show.edits import Edit
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.part import AAction, Strict


class EditMade(Strict):
    """The show was edited. Live values take this long to get to where they now belong; over: parameters that
    take another time, in seconds, by their address.
    """

    event: Literal["edit-made"] = "edit-made"
    edit: Edit
    glide_ms: float = Field(0.0, ge=0, le=600_000)
    glide_beats: float = Field(0.0, ge=0, le=4096)
    over: dict[str, Annotated[float, Field(ge=0, le=36_000)]] = {}


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


class Timed(Strict):
    """Something that a hand or a machine did. age_s: how long before the tick that comes."""

    age_s: float = Field(0.0, ge=0, le=10)


class ActionDone(Timed):
    """A button of the desk: an action, done once. ended: it is ended instead."""

    event: Literal["action-done"] = "action-done"
    action: AAction
    strength: float = Field(1.0, ge=0, le=1)
    ended: bool = False


class PadPressed(Timed):
    """A pad goes down. by: whose finger it is, so that two on one pad are told apart."""

    event: Literal["pad-pressed"] = "pad-pressed"
    pad: str = Field(max_length=60)
    strength: float = Field(1.0, ge=0, le=1)
    by: str = Field("desk", max_length=200)


class PadReleased(Timed):
    """A pad is let go."""

    event: Literal["pad-released"] = "pad-released"
    pad: str = Field(max_length=60)
    by: str = Field("desk", max_length=200)


class FaderMoved(Timed):
    """A fader of the desk is moved: it has its value in hand wherever it stands."""

    event: Literal["fader-moved"] = "fader-moved"
    fader: str = Field(max_length=60)
    position: float = Field(ge=0, le=1)
    gesture: str = Field("", max_length=60)


class ControlSaid(Timed):
    """A control of a controller says something: a key, a game pad, an OSC message. value: 0..1; down: whether
    it is pressed, None for what has no press of its own.
    """

    event: Literal["control-said"] = "control-said"
    source: str = Field(min_length=1, max_length=120)
    controller: str = Field("", max_length=120)
    value: float = Field(0.0, ge=-1e6, le=1e6)
    down: bool | None = None


class MidiSaid(Timed):
    """A whole MIDI 1.0 message of one to three bytes, its status first."""

    event: Literal["midi-said"] = "midi-said"
    controller: str = Field("", max_length=120)
    data: list[Annotated[int, Field(ge=0, le=255)]] = Field(min_length=1, max_length=3)


class ControllerGone(Strict):
    """A controller was pulled out, or a page that spoke for it is gone: what it held is let go."""

    event: Literal["controller-gone"] = "controller-gone"
    controller: str = Field(max_length=200)


class LearnAsked(Strict):
    """The next control that says something does this; without it nothing is learnt any more."""

    event: Literal["learn-asked"] = "learn-asked"
    does: Literal["", "value", "pad", "fader", "action", "hit"] = ""
    target: str = Field("", max_length=400)
    low: float = 0.0
    high: float = 1.0
    action: AAction | None = None


class Tapped(Timed):
    """A tap on the beat."""

    event: Literal["tapped"] = "tapped"


class TempoSaid(Timed):
    """Somebody else's tempo, by OSC. beat: which of the bar falls now, from 1 on; 0 for none."""

    event: Literal["tempo-said"] = "tempo-said"
    bpm: float | None = Field(None, ge=20, le=400)
    beat: int | None = Field(None, ge=0, le=64)


class TrackPlaced(Strict):
    """Where the main input's track is."""

    event: Literal["track-placed"] = "track-placed"
    track: str = Field("", max_length=120)
    position_s: float = 0.0
    length_s: float = 0.0
    playing: bool = False


class ClockRead(Strict):
    """What time of the day it is, in seconds since midnight."""

    event: Literal["clock-read"] = "clock-read"
    seconds: float = Field(ge=0, lt=86_401)


FromPages = (
    OverrideSet
    | OverrideReleased
    | LampsIdentified
    | ActionDone
    | PadPressed
    | PadReleased
    | FaderMoved
    | ControlSaid
    | MidiSaid
    | ControllerGone
    | LearnAsked
    | Tapped
)
"""What a page may say."""
Event = Annotated[
    FromPages | EditMade | BeatTurned | RoomHeard | TempoSaid | TrackPlaced | ClockRead,
    Field(discriminator="event"),
]
PageEvent = Annotated[FromPages, Field(discriminator="event")]

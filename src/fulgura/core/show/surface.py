"""What a hand plays: pads and faders, page by page, and what of controllers does what."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from fulgura.core.kinds.action import PadMode
from fulgura.core.show.part import AAction, Id, Name, Strict, check_unique

PADS, FADERS, MOST_ACTIONS, MOST_PAGES, MOST_MAPPINGS = 16, 8, 8, 64, 1000


class Pad(Strict):
    """A pad, in its place from 0 on. mode: at each press, while held, or on and off in turn; waits: for the
    next beat or bar.
    """

    id: Id
    name: str = Field("", max_length=40)
    at: int = Field(0, ge=0, lt=PADS)
    mode: PadMode = "press"
    waits: Literal["no", "beat", "bar"] = "no"
    colour: str = Field("", pattern=r"^(#[0-9a-f]{6})?$")
    actions: list[AAction] = Field([], max_length=MOST_ACTIONS)

    @model_validator(mode="after")
    def _once(self) -> Self:
        check_unique([action.id for action in self.actions], "action")
        return self


class Reach(Strict):
    """A number of the document that a fader moves: between which values, and how it gets from one to the
    other. bend: 0 evenly, below 0 late, above 0 soon.
    """

    target: str = Field(max_length=400)
    low: float = 0.0
    high: float = 1.0
    bend: float = Field(0.0, ge=-1, le=1)

    def value(self, position: float) -> float:
        """What a fader at a position (0..1) makes of it.

        >>> Reach(target="/x", low=1.0, high=3.0).value(0.25), Reach(target="/x", bend=-1.0).value(0.5)
        (1.5, 0.0625)
        """
        return float(self.low + position ** (4.0**-self.bend) * (self.high - self.low))

    def position(self, value: float) -> float:
        """Where a fader stands for a value, 0..1."""
        share = (value - self.low) / (self.high - self.low) if self.high != self.low else 0.0
        return float(min(1.0, max(0.0, share)) ** (4.0**self.bend))


class Fader(Strict):
    """A fader, in its place from 0 on. What it moves first says where it stands."""

    id: Id
    name: str = Field("", max_length=40)
    at: int = Field(0, ge=0, lt=FADERS)
    moves: list[Reach] = Field([], max_length=MOST_ACTIONS)


class PadPage(Strict):
    """One page of pads and faders."""

    id: Id
    name: Name
    pads: list[Pad] = Field([], max_length=PADS)
    faders: list[Fader] = Field([], max_length=FADERS)

    @model_validator(mode="after")
    def _apart(self) -> Self:
        for what, places in (("pad", self.pads), ("fader", self.faders)):
            if len({each.at for each in places}) < len(places):
                raise ValueError(f"two {what}s of the page “{self.name}” stand in the same place")
        return self


Coding = Literal["absolute", "fine", "twos", "offset", "sign"]
"""How a control change says its value (MIDI 1.0; the three of encoders are common practice). absolute: 0 to
127; fine: two of 7 bits each; twos: 1 and 127 are one step up and down; offset: 65 and 63; sign: 1 and 65.
"""


class Mapping(Strict):
    """What a control does. source: the control, as its protocol names it: "midi 1 note 36", "osc /fader/1",
    "key q", "game 1 button 3". controller: the name of the device; empty for any.

    does: "value" moves a number of the document, ``target``, like a fader; "pad" and "fader" play those of
    the surface: a number from 1 on means that of the open page, an id a certain one; "action" does
    ``action``; "hit" makes hits of the played signal ``target``.
    """

    id: Id
    source: str = Field(min_length=1, max_length=120)
    controller: str = Field("", max_length=120)
    does: Literal["value", "pad", "fader", "action", "hit"] = "value"
    target: str = Field("", max_length=400)
    low: float = 0.0
    high: float = 1.0
    bend: float = Field(0.0, ge=-1, le=1)
    action: AAction | None = None
    coding: Coding = "absolute"
    muted: bool = False

    def reach(self) -> Reach:
        """Its way from a position to a value."""
        return Reach(target=self.target, low=self.low, high=self.high, bend=self.bend)


HostPort = Annotated[str, Field(max_length=200, pattern=r"^([^\s:]+:\d{1,5})?$")]
"""Where OSC goes: an address, a colon, a port; empty for nowhere."""


class ControlSettings(Strict):
    """What is told to controllers, and to others who follow the tempo.

    feedback: values and lights of pads go back to the controllers that are mapped; osc_to: where OSC goes;
    clock_to: MIDI ports that get the clock, "all" for every one; tempo_by_osc: whether tempo and beats go out
    as OSC.
    """

    feedback: bool = True
    osc_to: HostPort = ""
    clock_to: list[Annotated[str, Field(max_length=120)]] = Field([], max_length=16)
    tempo_by_osc: bool = False

"""Lamps and where they hang, their groups, palettes and chases, and where universes are sent."""

from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator

from fulgura.core.kinds.fixture import Fixture
from fulgura.core.kinds.parameters import HexColour
from fulgura.core.show.part import (
    AAnswer,
    AChase,
    AChaseRun,
    AFixture,
    AGroup,
    AMasters,
    Id,
    Name,
    Part,
    Strict,
    check_unique,
)

MOST_LAMPS, MOST_GROUPS = 2000, 200
LAST_UNIVERSE = 63_999
"""ANSI E1.31."""
ANSWER = {"family": "answer", "kind": "answer"}


def _straight() -> Part:
    return Part(id="answer", **ANSWER)


class Place(Strict):
    """Where something hangs: metres to the right of the middle, into the room, above the floor.

    turn: about the upright, in degrees; lean: where it points at rest, 0 down, 90 to the audience, 180 up;
    roll: about the way that it points, which stands a bar upright.
    """

    x: float = Field(0.0, ge=-500, le=500)
    y: float = Field(0.0, ge=-500, le=500)
    z: float = Field(3.0, ge=-50, le=500)
    turn: float = Field(0.0, ge=-360, le=360)
    lean: float = Field(0.0, ge=-180, le=180)
    roll: float = Field(0.0, ge=-360, le=360)


class Lamp(Strict):
    """A fixture at an address, in a place.

    mode: of its kind, empty for the usual one; pixels: 0 for as many as its kind usually has. limits: between
    which a parameter is sent; parked: parameters that are sent at a value whatever else is wanted; uses:
    palettes that parameters were set by.
    """

    id: Id
    number: int = Field(1, ge=1, le=99_999)
    name: Name
    universe: int = Field(1, ge=1, le=LAST_UNIVERSE)
    address: int = Field(1, ge=1, le=512)
    mode: str = Field("", max_length=60)
    pixels: int = Field(0, ge=0, le=2048)
    fixture: AFixture
    place: Place = Place()
    answer: AAnswer = Field(default_factory=_straight)
    limits: dict[str, tuple[float, float]] = {}
    parked: dict[str, Any] = {}
    uses: dict[str, str] = {}

    @property
    def profile(self) -> type[Fixture]:
        """Its kind."""
        return Fixture.kinds[self.fixture.kind]

    @property
    def cells(self) -> int:
        """How many lights it has that shine by themselves."""
        return min(self.pixels or self.profile.pixels, self.profile.most_pixels)

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if self.mode and self.mode not in self.profile.modes:
            raise ValueError(f"“{self.name}” has no mode “{self.mode}”: {', '.join(self.profile.modes)}")
        for name, (low, high) in self.limits.items():
            if low > high:
                raise ValueError(f"the limits of “{name}” are the wrong way round")
        return self


class Group(Strict):
    """Lamps in an order of their own. pixels: whether each pixel counts by itself. Lamps that are gone are
    passed over.

    Its part has the id of the group: targets of routes begin with it.
    """

    id: Id
    name: Name
    members: list[Id] = Field([], max_length=MOST_LAMPS)
    pixels: bool = False
    answer: AAnswer = Field(default_factory=_straight)
    part: AGroup

    @model_validator(mode="before")
    @classmethod
    def _with_part(cls, data: Any) -> Any:
        if isinstance(data, dict) and "part" not in data and "id" in data:
            return {**data, "part": {"id": data["id"], "family": "group", "kind": "light-group"}}
        return data

    @model_validator(mode="after")
    def _one_id(self) -> Self:
        if self.part.id != self.id:
            raise ValueError(f"the group “{self.name}” and its part have one id")
        check_unique(self.members, "member")
        return self


PaletteKind = Literal["colour", "position", "state"]


class Palette(Strict):
    """Something for lamps to take. colours: a small set, laid over lamps in turn where they have none of
    their own here. lamps: what those had that it was made from, lamp by lamp.
    """

    id: Id
    name: Name
    kind: PaletteKind = "colour"
    colours: list[HexColour] = Field([], max_length=64)
    lamps: dict[Id, dict[str, Any]] = {}


class LaidColour(Strict):
    """A colour that a chase lays on from a share of the group on."""

    at: float = Field(0.0, ge=0, le=1)
    colour: HexColour


class Run(Strict):
    """A chase on one group."""

    id: Id
    group: Id
    part: AChaseRun


class Chase(Strict):
    """What runs over groups, on each with a progress of its own. colours: laid on by where a lamp stands in
    the group, each up to the next; none for the lamps' own.
    """

    id: Id
    name: Name
    part: AChase
    colours: list[LaidColour] = Field([], max_length=16)
    runs: list[Run] = Field([], max_length=64)

    @model_validator(mode="after")
    def _once(self) -> Self:
        check_unique([run.id for run in self.runs], "run")
        check_unique([run.group for run in self.runs], "group of a chase")
        return self


Address = Annotated[str, Field(pattern=r"^\d{1,5}\.\d{1,3}$")]
"""Universe, a dot, channel: 2.17."""


class Room(Strict):
    """The room that the rig hangs in, in metres, and the wall that the picture is on; a wall without a width
    is none.
    """

    width: float = Field(16.0, ge=1, le=1000)
    depth: float = Field(10.0, ge=1, le=1000)
    height: float = Field(8.0, ge=1, le=500)
    wall: Place = Place(x=0.0, y=8.0, z=2.0)
    wall_width: float = Field(5.0, ge=0, le=500)
    wall_height: float = Field(2.8, ge=0, le=500)


class LightSettings(Strict):
    """What holds for all lamps. frozen: what is sent stays; strobe: flashes faster than three a second are
    allowed; parked: channels that are sent at a value; private: universes that are not sent.
    """

    part: AMasters = Field(default_factory=lambda: Part(id="lights", family="masters", kind="light-masters"))
    frozen: bool = False
    strobe: bool = False
    parked: dict[Address, Annotated[int, Field(ge=0, le=255)]] = {}
    private: list[Annotated[int, Field(ge=1, le=LAST_UNIVERSE)]] = Field([], max_length=64)
    room: Room = Room()


Protocol = Literal["sacn", "art-net"]
PORTS: dict[Protocol, int] = {"sacn": 5568, "art-net": 6454}


class LightOutput(Strict):
    """A place that universes are sent to.

    host: empty for multicast (sACN) or broadcast (Art-Net). port: 0 for the protocol's own. interface:
    address of the network card that it leaves by, empty for the usual one. universes: which are sent, all
    without any; shift: added to their number on the wire. rate: frames a second at most.
    """

    id: Id = "output-1"
    name: Name = "Lamps"
    protocol: Protocol = "sacn"
    host: str = Field("127.0.0.1", max_length=255)
    port: int = Field(0, ge=0, le=65_535)
    interface: str = Field("", max_length=60)
    priority: int = Field(100, ge=0, le=200)
    rate: float = Field(44.0, ge=1, le=44)
    universes: list[Annotated[int, Field(ge=1, le=LAST_UNIVERSE)]] = Field([], max_length=512)
    shift: int = Field(0, ge=-LAST_UNIVERSE, le=LAST_UNIVERSE)
    on: bool = True

"""The document: a show as a tree of Pydantic models. It is the truth; everything else follows from it."""

import re
from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from fulgura.core.lights.profiles import Fixture
from fulgura.core.parameters import Kind
from fulgura.core.picture import kinds as picture
from fulgura.core.picture.kinds import Effect, Layering, Source
from fulgura.core.routing.shapers import Shaper
from fulgura.core.sound.houseband import HouseBandSettings, InputKind

picture.load()

FAMILIES: dict[str, type[Kind]] = {family.family: family for family in (Source, Effect, Layering, Fixture, Shaper, InputKind)}


def _an_id(value: str) -> str:
    if not re.fullmatch(r"[a-z0-9][a-z0-9-]{0,47}", value):
        raise ValueError("an id is made of lower-case letters, digits and dashes")
    return value


Id = Annotated[str, AfterValidator(_an_id)]
Name = Annotated[str, Field(min_length=1, max_length=80)]


class Strict(BaseModel):
    """A part of the document: unknown fields and numbers that are not finite are refused."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class Part(Strict):
    """One source, effect, shaper or the like: which kind it is, and its hand values.

    Missing values take the kind's defaults; wrong ones are refused with the parameter's name.
    """

    id: Id
    kind: str
    on: bool = True
    values: dict[str, Any] = {}

    @property
    def family(self) -> type[Kind]:
        return next(f for f in FAMILIES.values() if self.kind in f.kinds)

    def model(self) -> Kind:
        """The hand values as the kind's own model."""
        return self.family.kinds[self.kind](**self.values)

    @model_validator(mode="after")
    def _fill(self) -> Self:
        if not any(self.kind in family.kinds for family in FAMILIES.values()):
            raise ValueError(f"there is no kind called “{self.kind}”")
        self.values = self.model().model_dump()
        return self


def part_of(family: str):
    """A validator: the part's kind belongs to this family."""

    def check(part: Part) -> Part:
        if part.kind not in FAMILIES[family].kinds:
            raise ValueError(f"“{part.kind}” is not a {family}")
        return part

    return AfterValidator(check)


ASource = Annotated[Part, part_of("source")]
AEffect = Annotated[Part, part_of("effect")]
ALayering = Annotated[Part, part_of("layering")]
AFixture = Annotated[Part, part_of("fixture")]
AShaper = Annotated[Part, part_of("shaper")]


class TrackInput(Strict):
    """A sound file of the library."""

    kind: Literal["track"] = "track"
    track: str = ""
    playing: bool = True
    loop: bool = True


class LiveInput(Strict):
    """Sound that a browser sends from its microphone or line."""

    kind: Literal["live"] = "live"
    device: str = ""
    """What the browser calls the device; empty for its default."""


class HouseInput(Strict):
    """The built-in test performer."""

    kind: Literal["house"] = "house"


class Input(Strict):
    """Where sound comes from. The settings of all three stay, so that switching back loses nothing."""

    use: Literal["track", "live", "house"] = "track"
    track: TrackInput = TrackInput()
    live: LiveInput = LiveInput()
    house: HouseBandSettings = HouseBandSettings()
    gain_db: float = Field(0.0, ge=-40, le=40)


class Band(Strict):
    """A frequency range whose level is a signal."""

    id: Id
    name: Name
    low_hz: float = Field(ge=20, le=19_000)
    high_hz: float = Field(ge=30, le=20_000)
    gain_db: float = Field(0.0, ge=-24, le=24)
    attack_ms: float = Field(0.0, ge=0, le=2_000)
    release_ms: float = Field(120.0, ge=0, le=5_000)

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.high_hz < self.low_hz * 1.05:
            raise ValueError(f"the band “{self.name}” must end above its start ({self.low_hz:g} Hz)")
        return self


class HitSetting(Strict):
    """How one detector listens."""

    id: Literal["kick", "snare", "hat"]
    sensitivity: float = Field(0.5, ge=0, le=1)
    dead_time_ms: float = Field(120.0, ge=20, le=1_000)


class Route(Strict):
    """One signal, through shapers, to one parameter. low and high are in the parameter's own unit."""

    id: Id
    signal: str
    target: str
    """Address of a parameter: the id of its part, a dot, its name."""
    low: float
    high: float
    amount: float = Field(1.0, ge=0, le=1)
    muted: bool = False
    shapers: list[AShaper] = []


class Layer(Strict):
    """A source, its effects, and how it lies on what is below."""

    id: Id
    name: Name
    visible: bool = True
    source: ASource
    effects: list[AEffect] = []
    mix: ALayering


class Look(Strict):
    """One complete picture: layers from back to front, and finishing effects."""

    id: Id
    name: Name
    layers: list[Layer] = Field([], max_length=16)
    finish: list[AEffect] = []

    def parts(self) -> list[Part]:
        found = []
        for layer in self.layers:
            found += [layer.source, *layer.effects, layer.mix]
        return found + self.finish


class Lamp(Strict):
    """A fixture at an address. universe from 1 to 63999 (ANSI E1.31), address from 1 to 512."""

    id: Id
    name: Name
    universe: int = Field(1, ge=1, le=63_999)
    address: int = Field(1, ge=1, le=512)
    fixture: AFixture

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if self.address + Fixture.kinds[self.fixture.kind].channels - 1 > 512:
            raise ValueError(f"“{self.name}” does not fit: its channels run past 512")
        return self


class LightOutput(Strict):
    """Where universes are sent."""

    host: str = Field("127.0.0.1", min_length=1, max_length=255)
    port: int = Field(5568, ge=1, le=65_535)
    priority: int = Field(100, ge=0, le=200)
    on: bool = True


class Show(Strict):
    """Everything saved for one event."""

    name: Name
    seed: int = Field(1, ge=0, le=2**31)
    input: Input = Input()
    bands: list[Band] = Field([], max_length=24)
    hits: list[HitSetting] = []
    looks: list[Look] = []
    look: str = ""
    """Id of the look that is shown."""
    routes: list[Route] = []
    lamps: list[Lamp] = []
    light_output: LightOutput = LightOutput()
    sound_amount: float = Field(1.0, ge=0, le=1)
    blackout: bool = False

    def parts(self) -> list[Part]:
        """Every part whose parameters routes can move."""
        return [part for look in self.looks for part in look.parts()] + [lamp.fixture for lamp in self.lamps]

    @model_validator(mode="after")
    def _whole(self) -> Self:
        for what, ids in (
            ("part", [part.id for part in self.parts()]),
            ("band", [band.id for band in self.bands]),
            ("hit", [hit.id for hit in self.hits]),
            ("route", [route.id for route in self.routes]),
            ("look", [look.id for look in self.looks]),
            ("lamp", [lamp.id for lamp in self.lamps]),
            *(("layer", [layer.id for layer in look.layers]) for look in self.looks),
            *(("shaper", [shaper.id for shaper in route.shapers]) for route in self.routes),
        ):
            twice = {i for i in ids if ids.count(i) > 1}
            if twice:
                raise ValueError(f"two {what}s have the id “{sorted(twice)[0]}”")
        if self.looks and self.look not in {look.id for look in self.looks}:
            raise ValueError(f"there is no look “{self.look}” to show")
        return self

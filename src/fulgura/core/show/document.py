"""The document: a show as a tree of Pydantic models. It is the truth; everything else follows from it."""

import re
from collections import Counter
from typing import Annotated, Any, ClassVar, Literal, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from fulgura.core.lights.profiles import Fixture
from fulgura.core.parameters import (
    Colour,
    Decibels,
    Factor,
    Frequency,
    FullScale,
    Kind,
    Milliseconds,
    Parameter,
    Ratio,
    Tempo,
    param,
)
from fulgura.core.picture import kinds as picture
from fulgura.core.picture.kinds import Crossfade, Effect, Layering, Source
from fulgura.core.routing.shapers import Shaper
from fulgura.core.signals.movers import Mover
from fulgura.core.sound.bands import SLOPES
from fulgura.core.sound.drums import DRUMS
from fulgura.core.sound.gain import LevelSetting
from fulgura.core.sound.houseband import HouseBandSettings, InputKind

picture.load()


def same(a: list, b: list) -> bool:
    """Whether two lists hold the very same objects: what an edit did not touch."""
    return len(a) == len(b) and all(x is y for x, y in zip(a, b))


def _an_id(value: str) -> str:
    if not re.fullmatch(r"[a-z0-9][a-z0-9-]{0,47}", value):
        raise ValueError("an id is made of lower-case letters, digits and dashes")
    return value


Id = Annotated[str, AfterValidator(_an_id)]
Name = Annotated[str, Field(min_length=1, max_length=80)]


MAIN = "main"
"""Id of the input that every show has: the one whose beat the show keeps."""
MOST_INPUTS, MOST_BANDS, MOST_LAYERS, MOST_CUES = 4, 24, 16, 200


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

    def parameters(self) -> list[Parameter]:
        """What can be set of it, and what routes can move."""
        return self.family.kinds[self.kind].parameters_of(self.values)

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
ACrossfade = Annotated[Part, part_of("crossfade")]
AFixture = Annotated[Part, part_of("fixture")]
AShaper = Annotated[Part, part_of("shaper")]
AMover = Annotated[Part, part_of("mover")]


class Listening(Kind):
    """What the analyser listens for."""

    family: ClassVar[str] = "listening"


class Band(Listening):
    """A frequency range whose level is a signal."""

    id: Id
    name: Name
    input: Id = MAIN
    """Which input it is a part of."""
    low_hz: Frequency = param(100.0, 20.0, 19_000.0, "Where the band begins", title="From")
    high_hz: Frequency = param(200.0, 30.0, 20_000.0, "Where the band ends", title="To")
    slope: Literal[*SLOPES] = param(
        "usual", help="How it falls beside its edges: 6 (gentle), 12 (usual) or 24 (steep) dB an octave"
    )
    gain_db: Decibels = param(0.0, -24.0, 24.0, "Makes this band count for more or less", title="Gain")
    attack_ms: Milliseconds = param(0.0, 0.0, 2_000.0, "Time to rise", title="Attack")
    release_ms: Milliseconds = param(
        120.0, 0.0, 5_000.0, "Time to fall; longer than a beat never comes to rest", title="Release"
    )

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.high_hz < self.low_hz * NARROWEST:
            raise ValueError(f"the band “{self.name}” must end above its start ({self.low_hz:g} Hz)")
        return self


NARROWEST = 1.05
"""The least ratio of a band's end to its start."""


class HitSetting(Listening):
    """How one detector listens: to a drum of an input, or, when no drum is named, to the rise of its band.

    band: the band in whose lane its hits are shown.
    """

    title = "Hits"

    id: Id
    input: Id = MAIN
    drum: Literal["", *DRUMS] = ""
    band: Id | Literal[""] = ""
    threshold: Literal["adaptive", "absolute"] = param(
        "adaptive",
        help=(
            "adaptive: goes with how loud it is; absolute: what brings its own range to a fixed level is"
            " a hit"
        ),
    )
    sensitivity: Ratio = param(0.5, 0.0, 1.0, "Higher catches softer hits", when=("threshold", "adaptive"))
    absolute_dbfs: FullScale = param(
        -24.0, -80.0, 0.0, "The level that is a hit", title="Hit level", when=("threshold", "absolute")
    )
    dead_time_ms: Milliseconds = param(
        120.0, 20.0, 1_000.0, "After a hit, nothing is counted for this long", title="Dead time"
    )
    least_dbfs: FullScale = param(
        -90.0,
        -90.0,
        0.0,
        "What is quieter in its own range never counts; at -90 everything may",
        title="Least level",
        when=("threshold", "adaptive"),
    )

    @property
    def listens(self) -> str:
        """The drum or the band that it listens to."""
        return self.drum or self.band

    @model_validator(mode="before")
    @classmethod
    def _older(cls, data: Any) -> Any:
        """Documents of before there was ``drum`` named it by the id alone."""
        if isinstance(data, dict) and "drum" not in data and data.get("id") in DRUMS:
            return {**data, "drum": data["id"]}
        return data


class TempoSetting(Listening):
    """Where the beat comes from: heard, held at a tempo that was tapped or typed, or run on as it is."""

    title = "Beat"

    mode: Literal["auto", "held", "locked"] = param(
        "auto",
        help=(
            "auto: heard; held: at the tempo below, in step with what is heard; locked: runs on as it is,"
            " whatever is heard"
        ),
    )
    bpm: Tempo = param(120.0, 40.0, 240.0, "The tempo that is held", title="Tempo", when=("mode", "held"))
    meter: Literal["4/4", "3/4", "6/8"] = param(
        "4/4", help="Beats in a bar; in 6/8 there are two, of three eighths each"
    )

    @property
    def beats_a_bar(self) -> int:
        return {"4/4": 4, "3/4": 3, "6/8": 2}[self.meter]


class TrackInput(InputKind):
    """A sound file of the library."""

    title = "Track"

    track: str = ""
    playing: bool = True
    loop: bool = True
    speed: Factor = param(1.0, 0.25, 4.0, "How fast it plays; pitch goes with it, as on a turntable")
    loop_from_s: float = Field(0.0, ge=0, le=86_400)
    loop_to_s: float = Field(0.0, ge=0, le=86_400)
    """The stretch that loops, in seconds; one that ends at 0 ends with the track."""


Channel = Annotated[int, Field(ge=1, le=64)]


class LiveInput(Strict):
    """Sound that a browser sends from its microphone or line, or from a page that it shares."""

    device: str = Field("", max_length=200)
    """What the browser calls the device; empty for its default, "shared" for a page that is chosen when it
    starts.
    """
    left: Channel = 1
    right: Channel = 2


class DeviceInput(Strict):
    """Sound of a device of the engine's own machine."""

    device: str = Field("", max_length=200)
    """What the machine's sound system calls it; empty for its default."""
    left: Channel = 1
    right: Channel = 2


class Input(InputKind):
    """Where sound comes from. The settings of all four stay, so that switching back loses nothing."""

    id: Id = MAIN
    name: Name = "Main"
    use: Literal["track", "live", "device", "house"] = "track"
    track: TrackInput = TrackInput()
    live: LiveInput = LiveInput()
    device: DeviceInput = DeviceInput()
    house: HouseBandSettings = HouseBandSettings()
    gain_db: Decibels = param(
        0.0, -40.0, 40.0, "Makes everything that is heard here louder or quieter", title="Gain"
    )
    level: LevelSetting = LevelSetting()


FAMILIES: dict[str, type[Kind]] = {
    family.family: family
    for family in (Source, Effect, Layering, Crossfade, Fixture, Shaper, Mover, InputKind, Listening)
}
"""Everything that is declared once and used everywhere."""


def _once(ids: list[str], what: str) -> None:
    """Raises ValueError when an id stands twice."""
    if len(set(ids)) < len(ids):
        twice = next(id for id, count in Counter(ids).items() if count > 1)
        raise ValueError(f"two {what}s have the id “{twice}”")


End = float | Colour
"""One end of what a route gives out: in the parameter's own unit, or a colour."""


class Route(Strict):
    """One signal, through shapers, to one parameter or to several. low and high are in the parameter's own
    unit.
    """

    id: Id
    signal: str = Field(max_length=60)
    targets: list[Annotated[str, Field(max_length=120)]] = Field(min_length=1, max_length=64)
    """Addresses of parameters: the id of a part, a dot, a name. With a cycle among the shapers they take
    turns.
    """
    low: End
    high: End
    amount: float = Field(1.0, ge=0, le=1)
    muted: bool = False
    solo: bool = False
    shapers: list[AShaper] = Field([], max_length=32)
    chain: Id | Literal[""] = ""
    """The saved chain that its shapers were taken from."""

    @model_validator(mode="before")
    @classmethod
    def _older(cls, data: Any) -> Any:
        """Documents of before there were several targets had one, by that name."""
        if isinstance(data, dict) and "target" in data and "targets" not in data:
            return {
                **{key: value for key, value in data.items() if key != "target"},
                "targets": [data["target"]],
            }
        return data

    @model_validator(mode="after")
    def _shapers_once(self) -> Self:
        _once([shaper.id for shaper in self.shapers], "shaper")
        _once(self.targets, "target")
        return self


class Chain(Strict):
    """Shapers that are kept under a name, for any route."""

    id: Id
    name: Name
    shapers: list[AShaper] = Field([], max_length=32)


class Made(Strict):
    """A mover: a signal that is made, not heard."""

    id: Id
    name: Name
    part: AMover


Scope = Literal["parameter", "part", "layer", "look"]


class Preset(Strict):
    """Values and routes that are kept. place: the address of the parameter, or the id of the part, layer or
    look.
    """

    id: Id
    name: Name
    scope: Scope
    place: str = Field(max_length=120)
    kind: str = Field(max_length=60)
    """What it fits: the type of a parameter's value, a part's kind, or the place itself."""
    span: tuple[float, float] = (0.0, 1.0)
    """The range of the parameter that it was kept from."""
    values: dict[str, Any] = {}
    """Hand value of each parameter, by its address."""
    routes: list[Route] = []


class Layer(Strict):
    """A source, its effects, and how it lies on what is below."""

    id: Id
    name: Name
    visible: bool = True
    """Whether it is laid on the picture. One that is not can still be another's source or mask."""
    solo: bool = False
    inside: Id | Literal[""] = ""
    """The group that it belongs to: a layer of the same look whose source is a group."""
    source: ASource
    effects: list[AEffect] = []
    mix: ALayering

    def parts(self) -> list[Part]:
        return [self.source, *self.effects, self.mix]


class Look(Strict):
    """One complete picture: layers from back to front, and finishing effects."""

    id: Id
    name: Name
    layers: list[Layer] = Field([], max_length=MOST_LAYERS)
    finish: list[AEffect] = []

    def parts(self) -> list[Part]:
        return [part for layer in self.layers for part in layer.parts()] + self.finish

    @model_validator(mode="after")
    def _groups(self) -> Self:
        holders = {layer.id: layer.inside for layer in self.layers if layer.source.kind == "group"}
        for layer in self.layers:
            if layer.inside and layer.inside not in holders:
                raise ValueError(f"“{layer.name}” is in a group that is not there")
            above, place = {layer.id}, layer.inside
            while place:
                if place in above:
                    raise ValueError(f"“{layer.name}” would be a group inside itself")
                above.add(place)
                place = holders[place]
        return self


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


class Stored(Strict):
    """A picture that the show may use. key: what its file is called, by its content; width, height: its
    texels.
    """

    id: Id
    name: Name
    key: str = Field(pattern=r"^file-[0-9a-f]{24}$")
    width: int = Field(ge=1, le=4096)
    height: int = Field(ge=1, le=4096)


class StoredClip(Stored):
    """A film that the show may use. frames: how many pictures; rate: of them a second at its own speed."""

    key: str = Field(pattern=r"^clip-[0-9a-f]{24}$")
    frames: int = Field(ge=1, le=200_000)
    rate: float = Field(gt=0, le=120)


class Cue(Strict):
    """A named change of the show: to which look, and over how many beats."""

    id: Id
    name: Name
    look: Id
    over_beats: float = Field(4.0, ge=0, le=64)


class Control(Strict):
    """A fader of a controller, and the number of the document that it moves."""

    id: Id
    source: str = Field(min_length=1, max_length=120)
    """The fader, as its protocol names it: "osc /fader/1", "midi 1 cc 7"."""
    target: str = Field(max_length=400)
    low: float
    high: float


class LightOutput(Strict):
    """Where universes are sent."""

    host: str = Field("127.0.0.1", min_length=1, max_length=255)
    port: int = Field(5568, ge=1, le=65_535)
    priority: int = Field(100, ge=0, le=200)
    on: bool = True


MIXES = ("sum", "largest", "smallest", "product", "mean")
"""How several routes on one parameter become one: of what each wants beside the hand value, or, for the
product, of the shares of its range.
"""
MixHow = Literal[*MIXES]


class Show(Strict):
    """Everything saved for one event."""

    name: Name
    seed: int = Field(1, ge=0, le=2**31)
    inputs: list[Input] = Field(default_factory=lambda: [Input()], min_length=1, max_length=MOST_INPUTS)
    """All are open at once, each with an analysis of its own; the first is the main one."""
    bands: list[Band] = Field([], max_length=MOST_BANDS)
    hits: list[HitSetting] = Field([], max_length=32)
    tempo: TempoSetting = TempoSetting()
    looks: list[Look] = []
    look: str = ""
    """Id of the look that is shown."""
    beside: str = Field("", max_length=60)
    """Id of a second look that the first is mixed with, by the share of ``crossing``; empty for none."""
    crossing: ACrossfade = Field(default_factory=lambda: Part(id="crossing", kind="crossing"))
    """How one look goes over into another."""
    cues: list[Cue] = Field([], max_length=MOST_CUES)
    """In the order of the night."""
    cue: str = Field("", max_length=60)
    """Id of the cue that was recalled last; empty before the first."""
    pictures: list[Stored] = Field([], max_length=200)
    clips: list[StoredClip] = Field([], max_length=200)
    routes: list[Route] = Field([], max_length=4096)
    mixes: dict[str, MixHow] = {}
    """How several routes on one parameter become one, by its address; those that are not named add up."""
    movers: list[Made] = Field([], max_length=64)
    chains: list[Chain] = Field([], max_length=200)
    presets: list[Preset] = Field([], max_length=1000)
    chosen: dict[str, str] = {}
    """Which preset was recalled last where: scope and place -> id."""
    lamps: list[Lamp] = []
    light_output: LightOutput = LightOutput()
    controls: list[Control] = Field([], max_length=64)
    sound_amount: float = Field(1.0, ge=0, le=1)
    blackout: bool = False

    @property
    def input(self) -> Input:
        """The main input."""
        return self.inputs[0]

    def input_of(self, hit: HitSetting) -> str:
        """Id of the input that a detector hears: a drum names it, else it is its band's."""
        return (
            hit.input if hit.drum else next((band.input for band in self.bands if band.id == hit.band), MAIN)
        )

    @model_validator(mode="before")
    @classmethod
    def _older(cls, data: Any) -> Any:
        """Documents of before there were several inputs had one, by that name."""
        if isinstance(data, dict) and "input" in data and "inputs" not in data:
            only = data["input"]
            if isinstance(only, dict):
                only = {
                    key: {k: v for k, v in value.items() if k != "kind"} if isinstance(value, dict) else value
                    for key, value in only.items()
                }
            return {**{key: value for key, value in data.items() if key != "input"}, "inputs": [only]}
        return data

    def shown(self) -> Look | None:
        """The look that is shown."""
        return next((look for look in self.looks if look.id == self.look), None)

    def recalled(self) -> Cue | None:
        """The cue that was recalled last, while it is there."""
        return next((cue for cue in self.cues if cue.id == self.cue), None)

    def parts(self) -> list[Part]:
        """Every part whose parameters routes can move."""
        return (
            [part for look in self.looks for part in look.parts()]
            + [self.crossing]
            + [lamp.fixture for lamp in self.lamps]
            + [mover.part for mover in self.movers]
        )

    @model_validator(mode="after")
    def _whole(self) -> Self:
        for what, ids in (
            ("part", [part.id for part in self.parts()]),
            ("input", [one.id for one in self.inputs]),
            ("band", [band.id for band in self.bands]),
            ("hit", [hit.id for hit in self.hits]),
            ("route", [route.id for route in self.routes]),
            ("mover", [mover.id for mover in self.movers]),
            ("chain", [chain.id for chain in self.chains]),
            ("preset", [preset.id for preset in self.presets]),
            ("look", [look.id for look in self.looks]),
            ("cue", [cue.id for cue in self.cues]),
            ("picture", [one.id for one in self.pictures]),
            ("clip", [one.id for one in self.clips]),
            ("lamp", [lamp.id for lamp in self.lamps]),
            ("control", [control.id for control in self.controls]),
            *(("layer", [layer.id for layer in look.layers]) for look in self.looks),
        ):
            _once(ids, what)
        if self.input.id != MAIN:
            raise ValueError("the main input has to stay, and to stay first")
        there = {one.id for one in self.inputs}
        for one in (*self.bands, *self.hits):
            if one.input not in there:
                raise ValueError(f"“{one.id}” belongs to the input “{one.input}”, which is not there")
        for hit in self.hits:
            if hit.listens not in {*DRUMS, *(band.id for band in self.bands)}:
                raise ValueError(
                    f"the hits “{hit.id}” listen to “{hit.band}”, which is neither a drum nor a band"
                )
        looks = {look.id for look in self.looks}
        if self.looks and self.look not in looks:
            raise ValueError(f"there is no look “{self.look}” to show")
        for cue in self.cues:
            if cue.look not in looks:
                raise ValueError(f"the cue “{cue.name}” goes to the look “{cue.look}”, which is not there")
        return self

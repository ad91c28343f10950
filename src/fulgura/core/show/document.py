"""The document: a show as a tree of Pydantic models. It is the truth; everything else follows from it."""

from typing import Any, Literal, Self

from pydantic import Field, model_validator

from fulgura.core.kinds.listening import DRUMS
from fulgura.core.kinds.palettes import FALLBACK
from fulgura.core.show.inputs import MAIN, MOST_BANDS, MOST_INPUTS, Band, HitSetting, Input, TempoSetting
from fulgura.core.show.lights import (
    MOST_GROUPS,
    MOST_LAMPS,
    Chase,
    Group,
    Lamp,
    LightOutput,
    LightSettings,
    Palette,
)
from fulgura.core.show.looks import MOST_RAMPS, Look, NamedRamp, Stored, StoredClip
from fulgura.core.show.night import MOST_CUES, MOST_SONGS, Cue, NightSettings, Song
from fulgura.core.show.outputs import MOST_OUTPUTS, GuardSettings, Output
from fulgura.core.show.part import ACrossfade, Name, Part, Strict, check_unique
from fulgura.core.show.routes import Chain, MixHow, NamedModulator, Preset, Route
from fulgura.core.show.settings import Setting, moved_settings, settings
from fulgura.core.show.surface import MOST_MAPPINGS, MOST_PAGES, ControlSettings, Mapping, PadPage


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
    """Id of a second look that the first is mixed with, by the share of ``crossfade``; empty for none."""
    crossfade: ACrossfade = Field(default_factory=lambda: Part(id="crossfade", kind="look-crossfade"))
    """How one look goes over into another."""
    cues: list[Cue] = Field([], max_length=MOST_CUES)
    """In the order of the night."""
    cue: str = Field("", max_length=60)
    """Id of the cue that was recalled last; empty before the first."""
    songs: list[Song] = Field([], max_length=MOST_SONGS)
    """The set list."""
    song: str = Field("", max_length=60)
    """Id of the song that plays, or was played last."""
    night: NightSettings = NightSettings()
    pictures: list[Stored] = Field([], max_length=200)
    clips: list[StoredClip] = Field([], max_length=200)
    ramps: list[NamedRamp] = Field([], max_length=MOST_RAMPS)
    routes: list[Route] = Field([], max_length=4096)
    mixes: dict[str, MixHow] = {}
    """How several routes on one parameter become one, by its address; those that are not named add up."""
    modulators: list[NamedModulator] = Field([], max_length=64)
    chains: list[Chain] = Field([], max_length=200)
    presets: list[Preset] = Field([], max_length=1000)
    chosen: dict[str, str] = {}
    """Which preset was recalled last where: scope and place -> id."""
    lamps: list[Lamp] = Field([], max_length=MOST_LAMPS)
    groups: list[Group] = Field([], max_length=MOST_GROUPS)
    palettes: list[Palette] = Field([], max_length=400)
    palette: str = Field("", max_length=60)
    """Id of the palette in use, whose colours parameters may point at; empty for the first that has some."""
    chases: list[Chase] = Field([], max_length=200)
    lights: LightSettings = Field(default_factory=LightSettings)
    light_outputs: list[LightOutput] = Field(default_factory=lambda: [LightOutput()], max_length=32)
    outputs: list[Output] = Field(
        default_factory=lambda: [Output(id="main", name="Main", address="main")], max_length=MOST_OUTPUTS
    )
    """Where the picture goes."""
    guard: GuardSettings = GuardSettings()
    pages: list[PadPage] = Field([], max_length=MOST_PAGES)
    """Pads and faders, in the order of the pages."""
    mappings: list[Mapping] = Field([], max_length=MOST_MAPPINGS)
    control: ControlSettings = ControlSettings()
    sound_amount: float = Field(1.0, ge=0, le=1)
    blackout: Literal["off", "all", "lights", "pictures"] = "off"
    """What is dark: nothing, the lamps and every picture, or one of both."""
    frozen: bool = False
    """Whether the picture stands still."""

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

    def film_track(self, part: str) -> str:
        """The library's track that is the sound of what a source shows; empty for what has none."""
        sources = (layer.source for look in self.looks for layer in look.layers)
        file = next((source.values.get("file") for source in sources if source.id == part), None)
        return next((clip.track for clip in self.clips if clip.id == file), "")

    @property
    def palette_in_use(self) -> Palette | None:
        """The one that is named, else the first that has colours; None while none has."""
        usable = [palette for palette in self.palettes if palette.kind == "colour" and palette.colours]
        return next((palette for palette in usable if palette.id == self.palette), next(iter(usable), None))

    @property
    def colours(self) -> list[str]:
        """The colours of the palette in use; those of one that ships while the show has none."""
        palette = self.palette_in_use
        return palette.colours if palette is not None else list(FALLBACK)

    def shown(self) -> Look | None:
        """The look that is shown."""
        return next((look for look in self.looks if look.id == self.look), None)

    def recalled(self) -> Cue | None:
        """The cue that was recalled last, while it is there."""
        return next((cue for cue in self.cues if cue.id == self.cue), None)

    def members(self, group: Group) -> list[Lamp]:
        """The lamps of a group that are there, in its order."""
        lamps = {lamp.id: lamp for lamp in self.lamps}
        return [lamps[member] for member in group.members if member in lamps]

    def parts(self) -> list[Part]:
        """Every part whose parameters routes can move."""
        return (
            [part for look in self.looks for part in look.parts()]
            + [self.crossfade]
            + [lamp.fixture for lamp in self.lamps]
            + [self.lights.part]
            + [group.part for group in self.groups]
            + [part for chase in self.chases for part in (chase.part, *(run.part for run in chase.runs))]
            + [modulator.part for modulator in self.modulators]
            + [ramp.part for ramp in self.ramps]
        )

    def owners(self) -> list[Part | Setting]:
        """What has addresses with a live value: parts, what listens, and what of routes is moved."""
        return [*self.parts(), *moved_settings(self)]

    def settings(self) -> list[Setting]:
        """Everything beside parts that has addresses."""
        return settings(self)

    @model_validator(mode="after")
    def _whole(self) -> Self:
        for what, ids in (
            ("part", [part.id for part in self.parts()]),
            ("input", [audio_input.id for audio_input in self.inputs]),
            ("band", [band.id for band in self.bands]),
            ("hit", [hit.id for hit in self.hits]),
            ("route", [route.id for route in self.routes]),
            ("modulator", [modulator.id for modulator in self.modulators]),
            ("chain", [chain.id for chain in self.chains]),
            ("preset", [preset.id for preset in self.presets]),
            ("look", [look.id for look in self.looks]),
            ("cue", [cue.id for cue in self.cues]),
            ("picture", [picture.id for picture in self.pictures]),
            ("clip", [clip.id for clip in self.clips]),
            ("ramp", [ramp.id for ramp in self.ramps]),
            ("lamp", [lamp.id for lamp in self.lamps]),
            ("group", [group.id for group in self.groups]),
            ("palette", [palette.id for palette in self.palettes]),
            ("chase", [chase.id for chase in self.chases]),
            ("light output", [output.id for output in self.light_outputs]),
            ("output", [output.id for output in self.outputs]),
            ("output's address", [output.address for output in self.outputs]),
            ("song", [song.id for song in self.songs]),
            ("page", [page.id for page in self.pages]),
            ("pad", [pad.id for page in self.pages for pad in page.pads]),
            ("fader", [fader.id for page in self.pages for fader in page.faders]),
            ("mapping", [mapping.id for mapping in self.mappings]),
            *(("layer", [layer.id for layer in look.layers]) for look in self.looks),
        ):
            check_unique(ids, what)
        if self.input.id != MAIN:
            raise ValueError("the main input has to stay, and to stay first")
        there = {audio_input.id for audio_input in self.inputs}
        owned = [(band.id, band.input) for band in self.bands] + [(hit.id, hit.input) for hit in self.hits]
        for owned_id, input_id in owned:
            if input_id not in there:
                raise ValueError(f"“{owned_id}” belongs to the input “{input_id}”, which is not there")
        for hit in self.hits:
            if hit.listens not in {*DRUMS, *(band.id for band in self.bands)}:
                raise ValueError(
                    f"the hits “{hit.id}” listen to “{hit.band}”, which is neither a drum nor a band"
                )
        looks = {look.id for look in self.looks}
        if self.looks and self.look not in looks:
            raise ValueError(f"there is no look “{self.look}” to show")
        return self

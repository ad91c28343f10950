"""Where sound comes from, and what is listened for in it."""

from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator

from fulgura.core.kinds.input import InputKind
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.kinds.inputs.level import LevelSetting
from fulgura.core.kinds.listening import DRUMS, SLOPES, Listening
from fulgura.core.kinds.parameters import (
    Decibels,
    Factor,
    Frequency,
    FullScale,
    Milliseconds,
    Ratio,
    Tempo,
    param,
)
from fulgura.core.show.part import Id, Name, Strict

MOST_INPUTS, MOST_BANDS = 4, 24
MAIN = "main"
"""Id of the input that every show has: the one whose beat the show keeps."""


class Band(Listening):
    """A frequency range whose level is a signal."""

    id: Id
    name: Name
    input: Id = MAIN
    """Which input it is a part of."""
    low_hz: Frequency = param(100.0, 20.0, 19_000.0, "Where the band begins", title="From")
    high_hz: Frequency = param(200.0, 30.0, 20_000.0, "Where the band ends", title="To")
    slope: Literal[*SLOPES] = param(  # type: ignore[valid-type]
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
    drum: Literal["", *DRUMS] = ""  # type: ignore[valid-type]
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
    """Where the beat comes from: heard, held at a tempo that was tapped or typed, run on as it is, or counted
    by somebody else.
    """

    title = "Beat"

    mode: Literal["auto", "held", "locked", "midi", "osc"] = param(
        "auto",
        help=(
            "auto: heard; held: at the tempo below, in step with what is heard; locked: runs on as it is,"
            " whatever is heard; midi: a MIDI clock counts it; osc: OSC messages do"
        ),
    )
    bpm: Tempo = param(120.0, 40.0, 240.0, "The tempo that is held", title="Tempo", when=("mode", "held"))
    meter: Literal["4/4", "3/4", "6/8"] = param(
        "4/4", help="Beats in a bar; in 6/8 there are two, of three eighths each"
    )

    @property
    def beats_a_bar(self) -> int:
        return {"4/4": 4, "3/4": 3, "6/8": 2}[self.meter]


class TrackSettings(InputKind):
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


class LiveSettings(Strict):
    """Sound that a browser sends from its microphone or line, or from a page that it shares."""

    device: str = Field("", max_length=200)
    """What the browser calls the device; empty for its default, "shared" for a page that is chosen when it
    starts.
    """
    left: Channel = 1
    right: Channel = 2


class DeviceSettings(Strict):
    """Sound of a device of the engine's own machine."""

    device: str = Field("", max_length=200)
    """What the machine's sound system calls it; empty for its default."""
    left: Channel = 1
    right: Channel = 2


class FilmSettings(Strict):
    """The own sound of a film, at the place of its picture."""

    part: str = Field("", max_length=60)
    """Id of the source that shows it."""
    muted: bool = False
    """Whether the desk keeps quiet; what listens to the film hears it all the same."""


class Input(InputKind):
    """Where sound comes from. The settings of all five stay, so that switching back loses nothing."""

    id: Id = MAIN
    name: Name = "Main"
    use: Literal["track", "live", "device", "house", "film"] = "track"
    track: TrackSettings = TrackSettings()
    live: LiveSettings = LiveSettings()
    device: DeviceSettings = DeviceSettings()
    house: HouseBandSettings = HouseBandSettings()
    film: FilmSettings = FilmSettings()
    gain_db: Decibels = param(
        0.0, -40.0, 40.0, "Makes everything that is heard here louder or quieter", title="Gain"
    )
    level: LevelSetting = LevelSetting()

"""The course of a night: songs, cues, and how the night line runs."""

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from fulgura.core.show.part import Id, Name, Strict

MOST_CUES, MOST_SONGS = 400, 200
TimeUnit = Literal["ms", "beats", "bars"]
ClockTime = Annotated[str, Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d(:[0-5]\d)?$")]
"""A time of the day: 21:30 or 21:30:05."""


class Duration(Strict):
    """How long something takes, in milliseconds, beats or bars."""

    amount: float = Field(0.0, ge=0, le=600_000)
    unit: TimeUnit = "beats"

    def seconds(self, beat_s: float, beats_a_bar: int) -> float:
        """The same in seconds. beat_s: from one beat to the next."""
        each = {"ms": 0.001, "beats": beat_s, "bars": beat_s * beats_a_bar}
        return self.amount * each[self.unit]


class CuePalette(Strict):
    """A palette that a cue recalls, and onto which group; empty for the lamps that it was made from."""

    palette: Id
    group: Id | Literal[""] = ""


class CueValue(Strict):
    """A parameter that a cue sets, by its address, and how long it takes."""

    target: str = Field(max_length=120)
    value: Any
    over: Duration = Duration()


class CueRoutes(Strict):
    """Some routes, as actions name them, and whether they act."""

    routes: str = Field("", max_length=120)
    act: bool = True


CueWhen = Literal["hand", "beat", "bar", "bars", "song", "clock", "after", "signal"]


class CueGo(Strict):
    """When a cue goes. hand: at once; beat, bar, bars: with the next one, or the next that is a multiple of
    ``bars``, once it is asked for; song: at a place in its song; clock: at a time of the day; after: so many
    beats after the one before; signal: at its next hit, or when it rises above a level. The last four go by
    themselves, when it is their turn.
    """

    when: CueWhen = "hand"
    bars: int = Field(4, ge=1, le=64)
    clock: ClockTime = "00:00"
    after_beats: float = Field(16.0, ge=0, le=4096)
    signal: str = Field("", max_length=60)
    above: float = Field(0.5, ge=0, le=1)


class Cue(Strict):
    """A named change of the show: of everything, or of a part. What is empty, or None, stays as it is.

    look: which is shown, and ``over`` how long it takes to come; presets: recalled in turn; values: hand
    values; palettes, chases: of lamps (chases: those that run from then on); palette: whose colours are in
    use; routes: which act; bpm: a tempo
    that is held; plays: a song; blackout: what is dark.
    """

    id: Id
    name: Name
    note: str = Field("", max_length=400)
    """Words for the performer."""
    look: Id | Literal[""] = ""
    over: Duration = Duration(amount=4.0)
    presets: list[Id] = Field([], max_length=64)
    values: list[CueValue] = Field([], max_length=5000)
    palettes: list[CuePalette] = Field([], max_length=100)
    palette: Id | Literal[""] = ""
    chases: list[Id] | None = Field(None, max_length=200)
    routes: list[CueRoutes] = Field([], max_length=64)
    bpm: float | None = Field(None, ge=40, le=240)
    plays: Id | Literal[""] = ""
    blackout: Literal["off", "all", "lights", "pictures"] | None = None
    go: CueGo = CueGo()
    song: Id | Literal[""] = ""
    """The song that it belongs to, on the night line."""
    at_s: float = Field(0.0, ge=0, le=86_400)
    """Where in its song it stands, in seconds."""

    @model_validator(mode="before")
    @classmethod
    def _older(cls, data: Any) -> Any:
        """Cues of before knew beats alone."""
        if isinstance(data, dict) and "over_beats" in data:
            rest = {key: value for key, value in data.items() if key != "over_beats"}
            return {"over": {"amount": data["over_beats"], "unit": "beats"}, **rest}
        return data


class Song(Strict):
    """A stretch of the night. track: of the library, what the main input plays; empty for a band that plays
    itself. length_s: how long it is planned; 0 for as long as its track.
    """

    id: Id
    name: Name
    track: str = Field("", max_length=120)
    length_s: float = Field(0.0, ge=0, le=36_000)
    skipped: bool = False
    again: bool = False
    """Whether it begins anew when it is over."""


class NightSettings(Strict):
    """How the night line runs: by hand, by the track that plays, or by the clock.

    doors: when the night begins; by the clock, what goes at a time of the day goes; by the track, what goes
    at a place in its song, and the next song when one is over.
    """

    runs: Literal["hand", "track", "clock"] = "hand"
    doors: ClockTime = "20:00"


def seconds_of_day(clock: str) -> float:
    """A time of the day in seconds since midnight.

    >>> seconds_of_day("21:30:05")
    77405.0
    """
    hours, minutes, *rest = (int(part) for part in clock.split(":"))
    return float(3600 * hours + 60 * minutes + sum(rest))

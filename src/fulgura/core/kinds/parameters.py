"""Parameters: typed, with a name, unit, range, default and help. Every control on the desk is made from
these.

The value in the document is the hand value; routes make the live value from it.
"""

import re
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, Field


@dataclass(frozen=True)
class Unit:
    """What a number is counted in, as written beside it on the desk."""

    name: str


def _hex_colour(value: str) -> str:
    if not re.fullmatch(r"#[0-9a-fA-F]{6}", value):
        raise ValueError("a colour is # and six hex digits, like #ff7d5c")
    return value.lower()


def _colour(value: str) -> str:
    if re.fullmatch(r"@([1-9]|[1-5][0-9]|6[0-4])", value):
        return value
    if value.startswith("@"):
        raise ValueError("a colour of the palette is @ and its number, like @2, up to @64")
    return _hex_colour(value)


Number = Annotated[float, Unit("")]
Length = Annotated[float, Unit("")]
"""Units of half the picture's height."""
Ratio = Annotated[float, Unit("")]
Factor = Annotated[float, Unit("×")]
Angle = Annotated[float, Unit("°")]
Seconds = Annotated[float, Unit("s")]
Milliseconds = Annotated[float, Unit("ms")]
Percent = Annotated[float, Unit("%")]
Decibels = Annotated[float, Unit("dB")]
FullScale = Annotated[float, Unit("dBFS")]
Loudness = Annotated[float, Unit("LUFS")]
Frequency = Annotated[float, Unit("Hz")]
Tempo = Annotated[float, Unit("BPM")]
DecibelsAnOctave = Annotated[float, Unit("dB/oct")]
Creep = Annotated[float, Unit("dB/min")]
Beats = Annotated[float, Unit("beats")]
PerSecond = Annotated[float, Unit("/s")]
Count = Annotated[float, Unit("")]
HexColour = Annotated[str, AfterValidator(_hex_colour)]
"""#rrggbb"""
Colour = Annotated[str, AfterValidator(_colour)]
"""#rrggbb, or @ and the number of one of the colours of the palette in use."""


WrittenName = Literal[
    "signal", "layer", "picture", "clip", "camera", "ramp", "points", "steps", "words", "code", "reference"
]


@dataclass(frozen=True)
class WrittenType:
    """Marks a parameter that is no single number: what type of control it has. of: what a reference is to."""

    type: WrittenName
    of: str = ""


def _in_order(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    if any(not (0.0 <= x <= 1.0 and 0.0 <= y <= 1.0) for x, y in points):
        raise ValueError("a point lies between 0 and 1, both ways")
    return sorted(points, key=lambda point: point[0])


def _heights(steps: list[float]) -> list[float]:
    if any(not 0.0 <= step <= 1.0 for step in steps):
        raise ValueError("a step is from 0 to 1 high")
    return steps


SignalRef = Annotated[str, WrittenType("signal"), Field(max_length=60)]
"""Id of a signal; empty for none."""
LayerRef = Annotated[str, WrittenType("layer"), Field(max_length=60)]
"""Id of a layer of the same look, whose picture is read; empty for none."""
PictureRef = Annotated[str, WrittenType("picture"), Field(max_length=60)]
"""Id of one of the show's pictures; empty for none."""
ClipRef = Annotated[str, WrittenType("clip"), Field(max_length=60)]
"""Id of one of the show's clips; empty for none."""
InputRef = Annotated[str, WrittenType("reference", "input"), Field(max_length=60)]
"""Id of one of the show's inputs; empty for what the picture hears."""
RampRef = Annotated[str, WrittenType("ramp"), Field(max_length=60)]
"""Id of one of the show's ramps; empty for the kind's own colours."""
CameraRef = Annotated[str, WrittenType("camera"), Field(max_length=200)]
"""What a browser calls a camera of its own; empty for none."""


def reference(of: str) -> Any:
    """A type of parameter that names something of the show: a look, a cue, a parameter's address; empty for
    none.
    """
    return Annotated[str, WrittenType("reference", of), Field(max_length=120)]


Points = Annotated[
    list[tuple[float, float]],
    WrittenType("points"),
    Field(min_length=2, max_length=64),
    AfterValidator(_in_order),
]
"""Corners of a line, from left to right."""
Steps = Annotated[
    list[float], WrittenType("steps"), Field(min_length=4, max_length=64), AfterValidator(_heights)
]
Code = Annotated[str, WrittenType("code"), Field(max_length=20_000)]
"""A text that a program reads."""
Words = Annotated[str, WrittenType("words"), Field(max_length=400)]


def param(
    default: Any,
    low: float | None = None,
    high: float | None = None,
    help: str = "",
    *,
    group: str = "",
    title: str | None = None,
    when: tuple[str, str] | None = None,
    empty: str = "",
    useful: float | None = None,
    stepped: bool = False,
) -> Any:
    """Declare a parameter: its default, range and a sentence of help. A ratio without a range goes from 0 to
    1.

    when: (name of a choice, what is chosen there) without which the parameter has no say, and is not shown.
    empty: how it reads when nothing is chosen, for what refers to something. useful: the farthest that a new
    route leads it, where the range goes on beyond what is any use. stepped: a hit takes it one
    on, as it counts patterns and the like.
    """
    if low is None and isinstance(default, float):
        low, high = 0.0, 1.0
    return Field(
        default,
        ge=low,
        le=high,
        title=title,
        description=help,
        json_schema_extra={
            "group": group,
            "when": list(when) if when else None,
            "empty": empty,
            "useful": useful,
            "stepped": stepped,
        },
        allow_inf_nan=False if isinstance(default, float) else None,
    )


NEAR_AN_END = 0.01
"""Share of its range within which a number rests at an end of it."""

ParameterType = Literal[
    "number",
    "colour",
    "choice",
    "toggle",
    "signal",
    "layer",
    "picture",
    "clip",
    "camera",
    "ramp",
    "points",
    "steps",
    "words",
    "code",
    "reference",
]


class Parameter(BaseModel):
    """One parameter as the desk needs it to make a control."""

    name: str
    title: str
    type: ParameterType
    unit: str = ""
    low: float | None = None
    high: float | None = None
    default: float | str | bool | list[Any]
    choices: list[str] = []
    help: str = ""
    group: str = ""
    of: str = ""
    """What a reference is to."""
    empty: str = ""
    """How it reads when nothing is chosen, of what refers to something."""
    when: tuple[str, str] | None = None
    """Name of a choice, and what must be chosen there for this parameter to have a say."""
    useful: float | None = None
    """The farthest that a new route leads it; none: by its range."""
    stepped: bool = False
    """Whether a hit takes it one on: it counts patterns and the like."""

    def way_from(self, rest: float) -> tuple[float, float]:
        """(low, high): the way that something new moves a number from where it rests: louder is more.

        What rests at its top goes from nothing to there, all else from there up to its useful end: as
        declared; a quarter of the way to the top where the range has two sides, half of the way
        where it has none above 0; else twice its default or its
        rest, or the top.
        """
        low, high = self.low or 0.0, 1.0 if self.high is None else self.high
        if rest >= high - NEAR_AN_END * (high - low):
            return max(low, 0.0) if rest > 0.0 else low, rest
        if self.useful is not None:
            end = self.useful
        elif low < 0.0:
            end = high / 4.0 if high > 0.0 else (rest + high) / 2.0
        else:
            default = float(self.default) if isinstance(self.default, int | float) else 0.0
            end = min(high, 2.0 * max(default, rest)) if default > low else high
        return rest, round(end if end > rest + NEAR_AN_END * (high - low) else high, 5)

    @property
    def size(self) -> int:
        """Floats it takes in the live block: three for a colour (linear red, green, blue), none for what
        routes cannot move, else one.
        """
        return {"colour": 3, "number": 1, "choice": 1, "toggle": 1}.get(self.type, 0)

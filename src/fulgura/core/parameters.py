"""Parameters: typed, with a name, unit, range, default and help. Every control on the desk is made from
these.

A *kind* (source, effect, shaper, fixture, …) is a Pydantic model whose fields are its parameters. The value
in the document is the hand value; routes make the live value from it.
"""

import re
from dataclasses import dataclass
from functools import cache
from typing import Annotated, Any, ClassVar, Literal, Self, get_args, get_origin

from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from pydantic.fields import FieldInfo


@dataclass(frozen=True)
class Unit:
    """What a number is counted in, as written beside it on the desk."""

    name: str


def _hex_colour(value: str) -> str:
    if not re.fullmatch(r"#[0-9a-fA-F]{6}", value):
        raise ValueError("a colour is # and six hex digits, like #ff7d5c")
    return value.lower()


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
Creep = Annotated[float, Unit("dB/min")]
Beats = Annotated[float, Unit("beats")]
PerSecond = Annotated[float, Unit("/s")]
Count = Annotated[float, Unit("")]
Colour = Annotated[str, AfterValidator(_hex_colour)]


@dataclass(frozen=True)
class Written:
    """Marks a parameter that is no single number: what type of control it has."""

    type: Literal["signal", "layer", "picture", "clip", "camera", "points", "steps", "words", "code"]


def _in_order(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    if any(not (0.0 <= x <= 1.0 and 0.0 <= y <= 1.0) for x, y in points):
        raise ValueError("a point lies between 0 and 1, both ways")
    return sorted(points, key=lambda point: point[0])


def _heights(steps: list[float]) -> list[float]:
    if any(not 0.0 <= step <= 1.0 for step in steps):
        raise ValueError("a step is from 0 to 1 high")
    return steps


SignalRef = Annotated[str, Written("signal"), Field(max_length=60)]
"""Id of a signal; empty for none."""
LayerRef = Annotated[str, Written("layer"), Field(max_length=60)]
"""Id of a layer of the same look, whose picture is read; empty for none."""
PictureRef = Annotated[str, Written("picture"), Field(max_length=60)]
"""Id of one of the show's pictures; empty for none."""
ClipRef = Annotated[str, Written("clip"), Field(max_length=60)]
"""Id of one of the show's clips; empty for none."""
CameraRef = Annotated[str, Written("camera"), Field(max_length=200)]
"""What a browser calls a camera of its own; empty for none."""
Points = Annotated[
    list[tuple[float, float]],
    Written("points"),
    Field(min_length=2, max_length=64),
    AfterValidator(_in_order),
]
"""Corners of a line, from left to right."""
Steps = Annotated[list[float], Written("steps"), Field(min_length=4, max_length=64), AfterValidator(_heights)]
Code = Annotated[str, Written("code"), Field(max_length=20_000)]
"""A text that a program reads."""
Words = Annotated[str, Written("words"), Field(max_length=400)]


def param(
    default: Any,
    low: float | None = None,
    high: float | None = None,
    help: str = "",
    *,
    group: str = "",
    title: str | None = None,
    when: tuple[str, str] | None = None,
) -> Any:
    """Declare a parameter: its default, range and a sentence of help. A ratio without a range goes from 0 to
    1.

    when: (name of a choice, what is chosen there) without which the parameter has no say, and is not shown.
    """
    if low is None and isinstance(default, float):
        low, high = 0.0, 1.0
    return Field(
        default,
        ge=low,
        le=high,
        title=title,
        description=help,
        json_schema_extra={"group": group, "when": list(when) if when else None},
        allow_inf_nan=False if isinstance(default, float) else None,
    )


class Parameter(BaseModel):
    """One parameter as the desk needs it to make a control."""

    name: str
    title: str
    type: Literal[
        "number",
        "colour",
        "choice",
        "toggle",
        "signal",
        "layer",
        "picture",
        "clip",
        "camera",
        "points",
        "steps",
        "words",
        "code",
    ]
    unit: str = ""
    low: float | None = None
    high: float | None = None
    default: float | str | bool | list
    choices: list[str] = []
    help: str = ""
    group: str = ""
    when: tuple[str, str] | None = None
    """Name of a choice, and what must be chosen there for this parameter to have a say."""

    @property
    def size(self) -> int:
        """Floats it takes in the live block: three for a colour (linear red, green, blue), none for what
        routes cannot move, else one.
        """
        return {"colour": 3, "number": 1, "choice": 1, "toggle": 1}.get(self.type, 0)


class Kind(BaseModel):
    """Base of everything that is declared once and used everywhere.

    A subclass that names a ``family`` starts a family; below it every class is one kind of that family.
    """

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    family: ClassVar[str] = ""
    kinds: ClassVar[dict[str, type[Self]]]
    title: ClassVar[str] = ""
    abstract: ClassVar[bool] = False
    """True for what several kinds share and is none itself."""

    @classmethod
    def __pydantic_init_subclass__(cls, **kwargs: Any) -> None:
        super().__pydantic_init_subclass__(**kwargs)
        if "family" in cls.__dict__:
            cls.kinds = {}
        elif not cls.__dict__.get("abstract"):
            cls.kinds[cls.kind_name()] = cls

    @classmethod
    def kind_name(cls) -> str:
        """The name in documents: the class's name in lower case with dashes."""
        return re.sub(r"(?<=[a-z])(?=[A-Z])", "-", cls.__name__).lower()

    @classmethod
    def parameters(cls) -> list[Parameter]:
        """The parameters as they were declared with ``param``, its own before what it shares with others; ids
        and names are none.

        Always the same list.
        """
        return _described(cls)

    @classmethod
    def parameters_of(cls, values: dict[str, Any]) -> list[Parameter]:
        """The parameters of a part with these values: the same for all, but for kinds whose values say what
        they are.
        """
        return cls.parameters()


class KindInfo(BaseModel):
    """One kind as the desk needs it."""

    family: str
    kind: str
    title: str
    help: str
    says: str = ""
    """How a shaper reads in a sentence; parameters in braces."""
    parameters: list[Parameter]

    @classmethod
    def of(cls, kind: type[Kind]) -> "KindInfo":
        words = kind.__doc__ or ""
        return cls(
            says=getattr(kind, "says", ""),
            family=kind.family,
            kind=kind.kind_name(),
            title=kind.title or kind.__name__,
            help=" ".join(words.split()),
            parameters=kind.parameters(),
        )


@cache
def _described(kind: type[Kind]) -> list[Parameter]:
    fields = sorted(kind.model_fields.items(), key=lambda field: field[0] not in kind.__annotations__)
    return [_describe(name, field) for name, field in fields if isinstance(field.json_schema_extra, dict)]


def _describe(name: str, field: FieldInfo) -> Parameter:
    bounds = {type(m).__name__: m for m in field.metadata}
    unit = next((m.name for m in field.metadata if isinstance(m, Unit)), "")
    choices: list[str] = []
    written = next((m.type for m in field.metadata if isinstance(m, Written)), None)
    if written is not None:
        kind = written
    elif get_origin(field.annotation) is Literal:
        kind, choices = "choice", list(get_args(field.annotation))
    elif field.annotation is bool:
        kind = "toggle"
    elif field.annotation is str:
        kind = "colour"
    else:
        kind = "number"
    return Parameter(
        name=name,
        title=field.title or name.replace("_", " ").capitalize(),
        type=kind,
        unit=unit,
        low=bounds["Ge"].ge if "Ge" in bounds else None,
        high=bounds["Le"].le if "Le" in bounds else None,
        default=field.default,
        choices=choices,
        help=field.description or "",
        group=str(field.json_schema_extra["group"]),
        when=field.json_schema_extra["when"],
    )

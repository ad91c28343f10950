"""Parameters: typed, with a name, unit, range, default and help. Every control on the desk is made from these.

A *kind* (source, effect, shaper, fixture, …) is a Pydantic model whose fields are its parameters. The value in
the document is the hand value; routes make the live value from it.
"""

import re
from dataclasses import dataclass
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
Tempo = Annotated[float, Unit("BPM")]
Creep = Annotated[float, Unit("dB/min")]
Colour = Annotated[str, AfterValidator(_hex_colour)]


def param(default: Any, low: float | None = None, high: float | None = None, help: str = "", *, group: str = "", title: str | None = None) -> Any:
    """Declare a parameter: its default, range and a sentence of help. A ratio without a range goes from 0 to 1."""
    if low is None and isinstance(default, float):
        low, high = 0.0, 1.0
    return Field(default, ge=low, le=high, title=title, description=help, json_schema_extra={"group": group}, allow_inf_nan=False if isinstance(default, float) else None)


class Parameter(BaseModel):
    """One parameter as the desk needs it to make a control."""

    name: str
    title: str
    type: Literal["number", "colour", "choice", "toggle"]
    unit: str = ""
    low: float | None = None
    high: float | None = None
    default: float | str | bool
    choices: list[str] = []
    help: str = ""
    group: str = ""

    @property
    def size(self) -> int:
        """Floats it takes in the live block: three for a colour (linear red, green, blue), else one."""
        return 3 if self.type == "colour" else 1


class Kind(BaseModel):
    """Base of everything that is declared once and used everywhere.

    A subclass that names a ``family`` starts a family; below it every class is one kind of that family.
    """

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    family: ClassVar[str] = ""
    kinds: ClassVar[dict[str, type[Self]]]
    title: ClassVar[str] = ""

    @classmethod
    def __pydantic_init_subclass__(cls, **kwargs: Any) -> None:
        super().__pydantic_init_subclass__(**kwargs)
        if "family" in cls.__dict__:
            cls.kinds = {}
        else:
            cls.kinds[cls.name()] = cls

    @classmethod
    def name(cls) -> str:
        """The name in documents: the class's name in lower case with dashes."""
        return re.sub(r"(?<=[a-z])(?=[A-Z])", "-", cls.__name__).lower()

    @classmethod
    def parameters(cls) -> list[Parameter]:
        """The parameters in the order in which they were declared."""
        return [_describe(name, field) for name, field in cls.model_fields.items()]


class KindInfo(BaseModel):
    """One kind as the desk needs it."""

    family: str
    kind: str
    title: str
    help: str
    parameters: list[Parameter]

    @classmethod
    def of(cls, kind: type[Kind]) -> "KindInfo":
        words = kind.__doc__ or ""
        return cls(family=kind.family, kind=kind.name(), title=kind.title or kind.__name__, help=" ".join(words.split()), parameters=kind.parameters())


def _describe(name: str, field: FieldInfo) -> Parameter:
    extra = field.json_schema_extra if isinstance(field.json_schema_extra, dict) else {}
    bounds = {type(m).__name__: m for m in field.metadata}
    unit = next((m.name for m in field.metadata if isinstance(m, Unit)), "")
    choices: list[str] = []
    if get_origin(field.annotation) is Literal:
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
        group=str(extra.get("group", "")),
    )

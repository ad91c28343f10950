"""Kinds: what is declared once and used everywhere. A kind is a class in one of the folders here and its
parameters are its fields; the API, the desk's controls, validation and live values come from it.
"""

import re
from functools import cache
from importlib import import_module
from pathlib import Path
from pkgutil import iter_modules
from typing import Any, ClassVar, Literal, Self, get_args, get_origin

from pydantic import BaseModel, ConfigDict
from pydantic.fields import FieldInfo

from fulgura.core.kinds.parameters import Parameter, ParameterType, Unit, WrittenType

FAMILIES: dict[str, type["Kind"]] = {}
"""Every family, by its name: filled as families are declared."""


class Kind(BaseModel):
    """Base of everything that is declared once and used everywhere.

    A subclass that names a ``family`` starts a family; below it every class is one kind of that family.
    """

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    family: ClassVar[str] = ""
    kinds: ClassVar[dict[str, type[Self]]]
    """The kinds of this family, by name. Names are a family's own: two families may have one in common."""
    title: ClassVar[str] = ""
    abstract: ClassVar[bool] = False
    """True for what several kinds share and is none itself."""

    @classmethod
    def __pydantic_init_subclass__(cls, **kwargs: Any) -> None:
        super().__pydantic_init_subclass__(**kwargs)
        if "family" in cls.__dict__:
            cls.kinds = {}
            FAMILIES[cls.family] = cls
        elif not cls.__dict__.get("abstract"):
            name = cls.kind_name()
            if name in cls.kinds:
                raise TypeError(f"there are two kinds called “{name}” in the family “{cls.family}”")
            cls.kinds[name] = cls  # type: ignore[assignment]

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
    def more_info(cls) -> dict[str, Any]:
        """What the desk needs to know of kinds of this family beside their parameters."""
        return {}

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
    fits: str = ""
    """What fitting a shaper to what arrives sets; empty for what can't be fitted."""
    edges: list[str] = []
    """Parameters of a shaper that are edges in what comes in."""
    lanes: str = ""
    """How a shaper parts the way of several targets: turns, spread, or not at all."""
    parameters: list[Parameter]
    usual: str = ""
    """Of an action: how a pad usually does it."""
    modes: list[dict[str, Any]] = []
    """Of a fixture: name, channels, and how many of them for each pixel."""
    pixels: tuple[int, int] = (1, 1)
    """Of a fixture: how many it usually has, and how many at most."""
    drawn: str = ""
    """Of a fixture: its shape on the drawing of the rig."""
    beam: float = 0.0
    """Of a fixture without a zoom: degrees across."""

    @classmethod
    def of(cls, kind: type[Kind]) -> "KindInfo":
        words = kind.__doc__ or ""
        return cls(
            says=getattr(kind, "says", ""),
            fits=getattr(kind, "fits", ""),
            edges=list(getattr(kind, "edges", ())),
            lanes=getattr(kind, "lanes", ""),
            family=kind.family,
            kind=kind.kind_name(),
            title=kind.title or kind.__name__,
            help=" ".join(words.split()),
            parameters=kind.parameters(),
            **kind.more_info(),
        )


@cache
def _described(kind: type[Kind]) -> list[Parameter]:
    own = {name: place for place, name in enumerate(kind.__annotations__)}
    # What is said anew of something shared stands where it is said.
    fields = sorted(kind.model_fields.items(), key=lambda field: own.get(field[0], len(own)))
    return [_describe(name, field) for name, field in fields if isinstance(field.json_schema_extra, dict)]


def _type_of(field: FieldInfo) -> ParameterType:
    """What type of control a field has."""
    written = next((mark.type for mark in field.metadata if isinstance(mark, WrittenType)), None)
    if written is not None:
        return written
    if get_origin(field.annotation) is Literal:
        return "choice"
    if field.annotation is bool:
        return "toggle"
    return "colour" if field.annotation is str else "number"


def _describe(name: str, field: FieldInfo) -> Parameter:
    bounds = {type(mark).__name__: mark for mark in field.metadata}
    unit = next((mark.name for mark in field.metadata if isinstance(mark, Unit)), "")
    declared: Any = field.json_schema_extra
    kind = _type_of(field)
    choices = list(get_args(field.annotation)) if kind == "choice" else []
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
        of=next((mark.of for mark in field.metadata if isinstance(mark, WrittenType)), ""),
        group=str(declared["group"]),
        when=declared["when"],
        empty=declared["empty"],
        useful=declared["useful"],
        stepped=declared["stepped"],
    )


def load() -> None:
    """Import every module that declares kinds, so that dropping a file in is all it takes."""
    here = Path(__file__).parent
    for module in ("layering", "listening", "lighting", "ramps"):
        import_module(f"fulgura.core.kinds.{module}")
    for folder in ("sources", "effects", "shapers", "modulators", "fixtures", "inputs", "actions"):
        for found in iter_modules([str(here / folder)]):
            import_module(f"fulgura.core.kinds.{folder}.{found.name}")

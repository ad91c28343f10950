"""What every piece of the document is made of: ids, names, and parts, which are kinds with their values."""

import re
from collections import Counter
from collections.abc import Sequence
from typing import Annotated, Any, Self

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.registry import FAMILIES, Kind, load

load()


def same(a: Sequence[object], b: Sequence[object]) -> bool:
    """Whether two lists hold the very same objects: what an edit did not touch."""
    return len(a) == len(b) and all(x is y for x, y in zip(a, b))


def _an_id(value: str) -> str:
    if not re.fullmatch(r"[a-z0-9][a-z0-9-]{0,47}", value):
        raise ValueError("an id is made of lower-case letters, digits and dashes")
    return value


Id = Annotated[str, AfterValidator(_an_id)]
LONGEST_NAME = 80
Name = Annotated[str, Field(min_length=1, max_length=LONGEST_NAME)]


class Strict(BaseModel):
    """A part of the document: unknown fields and numbers that are not finite are refused."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class Part(Strict):
    """One source, effect, shaper or the like: which kind of which family it is, and its hand values.

    Missing values take the kind's defaults; wrong ones are refused with the parameter's name. A family that
    is not said follows from where the part stands in the document, or from its kind where only one family has
    one of that name.
    """

    id: Id
    family: str = ""
    kind: str
    on: bool = True
    values: dict[str, Any] = {}

    @property
    def kind_class(self) -> type[Kind]:
        """The declaration."""
        return FAMILIES[self.family].kinds[self.kind]

    def model(self) -> Any:
        """The hand values as the kind's own model."""
        return self.kind_class(**self.values)

    def parameters(self) -> list[Parameter]:
        """What can be set of it, and what routes can move."""
        return self.kind_class.parameters_of(self.values)

    @model_validator(mode="after")
    def _fill(self) -> Self:
        self.family = self.family or _only_family(self.kind)
        if self.family not in FAMILIES or self.kind not in FAMILIES[self.family].kinds:
            raise ValueError(f"there is no {self.family or 'kind'} called “{self.kind}”")
        self.values = self.model().model_dump()
        return self


def _only_family(kind: str) -> str:
    """The family that has a kind of this name. Raises ValueError when none has, or several have."""
    found = [name for name, family in FAMILIES.items() if kind in family.kinds]
    if not found:
        raise ValueError(f"there is no kind called “{kind}”")
    if len(found) > 1:
        raise ValueError(f"“{kind}” is the name of a {' and of a '.join(found)}: say which is meant")
    return found[0]


def _part_of(family: str) -> tuple[BeforeValidator, AfterValidator]:
    """Validators: a part at this place is of this family, whether it says so or not."""

    def say(value: Any) -> Any:
        return {"family": family, **value} if isinstance(value, dict) and not value.get("family") else value

    def check(part: Part) -> Part:
        if part.family != family:
            raise ValueError(f"“{part.kind}” is not a {family}")
        return part

    return BeforeValidator(say), AfterValidator(check)


ASource = Annotated[Part, *_part_of("source")]
AEffect = Annotated[Part, *_part_of("effect")]
ALayering = Annotated[Part, *_part_of("layering")]
ACrossfade = Annotated[Part, *_part_of("crossfade")]
AFixture = Annotated[Part, *_part_of("fixture")]
AShaper = Annotated[Part, *_part_of("shaper")]
AModulator = Annotated[Part, *_part_of("modulator")]
ARamp = Annotated[Part, *_part_of("ramp")]
AMasters = Annotated[Part, *_part_of("masters")]
AGroup = Annotated[Part, *_part_of("group")]
AChase = Annotated[Part, *_part_of("chase")]
AChaseRun = Annotated[Part, *_part_of("chase-run")]
AAction = Annotated[Part, *_part_of("action")]
AAnswer = Annotated[Part, *_part_of("answer")]


def check_unique(ids: list[str], what: str) -> None:
    """Raises ValueError when an id stands twice."""
    if len(set(ids)) < len(ids):
        twice = next(id for id, count in Counter(ids).items() if count > 1)
        raise ValueError(f"two {what}s have the id “{twice}”")

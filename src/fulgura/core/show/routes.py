"""What moves what: routes, kept shapers, modulators, presets."""

from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator

from fulgura.core.kinds.parameters import Colour
from fulgura.core.show.part import AModulator, AShaper, Id, Name, Strict, check_unique

MOST_TARGETS = 64

End = float | Colour
"""One end of what a route gives out: in the parameter's own unit, or a colour."""


class Route(Strict):
    """One signal, through shapers, to one parameter or to several. low and high are in the parameter's own
    unit.
    """

    id: Id
    signal: str = Field(max_length=60)
    targets: list[Annotated[str, Field(max_length=120)]] = Field(min_length=1, max_length=MOST_TARGETS)
    """Addresses of parameters: the id of a part, a dot, a name. With a cycle among the shapers they take
    turns.
    """
    low: End
    high: End
    amount: float = Field(1.0, ge=0, le=1)
    muted: bool = False
    solo: bool = False
    shapers: list[AShaper] = Field([], max_length=32)
    fitted: tuple[float, float] | None = None
    """What its range was fitted to last: typical quiet and loud of what came in."""
    set: str = Field("", max_length=40)
    """The name of those that are switched together with it."""
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
        check_unique([shaper.id for shaper in self.shapers], "shaper")
        check_unique(self.targets, "target")
        return self


class Chain(Strict):
    """Shapers that are kept under a name, for any route."""

    id: Id
    name: Name
    shapers: list[AShaper] = Field([], max_length=32)


class NamedModulator(Strict):
    """A modulator: a signal that is made, not heard."""

    id: Id
    name: Name
    part: AModulator


Scope = Literal["parameter", "part", "layer", "look"]


class Preset(Strict):
    """Values and routes that are kept. address: of the parameter, or the id of the part, layer or
    look.
    """

    id: Id
    name: Name
    scope: Scope
    address: str = Field(max_length=120)
    kind: str = Field(max_length=60)
    """What it fits: the type of a parameter's value, a part's family and kind, or the address itself."""
    span: tuple[float, float] = (0.0, 1.0)
    """The range of the parameter that it was kept from."""
    values: dict[str, Any] = {}
    """Hand value of each parameter, by its address."""
    routes: list[Route] = []


MIXES = {
    "sum": "they add up",
    "largest": "the largest wins",
    "smallest": "the smallest wins",
    "product": "they multiply",
    "mean": "their mean",
}
"""How several routes on one parameter become one: of what each wants beside the hand value, or, for the
product, of the shares of its range.
"""
MixHow = Literal[*MIXES]  # type: ignore[valid-type]

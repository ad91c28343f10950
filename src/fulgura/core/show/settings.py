"""What listens and routes as something that has addresses, like the parts of a picture: inputs, bands, hits,
shapers, amounts.

An address is “band@low.gain_db”, “hit@kick.sensitivity”, “input@main.gain_db”, “level@main.floor_dbfs”,
“step@r1@smooth.release”, “route@r1.amount” or “show@sound.sound_amount”. The @ keeps them apart from parts.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Any

from pydantic import BaseModel

from fulgura.core.kinds.inputs.level import LevelSetting
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.registry import Kind
from fulgura.core.show.inputs import Band, HitSetting, Input
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route

if TYPE_CHECKING:
    from fulgura.core.show.document import Show

MARK = "@"
SOUND = "show@sound"


@cache
def _numbers(kind: type[Kind]) -> list[Parameter]:
    """The numbers of a kind: always the same list."""
    return [parameter for parameter in kind.parameters() if parameter.type == "number"]


def _share(name: str, title: str, help: str) -> list[Parameter]:
    bounds = {"low": 0.0, "high": 1.0, "default": 1.0}
    return [Parameter(name=name, title=title, type="number", help=help, **bounds)]


_AMOUNT = _share("amount", "Amount", "How much the route acts")
_SOUND_AMOUNT = _share("sound_amount", "Sound amount", "How much all routes act")


@dataclass(frozen=True)
class Setting:
    """One of them, which stands for a part wherever addresses are looked up. path: of its values."""

    id: str
    path: str
    holder: BaseModel
    numbers: list[Parameter]
    family: str = "setting"

    @property
    def kind(self) -> str:
        """What it is, for presets that fit others of its like."""
        return self.id.partition(MARK)[0]

    @property
    def values(self) -> dict[str, Any]:
        """Its numbers by name."""
        holder = self.holder
        found = holder.values if isinstance(holder, Part) else None
        return {
            number.name: found[number.name] if found is not None else getattr(holder, number.name)
            for number in self.numbers
        }

    def parameters(self) -> list[Parameter]:
        """Its numbers."""
        return self.numbers


def place_of(path: str, part: "Part | Setting", name: str) -> str:
    """Where a value stands in the document. path: of the part, or of the setting."""
    if isinstance(part, Setting) and not isinstance(part.holder, Part):
        return f"{path}/{name}"
    return f"{path}/values/{name}"


def listening(show: "Show") -> Iterator[Setting]:
    """Inputs with how their level is kept, bands and hits, and the sound amount."""
    for setting in show.inputs:
        path = f"/inputs/{setting.id}"
        yield Setting(f"input@{setting.id}", path, setting, _numbers(Input))
        yield Setting(f"level@{setting.id}", f"{path}/level", setting.level, _numbers(LevelSetting))
    for band in show.bands:
        yield Setting(f"band@{band.id}", f"/bands/{band.id}", band, _numbers(Band))
    for hit in show.hits:
        yield Setting(f"hit@{hit.id}", f"/hits/{hit.id}", hit, _numbers(HitSetting))
    yield Setting(SOUND, "", show, _SOUND_AMOUNT)


def of_route(route: Route) -> Iterator[Setting]:
    """A route's amount, and its shapers."""
    path = f"/routes/{route.id}"
    yield Setting(f"route@{route.id}", path, route, _AMOUNT)
    for part in route.shapers:
        yield Setting(
            f"step@{route.id}@{part.id}", f"{path}/shapers/{part.id}", part, _numbers(part.kind_class)
        )


def settings(show: "Show") -> list[Setting]:
    """All of a show."""
    return [*listening(show), *(setting for route in show.routes for setting in of_route(route))]


def moved_settings(show: "Show") -> list[Setting]:
    """Those that have a place among the live values: what listens, and what of routes is itself moved by one.

    There can be thousands of shapers: only what is moved costs something in a tick.
    """
    wanted = {
        target.partition(".")[0]
        for route in show.routes
        for target in route.targets
        if target.startswith(("route@", "step@"))
    }
    by_route = {name.split(MARK)[1] for name in wanted}
    return [
        *listening(show),
        *(
            setting
            for route in show.routes
            if route.id in by_route
            for setting in of_route(route)
            if setting.id in wanted
        ),
    ]


def setting_of(show: "Show", id: str) -> Setting | None:
    """One of them by its id; None for what is gone, or is none."""
    what, _, rest = id.partition(MARK)
    if not rest:
        return None
    if what in ("route", "step"):
        name = rest.partition(MARK)[0]
        found = (route for route in show.routes if route.id == name)
        return next((setting for route in found for setting in of_route(route) if setting.id == id), None)
    return next((setting for setting in listening(show) if setting.id == id), None)

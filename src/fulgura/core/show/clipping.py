"""What was copied, as it lies on the system's clipboard: JSON, in one line of which it says what it is."""

from typing import Any, Literal

from pydantic import Field, ValidationError
from pydantic_core import from_json

from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, to_plain, value_at
from fulgura.core.show.inputs import Band, HitSetting
from fulgura.core.show.lights import Chase, Group
from fulgura.core.show.looks import Layer
from fulgura.core.show.night import Cue
from fulgura.core.show.part import Part, Strict
from fulgura.core.show.routes import Route
from fulgura.core.show.settings import of_route
from fulgura.core.show.signals import signals

FORMAT, VERSION = "fulgura-copy", 1
MOST_BYTES = 2_000_000
What = Literal["layer", "effect", "route", "band", "cue", "group", "chase"]
ENDINGS: tuple[tuple[str, What], ...] = (
    ("layers", "layer"),
    ("effects", "effect"),
    ("finish", "effect"),
    ("routes", "route"),
    ("bands", "band"),
    ("cues", "cue"),
    ("groups", "group"),
    ("chases", "chase"),
)
"""The list that a thing stands in -> what it is."""
MODELS: dict[What, Any] = {
    "layer": Layer,
    "effect": Part,
    "route": Route,
    "band": Band,
    "cue": Cue,
    "group": Group,
    "chase": Chase,
}


class Clipped(Strict):
    """One thing that was copied, and where it stood."""

    what: What
    path: str = Field("", max_length=400)
    item: dict[str, Any]


class Clipping(Strict):
    """Things that were copied, and all that moves them."""

    format: Literal["fulgura-copy"] = "fulgura-copy"
    version: int = VERSION
    things: list[Clipped] = Field(min_length=1, max_length=200)
    routes: list[Route] = Field([], max_length=1000)
    hits: list[HitSetting] = Field([], max_length=32)
    """Detectors of copied bands."""
    names: dict[str, str] = {}
    """What signals that are heard were called, for saying which is not there."""


def what_stands(path: str) -> What:
    """What stands at a path. Raises EditError for what can't be copied."""
    holder = path.strip("/").split("/")[-2:-1]
    found = next((what for ending, what in ENDINGS if holder == [ending]), None)
    if found is None:
        raise EditError("That can't be copied.", path)
    return found


def _with_members(show: Show, paths: list[str]) -> list[str]:
    """A copied group of layers takes along what is in it; the order is that of the document."""
    found = dict.fromkeys(paths)
    for path in paths:
        base, layers, id = path.rpartition("/layers/")
        if layers and "/" not in id:
            look, inside = value_at(show, base), {id}
            for layer in [*look.layers, *look.layers]:  # Twice: a group may stand above what it is in.
                if layer.inside in inside:
                    inside.add(layer.id)
            found |= dict.fromkeys(f"{base}/layers/{layer.id}" for layer in look.layers if layer.id in inside)
    order = {
        f"/looks/{look.id}/layers/{layer.id}": number
        for look in show.looks
        for number, layer in enumerate(look.layers)
    }
    return sorted(found, key=lambda path: order.get(path, -1))


def ids_of(thing: Any) -> list[str]:
    """Ids that routes to a thing begin with."""
    match thing:
        case Layer():
            return [part.id for part in thing.parts()]
        case Part():
            return [thing.id]
        case Band():
            return [f"band@{thing.id}"]
        case Group():
            return [thing.part.id]
        case Chase():
            return [thing.part.id, *(run.part.id for run in thing.runs)]
        case Route():
            return [setting.id for setting in of_route(thing)]
    return []


def clip(show: Show, paths: list[str]) -> Clipping:
    """What stands at these paths, with all that moves it. Raises EditError for what is gone or can't be
    copied.
    """
    paths = _with_members(show, paths)
    found = [(what_stands(path), path, value_at(show, path)) for path in paths]
    ids = {id for _, _, thing in found for id in ids_of(thing)}
    own = {thing.id for what, _, thing in found if what == "route"}
    routes = [
        route
        for route in show.routes
        if route.id not in own and any(target.partition(".")[0] in ids for target in route.targets)
    ]
    bands = {thing.id for what, _, thing in found if what == "band"}
    hits = [hit for hit in show.hits if not hit.drum and hit.band in bands]
    heard = {signal.id: signal.name for signal in signals(show)}
    wanted = {route.signal for route in routes} | {t.signal for what, _, t in found if what == "route"}
    return Clipping(
        things=[Clipped(what=what, path=path, item=to_plain(thing)) for what, path, thing in found],
        routes=routes,
        hits=hits,
        names={signal: heard[signal] for signal in wanted if signal in heard},
    )


NOT_OURS = "What is on the clipboard was not copied in Fulgura."


def read(text: str) -> Clipping:
    """A clipping from what lies on the clipboard. Raises EditError, in words, for anything else."""
    if len(text) > MOST_BYTES:
        raise EditError("What is on the clipboard is too large to be pasted. Nothing was changed.")
    if FORMAT not in text[:200]:
        raise EditError(NOT_OURS)
    try:
        data = from_json(text)
    except ValueError as error:
        raise EditError("The copy is cut off or damaged. Copy it again.") from error
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise EditError(NOT_OURS)
    version = data.get("version")
    if isinstance(version, int) and version > VERSION:
        raise EditError("That was copied in a newer Fulgura, which this one can't read. Nothing was changed.")
    try:
        clipping = Clipping.model_validate(data)
        for thing in clipping.things:
            MODELS[thing.what].model_validate(_as_one(thing))
    except ValidationError as error:
        raise EditError("The copy is damaged. Copy it again; nothing was changed.") from error
    return clipping


def _as_one(thing: Clipped) -> dict[str, Any]:
    """An item as its model takes it alone."""
    return {"family": "effect", **thing.item} if thing.what == "effect" else thing.item

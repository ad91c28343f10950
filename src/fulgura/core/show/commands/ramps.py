"""Ramps and their stops are made, and taken away."""

from typing import Any

from fulgura.core.kinds.ramps import LEAST_STOPS, MOST_STOPS
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.looks import NamedRamp
from fulgura.core.show.numbered import numbered


def new_ramp(show: Show, name: str = "", like: str = "") -> tuple[AddItem, str]:
    """(the edit that adds a ramp, its id); without a name it is numbered. like: the id of one whose stops it
    begins with. Raises EditError when that is gone.
    """
    values = _ramp(show, like).part.values if like else {}
    ramp = free_id([ramp.id for ramp in show.ramps], "ramp-")
    item = {
        "id": ramp,
        "name": name or numbered("Ramp", [other.name for other in show.ramps]),
        "part": {"id": ramp, "kind": "colour-ramp", "values": values},
    }
    return AddItem(path="/ramps", item=item), ramp


def _ramp(show: Show, id: str) -> NamedRamp:
    found = next((ramp for ramp in show.ramps if ramp.id == id), None)
    if found is None:
        raise EditError("That ramp is not there any more.", f"/ramps/{id}")
    return found


STOP = ("place", "colour", "opacity")
"""What a stop has."""


def new_stop(show: Show, id: str, place: float) -> Edit:
    """The edit that adds a stop at a place, as the ramp's nearest one is. Raises EditError when it is gone or
    has as many as there can be.
    """
    values = _ramp(show, id).part.values
    count = round(values["count"])
    if count == MOST_STOPS:
        raise EditError(f"A ramp has at most {MOST_STOPS} stops. Take one away first.", f"/ramps/{id}")
    near = min(range(1, count + 1), key=lambda number: abs(values[f"place_{number}"] - place))
    stop = {"place": place, "colour": values[f"colour_{near}"], "opacity": values[f"opacity_{near}"]}
    set_all = {f"{name}_{count + 1}": value for name, value in stop.items()} | {"count": float(count + 1)}
    return _set_all(id, set_all)


def without_stop(show: Show, id: str, number: int) -> Edit:
    """The edit that takes a stop away; those behind it move up. Raises EditError when it is gone, or too few
    would be left.
    """
    values = _ramp(show, id).part.values
    count = round(values["count"])
    if not 1 <= number <= count:
        raise EditError("That stop is not there any more.", f"/ramps/{id}")
    if count == LEAST_STOPS:
        raise EditError(f"A ramp has at least {LEAST_STOPS} stops.", f"/ramps/{id}")
    moved = {
        f"{name}_{other}": values[f"{name}_{other + 1}"] for other in range(number, count) for name in STOP
    }
    return _set_all(id, moved | {"count": float(count - 1)})


def _set_all(id: str, values: dict[str, Any]) -> Edit:
    path = f"/ramps/{id}/part/values"
    return Together(edits=[SetValue(path=f"{path}/{name}", value=value) for name, value in values.items()])


def without_ramp(show: Show, id: str) -> Edit:
    """The edit that takes a ramp away; what took its colours has its own again. Raises EditError."""
    _ramp(show, id)
    back = [
        SetValue(path=f"/looks/{look.id}/{where}/values/ramp", value="")
        for look in show.looks
        for where, part in (
            *((f"layers/{layer.id}/source", layer.source) for layer in look.layers),
            *((f"layers/{layer.id}/effects/{e.id}", e) for layer in look.layers for e in layer.effects),
            *((f"finish/{effect.id}", effect) for effect in look.finish),
        )
        if part.values.get("ramp") == id
    ]
    return Together(edits=[*back, RemoveItem(path=f"/ramps/{id}")])

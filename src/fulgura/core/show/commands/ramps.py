"""Ramps are made, and taken away."""

from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.numbered import numbered


def new_ramp(show: Show, name: str = "", like: str = "") -> tuple[AddItem, str]:
    """(the edit that adds a ramp, its id); without a name it is numbered. like: the id of one whose stops it
    begins with. Raises EditError when that is gone.
    """
    values = {}
    if like:
        found = next((ramp for ramp in show.ramps if ramp.id == like), None)
        if found is None:
            raise EditError("That ramp is not there any more.", f"/ramps/{like}")
        values = found.part.values
    ramp = free_id([ramp.id for ramp in show.ramps], "ramp-")
    item = {
        "id": ramp,
        "name": name or numbered("Ramp", [other.name for other in show.ramps]),
        "part": {"id": ramp, "kind": "colour-ramp", "values": values},
    }
    return AddItem(path="/ramps", item=item), ramp


def without_ramp(show: Show, id: str) -> Edit:
    """The edit that takes a ramp away; what took its colours has its own again. Raises EditError."""
    if id not in {ramp.id for ramp in show.ramps}:
        raise EditError("That ramp is not there any more.", f"/ramps/{id}")
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

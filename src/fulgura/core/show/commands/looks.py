"""Looks are made, copied and taken away."""

from fulgura.core.kinds.registry import FAMILIES
from fulgura.core.show.commands.copying import Fresh
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.layers import still_parts
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.numbered import numbered


def without_look(show: Show, look: str) -> Together:
    """The edit that takes a look away, with every route that moves nothing else; when it is shown, its
    neighbour is. Cues that go to it stay: they say so, and do the rest.

    Raises EditError for an unknown look, and for the last one.
    """
    ids = [look.id for look in show.looks]
    if look not in ids or len(ids) == 1:
        raise EditError(
            "One look has to stay." if look in ids else "There is no such look any more.", f"/looks/{look}"
        )
    index = ids.index(look)
    edits = still_parts(show, {part.id for part in show.looks[index].parts()})
    if show.beside == look:
        edits.append(SetValue(path="/beside", value=""))
    if show.look == look:
        edits.append(SetValue(path="/look", value=ids[index - 1] if index else ids[1]))
    return Together(edits=[*edits, RemoveItem(path=f"/looks/{look}")])


def new_look(show: Show, name: str, of: str = "") -> tuple[Together, str]:
    """(the edit that adds a look and shows it, its id): empty, or a copy of another with the routes that move
    it.
    """
    look = free_id([look.id for look in show.looks], "look-")
    name = numbered(name, [other.name for other in show.looks])
    base = next((look for look in show.looks if look.id == of), None)
    if base is None:
        return (
            Together(
                edits=[
                    AddItem(path="/looks", item={"id": look, "name": name}),
                    SetValue(path="/look", value=look),
                ]
            ),
            look,
        )
    fresh = Fresh(show)
    item = base.model_dump() | {"id": look, "name": name}
    fresh.layers |= {layer.id: fresh.id("layer", "layer-") for layer in base.layers}
    for layer in item["layers"]:
        layer["id"] = fresh.layers[layer["id"]]
        layer["inside"] = fresh.layers.get(layer["inside"], "")
    parts = [
        part for layer in item["layers"] for part in (layer["source"], layer["mix"], *layer["effects"])
    ] + item["finish"]
    for part in parts:
        fresh.part(part)
        for parameter in FAMILIES[part["family"]].kinds[part["kind"]].parameters():
            if parameter.type == "layer":
                part["values"][parameter.name] = fresh.layers.get(part["values"][parameter.name], "")
    edits: list[Edit] = [AddItem(path="/looks", item=item)]
    for route in show.routes:
        targets = [to for target in route.targets if (to := fresh.target(target)) is not None]
        if targets:
            id = fresh.id("route", "r")
            edits.append(AddItem(path="/routes", item=route.model_dump() | {"id": id, "targets": targets}))
    return Together(edits=[*edits, SetValue(path="/look", value=look)]), look

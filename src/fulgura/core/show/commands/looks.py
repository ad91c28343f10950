"""Looks are made, copied and taken away."""

from typing import Any

from fulgura.core.kinds.drawn import Effect, Source
from fulgura.core.kinds.layering import Layering
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.layers import still_parts
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together


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
    taken = [part.id for part in show.parts()]
    fresh: dict[str, str] = {}
    for part in base.parts():
        fresh[part.id] = free_id(taken, f"{part.kind}-")
        taken.append(fresh[part.id])
    item = base.model_dump() | {"id": look, "name": name}
    layers = [layer.id for look in show.looks for layer in look.layers]
    copied: dict[str, str] = {"": ""}
    for layer in base.layers:
        copied[layer.id] = free_id(layers, "layer-")
        layers.append(copied[layer.id])

    def copy(part: dict[str, Any]) -> None:
        for parameter in (
            next(family for family in (Source, Effect, Layering) if part["kind"] in family.kinds)
            .kinds[part["kind"]]
            .parameters()
        ):
            if parameter.type == "layer":
                part["values"][parameter.name] = copied.get(part["values"][parameter.name], "")
        part["id"] = fresh[part["id"]]

    for layer in item["layers"]:
        layer["id"], layer["inside"] = copied[layer["id"]], copied[layer["inside"]]
        for part in (layer["source"], layer["mix"], *layer["effects"]):
            copy(part)
    for part in item["finish"]:
        copy(part)
    edits: list[Edit] = [AddItem(path="/looks", item=item)]
    ids = [route.id for route in show.routes]
    for route in show.routes:
        targets = [
            f"{fresh[part]}.{name}"
            for part, _, name in (target.partition(".") for target in route.targets)
            if part in fresh
        ]
        if targets:
            id = free_id(ids, "r")
            ids.append(id)
            edits.append(AddItem(path="/routes", item=route.model_dump() | {"id": id, "targets": targets}))
    return Together(edits=[*edits, SetValue(path="/look", value=look)]), look

"""Layers and effects are made and taken away."""

from fulgura.core.kinds.drawn import Effect, Source
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together, value_at
from fulgura.core.show.looks import MOST_LAYERS, Layer
from fulgura.core.show.numbered import numbered
from fulgura.core.show.part import Part


def new_layer(show: Show, look: str, source: str, name: str = "") -> tuple[AddItem, str]:
    """(the edit that lays a new layer on top of a look, its id). Raises EditError for an unknown look or
    source, or when it is full.
    """
    found = next((other for other in show.looks if other.id == look), None)
    if found is None or source not in Source.kinds:
        raise EditError("There is no such look or source any more.", f"/looks/{look}")
    if len(found.layers) == MOST_LAYERS:
        raise EditError(
            f"A look has at most {MOST_LAYERS} layers. Remove one first.", f"/looks/{look}/layers"
        )
    taken = [layer.id for look in show.looks for layer in look.layers]
    layer = free_id(taken, "layer-")
    parts = [part.id for part in show.parts()]
    own, mix = free_id(parts, f"{source}-"), free_id(parts, "mix-")
    title = name or numbered(
        Source.kinds[source].title or Source.kinds[source].__name__, [layer.name for layer in found.layers]
    )
    # It goes where one looks: on top. What covers the whole picture is light there, which is added.
    item = {
        "id": layer,
        "name": title,
        "source": {"id": own, "kind": source},
        "mix": {
            "id": mix,
            "kind": "over",
            "values": {"blend": "normal" if source in OVER or not found.layers else "screen"},
        },
    }
    return AddItem(path=f"/looks/{look}/layers", item=item), layer


OVER = ("group", "again", "so-far", "lattice", "relief", "text")
"""Sources that are laid over what is below them: they are no light."""


def new_effect(show: Show, holder: str, kind: str) -> tuple[AddItem, str]:
    """(the edit that adds an effect at the end of a list of effects, its id). holder: the list's path. Raises
    EditError.
    """
    if kind not in Effect.kinds or not isinstance(value_at(show, holder), list):
        raise EditError("There is no such effect, or no such place for it.", holder)
    effect = free_id([part.id for part in show.parts()], f"{kind}-")
    return AddItem(path=holder, item={"id": effect, "kind": kind}), effect


def without_part(show: Show, path: str) -> Together:
    """The edit that takes a layer or an effect away, with every route that moves nothing else. Raises
    EditError for an unknown place.
    """
    thing = value_at(show, path)
    if not (isinstance(thing, Layer) or (isinstance(thing, Part) and thing.kind in Effect.kinds)):
        raise EditError("Only a layer or an effect can be taken away here.", path)
    gone = (
        {part.id for part in (thing.source, *thing.effects, thing.mix)}
        if isinstance(thing, Layer)
        else {thing.id}
    )
    edits = still_parts(show, gone)
    if isinstance(thing, Layer):
        edits += _let_go_of(show, path, thing.id)
    return Together(edits=[*edits, RemoveItem(path=path)])


def still_parts(show: Show, gone: set[str]) -> list[Edit]:
    """The edits by which no route moves these parts any more."""
    edits: list[Edit] = []
    for route in show.routes:
        rest = [target for target in route.targets if target.partition(".")[0] not in gone]
        if not rest:
            edits.append(RemoveItem(path=f"/routes/{route.id}"))
        elif len(rest) < len(route.targets):
            edits.append(SetValue(path=f"/routes/{route.id}/targets", value=rest))
    return edits


def layer_references(layer: Layer) -> list[tuple[Part, str]]:
    """(part, name of the parameter) wherever a layer reads another layer's picture."""
    return [
        (part, parameter.name)
        for part in layer.parts()
        for parameter in part.parameters()
        if parameter.type == "layer" and part.values[parameter.name]
    ]


def _let_go_of(show: Show, path: str, layer: str) -> list[Edit]:
    """The edits by which nothing in the look reads a layer any more, and what is in it as a group stands
    alone.
    """
    base = path.rpartition("/layers/")[0]
    look = value_at(show, base)
    edits: list[Edit] = []
    for other in look.layers:
        if other.id == layer:
            continue
        here = f"{base}/layers/{other.id}"
        if other.inside == layer:
            edits.append(SetValue(path=f"{here}/inside", value=""))
        for part, name in layer_references(other):
            if part.values[name] == layer:
                singles = {id(other.source): "source", id(other.mix): "mix"}
                within = singles.get(id(part), f"effects/{part.id}")
                edits.append(SetValue(path=f"{here}/{within}/values/{name}", value=""))
    for part in look.finish:
        edits += [
            SetValue(path=f"{base}/finish/{part.id}/values/{parameter.name}", value="")
            for parameter in part.parameters()
            if parameter.type == "layer" and part.values[parameter.name] == layer
        ]
    return edits


def with_code(show: Show, path: str, code: str) -> Together:
    """The edit that gives a part another text: numbers and colours that it had before by the same name stay,
    others begin anew.

    Raises EditError when there is no such part, or it has no text.
    """
    part = value_at(show, path)
    if not isinstance(part, Part) or "code" not in part.values:
        raise EditError("Only an own shader has a text.", path)
    kind = part.kind_class
    before = {
        parameter.title: part.values[parameter.name] for parameter in part.parameters() if parameter.size
    }
    edits: list[Edit] = [SetValue(path=f"{path}/values/code", value=code)]
    for parameter in kind.parameters_of({**part.values, "code": code}):
        if parameter.size:
            kept = before.get(parameter.title, parameter.default)
            if parameter.type == "number":
                low, high = parameter.low or 0.0, parameter.high or 0.0
                kept = min(max(kept, low), high) if isinstance(kept, float | int) else parameter.default
            elif not isinstance(kept, str):
                kept = parameter.default
            edits.append(SetValue(path=f"{path}/values/{parameter.name}", value=kept))
    return Together(edits=edits)

"""Controls of controllers are bound to what they do; the mappings of one controller go and come as a set."""

from collections.abc import Sequence
from typing import Any

from fulgura.core.kinds.registry import Kind
from fulgura.core.show.commands.addresses import value_path
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, Together, value_at
from fulgura.core.show.numbers import number_at
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.core.show.surface import MOST_MAPPINGS, Mapping


def span_of(show: Show, target: str) -> tuple[float, float]:
    """The range of a number of the document, or of a part of a colour. Raises EditError for what is none."""
    if "#" in target and number_at(show, target) is not None:
        return 0.0, 1.0
    holder, _, name = target.rpartition("/")
    whole = value_at(show, holder.removesuffix("/values"))
    kind = type(whole) if isinstance(whole, Kind) else None
    if isinstance(whole, Part) and holder.endswith("/values"):
        kind = whole.kind_class
    parameters = kind.parameters() if kind is not None else []
    parameter = next((parameter for parameter in parameters if parameter.name == name), None)
    if parameter is not None and parameter.type == "number":
        if parameter.low is not None and parameter.high is not None:
            return parameter.low, parameter.high
    elif target == "/sound_amount" or (isinstance(whole, Route) and name == "amount"):
        return 0.0, 1.0
    raise EditError("A fader can only move a number that has a range.", target)


def number_path(show: Show, target: str) -> str:
    """The path of a number of the document, by its path or by a parameter's address. Raises EditError for
    what is gone.
    """
    address, mark, part = target.partition("#")
    path = address if address.startswith("/") else value_path(show, address)
    if not path:
        raise EditError("What a fader was to move is not there any more.", target)
    return f"{path}{mark}{part}"


def bind(show: Show, fields: dict[str, Any]) -> Together:
    """The edit that lets a control do something; what did the same before is let go. fields: of the mapping,
    without its id.

    Raises EditError when there are as many as there can be.
    """
    wanted = Mapping(id="new", **fields)
    gone = [mapping for mapping in show.mappings if _does(mapping) == _does(wanted)]
    if len(show.mappings) - len(gone) >= MOST_MAPPINGS:
        raise EditError(f"A show has at most {MOST_MAPPINGS} mappings. Take one away first.", "/mappings")
    id = free_id([mapping.id for mapping in show.mappings], "mapping-")
    edits: list[Edit] = [RemoveItem(path=f"/mappings/{mapping.id}") for mapping in gone]
    return Together(edits=[*edits, AddItem(path="/mappings", item=wanted.model_dump() | {"id": id})])


def _does(mapping: Mapping) -> tuple[object, ...]:
    action = (mapping.action.kind, repr(mapping.action.values)) if mapping.action is not None else None
    return mapping.does, mapping.target, action


def add_mappings(show: Show, rows: Sequence[Mapping], controller: str) -> Together:
    """The edit that gives a controller these mappings in place of its own. Raises EditError."""
    gone = [mapping for mapping in show.mappings if mapping.controller == controller]
    ids = [mapping.id for mapping in show.mappings]
    if len(ids) - len(gone) + len(rows) > MOST_MAPPINGS:
        raise EditError(f"A show has at most {MOST_MAPPINGS} mappings.", "/mappings")
    edits: list[Edit] = [RemoveItem(path=f"/mappings/{mapping.id}") for mapping in gone]
    for row in rows:
        id = free_id(ids, "mapping-")
        ids.append(id)
        item = row.model_dump() | {"id": id, "controller": controller}
        edits.append(AddItem(path="/mappings", item=item))
    if not edits:
        raise EditError("There is nothing in it.", "/mappings")
    return Together(edits=edits)


def conflicts(show: Show) -> dict[str, list[str]]:
    """Mapping id -> ids of others that the same control moves."""
    found: dict[str, list[str]] = {}
    by_source: dict[str, list[Mapping]] = {}
    for mapping in show.mappings:
        by_source.setdefault(mapping.source, []).append(mapping)
    for rows in by_source.values():
        for mapping in rows:
            others = [
                other.id
                for other in rows
                if other is not mapping
                and ("" in (a := {mapping.controller, other.controller}) or len(a) == 1)
            ]
            if others:
                found[mapping.id] = others
    return found

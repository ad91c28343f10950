"""Faders of controllers are bound to what they move."""

from fulgura.core.kinds.registry import Kind
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, Together, value_at
from fulgura.core.show.part import Part


def bind(show: Show, source: str, target: str) -> Together:
    """The edit that lets a fader move a number over the whole range that is declared for it; another fader
    that did is let go.

    Raises EditError when the place is not a number with a range.
    """
    holder, _, name = target.rpartition("/")
    whole = value_at(show, holder.removesuffix("/values"))
    kind = type(whole) if isinstance(whole, Kind) else None
    if isinstance(whole, Part) and holder.endswith("/values"):
        kind = whole.kind_class
    parameter = (
        next((parameter for parameter in kind.parameters() if parameter.name == name), None)
        if kind is not None
        else None
    )
    if parameter is None or parameter.type != "number" or parameter.low is None or parameter.high is None:
        raise EditError("A fader can only move a number that has a range.", target)
    gone: list[Edit] = [
        RemoveItem(path=f"/mappings/{mapping.id}") for mapping in show.mappings if mapping.target == target
    ]
    item = {
        "id": free_id([mapping.id for mapping in show.mappings], "mapping-"),
        "source": source,
        "target": target,
        "low": parameter.low,
        "high": parameter.high,
    }
    return Together(edits=[*gone, AddItem(path="/mappings", item=item)])

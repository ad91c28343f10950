"""Edits: every change of a show is one of these. Each is validated whole, and knows its way back.

An edit's path names a place in the document, lists by the id of their items:
"/routes/r1/shapers/smooth/values/release". Undo and redo apply the stored inverse or the edit itself.
"""

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from fulgura.core.show.document import Show, Strict


class EditError(ValueError):
    """An edit that cannot be made. The message is for the performer; where is the place in the document."""

    def __init__(self, message: str, where: str = "") -> None:
        super().__init__(message)
        self.where = where


class SetValue(Strict):
    """Give the place a new value."""

    edit: Literal["set"] = "set"
    path: str = Field(max_length=400)
    value: Any


class AddItem(Strict):
    """Put an item into the list at the path, before the item at index (at the end without one)."""

    edit: Literal["add"] = "add"
    path: str = Field(max_length=400)
    item: dict[str, Any]
    index: int | None = Field(None, ge=0)


class RemoveItem(Strict):
    """Take the item at the path out of its list."""

    edit: Literal["remove"] = "remove"
    path: str = Field(max_length=400)


class MoveItem(Strict):
    """Move the item at the path to another place in its list."""

    edit: Literal["move"] = "move"
    path: str = Field(max_length=400)
    index: int = Field(ge=0)


class Together(Strict):
    """Several edits that are one step for undo: all are made, or none."""

    edit: Literal["together"] = "together"
    edits: list["Edit"] = Field(min_length=1, max_length=200)


Edit = Annotated[SetValue | AddItem | RemoveItem | MoveItem | Together, Field(discriminator="edit")]
Together.model_rebuild()


def apply(show: Show, edit: Edit) -> tuple[Show, Edit]:
    """Make an edit. Returns the new show and the edit that takes it back; the old show stays as it was.

    Raises EditError when the place does not exist or the result would not be a valid show.
    """
    tree = show.model_dump()
    inverse = _change(tree, edit)
    try:
        return Show.model_validate(tree), inverse
    except ValidationError as error:
        first = error.errors()[0]
        where = "/".join(str(step) for step in first["loc"])
        raise EditError(first["msg"].removeprefix("Value error, "), where) from error


def _change(tree: dict, edit: Edit) -> Edit:
    """Change the tree in place; returns the inverse."""
    match edit:
        case SetValue(path=path, value=value):
            holder, key = _find(tree, path)
            before = holder[key]
            holder[key] = value
            return SetValue(path=path, value=before)
        case AddItem(path=path, item=item, index=index):
            holder, key = _find(tree, path)
            if not isinstance(holder[key], list):
                raise EditError("Items can only be added to a list.", path)
            if "id" not in item:
                raise EditError("A new item needs an id.", path)
            holder[key].insert(len(holder[key]) if index is None else index, item)
            return RemoveItem(path=f"{path}/{item['id']}")
        case RemoveItem(path=path):
            items, index = _find_item(tree, path)
            return AddItem(path=path.rsplit("/", 1)[0], item=items.pop(index), index=index)
        case MoveItem(path=path, index=to):
            items, index = _find_item(tree, path)
            items.insert(to, items.pop(index))
            return MoveItem(path=path, index=index)
        case Together(edits=edits):
            return Together(edits=[_change(tree, each) for each in edits][::-1])


def _find(tree: dict, path: str) -> tuple[Any, Any]:
    """The holder (dict or list) and key of the place that a path names."""
    steps = path.strip("/").split("/")
    holder: Any = tree
    for depth, step in enumerate(steps):
        key = _key(holder, step, path)
        if depth == len(steps) - 1:
            return holder, key
        holder = holder[key]
    raise AssertionError("a path has at least one step")


def _find_item(tree: dict, path: str) -> tuple[list, int]:
    holder, key = _find(tree, path)
    if not isinstance(holder, list):
        raise EditError("Only items of a list can be moved or removed.", path)
    return holder, key


def _key(holder: Any, step: str, path: str) -> Any:
    if isinstance(holder, dict) and step in holder:
        return step
    if isinstance(holder, list):
        for index, item in enumerate(holder):
            if isinstance(item, dict) and item.get("id") == step:
                return index
    raise EditError(f"There is no “{step}” here any more; someone may have removed it.", path)

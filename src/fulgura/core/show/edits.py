"""Edits: every change of a show is one of these. Each is validated whole, and knows its way back.

An edit's path names a place in the document, lists by the id of their items:
"/routes/r1/shapers/smooth/values/release". Undo and redo apply the stored inverse or the edit itself.
"""

from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, BeforeValidator, Field, ValidationError

from fulgura.core.show.document import Show
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.part import Strict


class EditError(ValueError):
    """An edit that cannot be made. The message is for the performer; where is the place in the document."""

    def __init__(self, message: str, where: str = "") -> None:
        super().__init__(message)
        self.where = where


def _older_place(path: str) -> str:
    """Steps that were saved before there were several inputs name the only one."""
    return path.replace("/input/", f"/inputs/{MAIN}/", 1) if path.startswith("/input/") else path


DEEPEST = 32
"""How deep values and edits may lie in one another."""


def _plain(value: Any) -> Any:
    """Refuse what no text of a document may hold, and what is nested beyond all sense."""
    left = [(value, 0)]
    while left:
        item, depth = left.pop()
        if depth > DEEPEST:
            raise ValueError("That lies too deep in itself.")
        if isinstance(item, str):
            if "\0" in item or not _is_text(item):
                raise ValueError("A text holds a character that no text can have.")
        elif isinstance(item, dict):
            left += [(part, depth + 1) for pair in item.items() for part in pair]
        elif isinstance(item, list):
            left += [(part, depth + 1) for part in item]
    return value


def _is_text(item: str) -> bool:
    """Whether it has no half of a pair of surrogates."""
    try:
        item.encode()
    except UnicodeEncodeError:
        return False
    return True


def _shallow(edits: Any) -> Any:
    """Refuse edits that lie in one another too deep, before they are looked at one by one."""
    depth, layer = 0, [edits]
    while layer:
        depth += 1
        if depth > DEEPEST:
            raise ValueError("Edits lie too deep in one another.")
        each = [edit for edits in layer if isinstance(edits, list) for edit in edits]
        layer = [
            edit.get("edits") if isinstance(edit, dict) else getattr(edit, "edits", None) for edit in each
        ]
        layer = [edits for edits in layer if edits]
    return edits


DocumentPath = Annotated[str, Field(max_length=400), AfterValidator(_older_place), AfterValidator(_plain)]


class SetValue(Strict):
    """Give the place a new value."""

    edit: Literal["set"] = "set"
    path: DocumentPath
    value: Annotated[Any, AfterValidator(_plain)]


class AddItem(Strict):
    """Put an item into the list at the path, before the item at index (at the end without one)."""

    edit: Literal["add"] = "add"
    path: DocumentPath
    item: Annotated[dict[str, Any], AfterValidator(_plain)]
    index: int | None = Field(None, ge=0)


class RemoveItem(Strict):
    """Take the item at the path out of its list."""

    edit: Literal["remove"] = "remove"
    path: DocumentPath


class MoveItem(Strict):
    """Move the item at the path to another place in its list."""

    edit: Literal["move"] = "move"
    path: DocumentPath
    index: int = Field(ge=0)


class Together(Strict):
    """Several edits that are one step for undo: all are made, or none."""

    edit: Literal["together"] = "together"
    edits: Annotated[list["Edit"], BeforeValidator(_shallow)] = Field(min_length=1, max_length=5000)


Edit = Annotated[SetValue | AddItem | RemoveItem | MoveItem | Together, Field(discriminator="edit")]
Together.model_rebuild()


def apply(show: Show, edit: Edit) -> tuple[Show, Edit]:
    """Make an edit. Returns the new show and the edit that takes it back; the old show stays as it was.

    Only what the edit touches is opened, changed and validated anew: all else in the new show is the very
    same object, by which everyone sees what did not change. Raises EditError when the place does not exist or
    the result would not be a valid show.

    >>> show, back = apply(Show(name="Night"), SetValue(path="/sound_amount", value=0.5))
    >>> show.sound_amount, back.value
    (0.5, 1.0)
    """
    tree = _opened(show)
    inverse = _change(tree, edit)
    try:
        return Show.model_validate(tree), inverse
    except ValidationError as error:
        first = error.errors()[0]
        where = "/".join(str(step) for step in first["loc"])
        raise EditError(first["msg"].removeprefix("Value error, "), where) from error


def changed_paths(edit: Edit) -> list[str]:
    """Paths of what stands differently after an edit: a value, or a whole list of which an item came, went or
    moved.

    >>> changed_paths(RemoveItem(path="/looks/night"))
    ['/looks']
    """
    match edit:
        case SetValue(path=path) | AddItem(path=path):
            return [path]
        case RemoveItem(path=path) | MoveItem(path=path):
            return [path.rpartition("/")[0]]
        case Together(edits=edits):
            found = dict.fromkeys(path for each in edits for path in changed_paths(each))
            # What lies within another place that is told of, or is gone by now, need not be told.
            return [path for path in found if not any(path.startswith(f"{other}/") for other in found)]
    raise AssertionError("every kind of edit stands above")


def value_at(show: Show, path: str) -> Any:
    """What stands at a place of the document, not copied. Raises EditError when there is no such place."""
    item: Any = show
    for step in filter(None, path.split("/")):
        if isinstance(item, list):
            item = next((entry for entry in item if getattr(entry, "id", None) == step), None)
        elif isinstance(item, dict):
            item = item.get(step)
        else:
            item = getattr(item, step, None) if step in getattr(type(item), "model_fields", ()) else None
        if item is None:
            raise EditError(f"There is no “{step}” here any more; someone may have removed it.", path)
    return item


def to_plain(value: Any) -> Any:
    """A part of a document as an edit carries it: dicts, lists and plain values."""
    if isinstance(value, BaseModel):
        return value.model_dump()
    if isinstance(value, list):
        return [to_plain(item) for item in value]
    return {key: to_plain(item) for key, item in value.items()} if isinstance(value, dict) else value


def _opened(value: Any) -> Any:
    """A copy that can be changed, one level deep: a model becomes a dict[str, Any] of its fields."""
    if isinstance(value, BaseModel):
        return {name: getattr(value, name) for name in type(value).model_fields}
    return value.copy() if isinstance(value, list | dict) else value


def _change(tree: dict[str, Any], edit: Edit) -> Edit:
    """Change the opened tree in place; returns the inverse."""
    match edit:
        case SetValue(path=path, value=value):
            holder, key = _find(tree, path)
            before = to_plain(holder[key])
            holder[key] = value
            return SetValue(path=path, value=before)
        case AddItem(path=path, item=item, index=index):
            holder, key = _find(tree, path)
            if not isinstance(holder[key], list):
                raise EditError("Items can only be added to a list.", path)
            if "id" not in item:
                raise EditError("A new item needs an id.", path)
            items = holder[key] = holder[key].copy()
            items.insert(len(items) if index is None else index, item)
            return RemoveItem(path=f"{path}/{item['id']}")
        case RemoveItem(path=path):
            items, index = _find_item(tree, path)
            return AddItem(path=path.rsplit("/", 1)[0], item=to_plain(items.pop(index)), index=index)
        case MoveItem(path=path, index=to):
            items, index = _find_item(tree, path)
            items.insert(to, items.pop(index))
            return MoveItem(path=path, index=index)
        case Together(edits=edits):
            return Together(edits=[_change(tree, each) for each in edits][::-1])


def _find(tree: dict[str, Any], path: str) -> tuple[Any, Any]:
    """The holder (dict[str, Any] or list, opened) and key of the place that a path names."""
    steps = path.strip("/").split("/")
    holder: Any = tree
    for depth, step in enumerate(steps):
        key = _key(holder, step, path)
        if depth == len(steps) - 1:
            return holder, key
        holder[key] = holder = _opened(holder[key])
    raise AssertionError("a path has at least one step")


def _find_item(tree: dict[str, Any], path: str) -> tuple[list[Any], int]:
    holder, key = _find(tree, path)
    if not isinstance(holder, list):
        raise EditError("Only items of a list can be moved or removed.", path)
    return holder, key


def _key(holder: Any, step: str, path: str) -> Any:
    if isinstance(holder, dict) and step in holder:
        return step
    if isinstance(holder, list):
        for index, item in enumerate(holder):
            if (item.get("id") if isinstance(item, dict) else getattr(item, "id", None)) == step:
                return index
    raise EditError(f"There is no “{step}” here any more; someone may have removed it.", path)

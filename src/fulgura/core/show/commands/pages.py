"""Pages of pads and faders are made, and filled."""

from fulgura.core.kinds.action import Action
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.mappings import number_path, span_of
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.surface import FADERS, MOST_ACTIONS, MOST_PAGES, PADS, Fader, Pad, PadPage


def page_of(show: Show, page: str) -> PadPage:
    """Raises EditError for a page that is gone."""
    found = next((other for other in show.pages if other.id == page), None)
    if found is None:
        raise EditError("That page of pads is not there any more.", "/pages")
    return found


def new_page(show: Show, name: str = "") -> tuple[Edit, str]:
    """(the edit that adds an empty page, its id). Raises EditError."""
    if len(show.pages) == MOST_PAGES:
        raise EditError(f"A show has at most {MOST_PAGES} pages.", "/pages")
    id = free_id([page.id for page in show.pages], "page-")
    return AddItem(path="/pages", item={"id": id, "name": name.strip() or f"Page {len(show.pages) + 1}"}), id


def new_pad(show: Show, page: str, at: int, kind: str, values: dict[str, object]) -> tuple[Edit, str]:
    """(the edit that puts a pad with one action into a place of a page, in place of what is there, its id).

    Raises EditError when there is no such place or no such action.
    """
    found = page_of(show, page)
    if not 0 <= at < PADS:
        raise EditError(f"A page has {PADS} pads.", f"/pages/{page}/pads")
    usual = _action(kind).usual
    edits: list[Edit] = [
        RemoveItem(path=f"/pages/{page}/pads/{pad.id}") for pad in found.pads if pad.at == at
    ]
    id = free_id([pad.id for each in show.pages for pad in each.pads], "pad-")
    action = {"id": f"{id}-1", "family": "action", "kind": kind, "values": values}
    item = {"id": id, "at": at, "mode": usual, "actions": [action]}
    return Together(edits=[*edits, AddItem(path=f"/pages/{page}/pads", item=item)]), id


def _action(kind: str) -> type[Action]:
    if kind not in Action.kinds:
        raise EditError(f"There is no action called “{kind}”.", "/pages")
    return Action.kinds[kind]


def pad_path(show: Show, pad: str) -> tuple[str, Pad]:
    """(where a pad stands in the document, the pad). Raises EditError for one that is gone."""
    for page in show.pages:
        for each in page.pads:
            if each.id == pad:
                return f"/pages/{page.id}/pads/{pad}", each
    raise EditError("That pad is not there any more.", "/pages")


def add_action(show: Show, pad: str, kind: str, values: dict[str, object]) -> Edit:
    """The edit that lets a pad do one thing more. Raises EditError."""
    path, found = pad_path(show, pad)
    _action(kind)
    if len(found.actions) == MOST_ACTIONS:
        raise EditError(f"A pad does at most {MOST_ACTIONS} things.", path)
    id = free_id([action.id for action in found.actions], f"{pad}-")
    return AddItem(
        path=f"{path}/actions", item={"id": id, "family": "action", "kind": kind, "values": values}
    )


def change_action(show: Show, pad: str, action: str, kind: str) -> Edit:
    """The edit that lets an action of a pad be another one. The only one of a pad brings the way in which it
    is usually played. Raises EditError.
    """
    path, found = pad_path(show, pad)
    usual = _action(kind).usual
    if action not in [each.id for each in found.actions]:
        raise EditError("That action is not there any more.", path)
    edits: list[Edit] = [
        SetValue(
            path=f"{path}/actions/{action}",
            value={"id": action, "family": "action", "kind": kind, "values": {}},
        )
    ]
    if len(found.actions) == 1:
        edits.append(SetValue(path=f"{path}/mode", value=usual))
    return Together(edits=edits)


def move_pad(show: Show, pad: str, to: int) -> Edit:
    """The edit that moves a pad to another place of its page; what is there goes where it was. Raises
    EditError.
    """
    path, found = pad_path(show, pad)
    page = path.split("/")[2]
    if not 0 <= to < PADS:
        raise EditError(f"A page has {PADS} pads.", path)
    other = next((each for each in page_of(show, page).pads if each.at == to and each.id != pad), None)
    edits: list[Edit] = [SetValue(path=f"{path}/at", value=to)]
    if other is not None:
        edits.append(SetValue(path=f"/pages/{page}/pads/{other.id}/at", value=found.at))
    return Together(edits=edits)


def new_fader(show: Show, page: str, at: int, target: str) -> tuple[Edit, str]:
    """(the edit that lets the fader in a place of a page move a number of the document over its whole range,
    beside what it moves already; its id). Raises EditError for what is no number with a range.
    """
    target = number_path(show, target)
    low, high = span_of(show, target)
    found = page_of(show, page)
    if not 0 <= at < FADERS:
        raise EditError(f"A page has {FADERS} faders.", f"/pages/{page}/faders")
    reach = {"target": target, "low": low, "high": high}
    there = next((fader for fader in found.faders if fader.at == at), None)
    if there is not None:
        return _and_move(page, there, reach), there.id
    id = free_id([fader.id for each in show.pages for fader in each.faders], "fader-")
    return AddItem(path=f"/pages/{page}/faders", item={"id": id, "at": at, "moves": [reach]}), id


def _and_move(page: str, fader: Fader, reach: dict[str, object]) -> Edit:
    if len(fader.moves) == MOST_ACTIONS:
        raise EditError(f"A fader moves at most {MOST_ACTIONS} numbers.", f"/pages/{page}/faders")
    if reach["target"] in {move.target for move in fader.moves}:
        raise EditError("This fader moves that already.", f"/pages/{page}/faders")
    moves = [*(move.model_dump() for move in fader.moves), reach]
    return SetValue(path=f"/pages/{page}/faders/{fader.id}/moves", value=moves)

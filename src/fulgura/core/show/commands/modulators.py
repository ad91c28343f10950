"""Modulators are made."""

from fulgura.core.kinds.modulator import Mover
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, EditError


def new_mover(show: Show, kind: str, name: str = "") -> tuple[AddItem, str]:
    """(the edit that adds a mover, its id); without a name it is numbered. Raises EditError for an unknown
    kind.
    """
    if kind not in Mover.kinds:
        raise EditError(f"There is no mover called “{kind}”.", "/movers")
    mover = free_id([one.id for one in show.movers], "m")
    title = Mover.kinds[kind].title or Mover.kinds[kind].__name__
    item = {
        "id": mover,
        "name": name or f"{title} {mover.removeprefix('m')}",
        "part": {"id": f"mover-{mover}", "kind": kind},
    }
    return AddItem(path="/movers", item=item), mover

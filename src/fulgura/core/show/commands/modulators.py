"""Modulators are made."""

from fulgura.core.kinds.modulator import Modulator
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, EditError
from fulgura.core.show.numbered import numbered


def new_modulator(show: Show, kind: str, name: str = "") -> tuple[AddItem, str]:
    """(the edit that adds a modulator, its id); without a name it is numbered. Raises EditError for an
    unknown kind.
    """
    if kind not in Modulator.kinds:
        raise EditError(f"There is no modulator called “{kind}”.", "/modulators")
    modulator = free_id([modulator.id for modulator in show.modulators], "m")
    title = Modulator.kinds[kind].title or Modulator.kinds[kind].__name__
    item = {
        "id": modulator,
        "name": name or numbered(title, [other.name for other in show.modulators]),
        "part": {"id": f"modulator-{modulator}", "kind": kind},
    }
    return AddItem(path="/modulators", item=item), modulator

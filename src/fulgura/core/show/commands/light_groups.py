"""Groups of lamps, and chases over them."""

from collections.abc import Sequence
from typing import Any

from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.lamps import lamps_of
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.lights import Chase, Group


def group_of(show: Show, id: str) -> Group:
    """Raises EditError for a group that is gone."""
    found = next((group for group in show.groups if group.id == id), None)
    if found is None:
        raise EditError("That group is not there any more.", "/groups")
    return found


def chase_of(show: Show, id: str) -> Chase:
    """Raises EditError for a chase that is gone."""
    found = next((chase for chase in show.chases if chase.id == id), None)
    if found is None:
        raise EditError("That chase is not there any more.", "/chases")
    return found


def new_group(show: Show, ids: Sequence[str], name: str = "") -> tuple[Edit, str]:
    """(the edit that makes these lamps a group, in this order; its id). Raises EditError."""
    lamps_of(show, ids)
    taken = [part.id for part in show.parts()] + [group.id for group in show.groups]
    id = free_id(taken, "group-")
    item = {"id": id, "name": name.strip() or f"Group {id.rpartition('-')[2]}", "members": list(ids)}
    return AddItem(path="/groups", item=item), id


def without_group(show: Show, id: str) -> Edit:
    """The edit that takes a group away; its lamps stay, its chases stop running on it. Raises EditError."""
    group_of(show, id)
    edits: list[Edit] = [
        RemoveItem(path=f"/chases/{chase.id}/runs/{run.id}")
        for chase in show.chases
        for run in chase.runs
        if run.group == id
    ]
    return Together(edits=[*edits, RemoveItem(path=f"/groups/{id}")])


def _run(show: Show, chase: str, group: str, taken: list[str]) -> dict[str, Any]:
    part = free_id(taken, f"{chase}-run-")
    taken.append(part)
    return {"id": part, "group": group, "part": {"id": part, "family": "chase-run", "kind": "chase-run"}}


def new_chase(
    show: Show, groups: Sequence[str], name: str = "", values: dict[str, Any] | None = None
) -> tuple[Edit, str]:
    """(the edit that makes a chase over these groups; its id). Raises EditError."""
    for group in groups:
        group_of(show, group)
    taken = [part.id for part in show.parts()] + [chase.id for chase in show.chases]
    id = free_id(taken, "chase-")
    taken.append(id)
    item = {
        "id": id,
        "name": name.strip() or f"Chase {id.rpartition('-')[2]}",
        "part": {"id": id, "family": "chase", "kind": "chase", "values": values or {}},
        "runs": [_run(show, id, group, taken) for group in groups],
    }
    return AddItem(path="/chases", item=item), id


def run_on(show: Show, chase: str, group: str) -> Edit:
    """The edit that lets a chase run on one more group. Raises EditError."""
    found = chase_of(show, chase)
    group_of(show, group)
    if any(run.group == group for run in found.runs):
        raise EditError(f"“{found.name}” runs on that group already.", f"/chases/{chase}")
    taken = [part.id for part in show.parts()]
    return AddItem(path=f"/chases/{chase}/runs", item=_run(show, chase, group, taken))


def copy_chase(show: Show, chase: str, group: str, name: str = "") -> tuple[Edit, str]:
    """(the edit that copies a chase onto another group instead of its own, with all that it is set to; its
    id). Raises EditError.
    """
    old = chase_of(show, chase)
    to = group_of(show, group)
    edit, id = new_chase(show, [group], name or f"{old.name}, {to.name}", dict(old.part.values))
    assert isinstance(edit, AddItem)
    edit.item["colours"] = [laid.model_dump() for laid in old.colours]
    if old.runs:
        edit.item["runs"][0]["part"]["values"] = {**old.runs[0].part.values, "running": False}
    return edit, id


def start_chase(show: Show, chase: str, running: bool, group: str = "") -> Edit:
    """The edit that starts or stops a chase, on one of its groups or on all. Raises EditError when it has
    none.
    """
    runs = [run for run in chase_of(show, chase).runs if group in ("", run.group)]
    if not runs:
        raise EditError("This chase runs on no group yet: drag it onto one.", f"/chases/{chase}")
    return Together(
        edits=[
            SetValue(path=f"/chases/{chase}/runs/{run.id}/part/values/running", value=running) for run in runs
        ]
    )

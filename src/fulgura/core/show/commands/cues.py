"""Cues are kept and recalled."""

from typing import Any

from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.palettes import recall
from fulgura.core.show.document import MOST_CUES, Show
from fulgura.core.show.edits import AddItem, Edit, EditError, SetValue, Together
from fulgura.core.show.looks import Cue


def new_cue(show: Show, over_beats: float, name: str = "") -> tuple[AddItem, str]:
    """(the edit that keeps the shown look and the light as a cue, after the one that was recalled last; its
    id); without a name it is numbered.

    Raises EditError when no look is shown, or there are as many cues as there can be.
    """
    if not show.look:
        raise EditError("A cue goes to a look, and this show has none yet. Make a look first.", "/cues")
    if len(show.cues) == MOST_CUES:
        raise EditError(f"A show has at most {MOST_CUES} cues. Take one away first.", "/cues")
    ids = [cue.id for cue in show.cues]
    cue = free_id(ids, "cue-")
    return (
        AddItem(
            path="/cues",
            item={
                "id": cue,
                "name": name or f"Cue {cue.removeprefix('cue-')}",
                "look": show.look,
                "over_beats": over_beats,
                **_kept_light(show),
            },
            index=ids.index(show.cue) + 1 if show.cue in ids else None,
        ),
        cue,
    )


def recall_cue(show: Show, cue: str) -> tuple[Together, Cue]:
    """(the edit that recalls a cue, the cue); an empty id means the one after that which was recalled last.

    Raises EditError when it is gone, or none comes after.
    """
    ids = [cue.id for cue in show.cues]
    index = ids.index(cue) if cue in ids else None
    if not cue:
        index = ids.index(show.cue) + 1 if show.cue in ids else 0
    if index is None or index >= len(ids):
        text = "That was the last cue." if ids else "There are no cues yet: keep the shown look as one."
        raise EditError("That cue is not there any more." if cue else text, f"/cues/{cue}")
    found = show.cues[index]
    first: list[Edit] = [SetValue(path="/cue", value=found.id), SetValue(path="/look", value=found.look)]
    return Together(edits=[*first, *_light(show, found)]), found


def _kept_light(show: Show) -> dict[str, Any]:
    """The light as it is now: palettes that whole groups, or else single lamps, follow, and chases that run.
    Empty for a show without palettes and chases.
    """
    lamps = {lamp.id: lamp for lamp in show.lamps}
    kept: list[dict[str, str]] = []
    told: set[tuple[str, str]] = set()
    for group in show.groups:
        members = show.members(group)
        shared = set.intersection(*(set(lamp.uses.values()) for lamp in members)) if members else set()
        for used in sorted(shared):
            kept.append({"palette": used, "group": group.id})
            told |= {(used, lamp.id) for lamp in members}
    for palette in show.palettes:
        own = [id for id in palette.lamps if id in lamps and palette.id in lamps[id].uses.values()]
        if own and any((palette.id, id) not in told for id in own):
            kept.append({"palette": palette.id, "group": ""})
    running = [chase.id for chase in show.chases if any(run.part.values["running"] for run in chase.runs)]
    return {"palettes": kept, "chases": running if show.chases else None}


def _light(show: Show, cue: Cue) -> list[Edit]:
    """What a cue changes of the light; a palette, group or chase that is gone is passed over."""
    edits: list[Edit] = []
    members = {group.id: [lamp.id for lamp in show.members(group)] for group in show.groups}
    for wanted in cue.palettes:
        onto = members.get(wanted.group, []) if wanted.group else []
        if wanted.group and not onto:
            continue
        try:
            edits.append(recall(show, wanted.palette, onto)[0])
        except EditError:
            continue
    for chase in show.chases if cue.chases is not None else []:
        for run in chase.runs:
            running = chase.id in (cue.chases or [])
            path = f"/chases/{chase.id}/runs/{run.id}/part/values/running"
            if run.part.values["running"] != running:
                edits.append(SetValue(path=path, value=running))
    return edits

"""Cues are kept and recalled."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any

from fulgura.core.show.commands import palettes, presets
from fulgura.core.show.commands.addresses import fits, parameter_at, value_path
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.songs import begin_song
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, SetValue, Together, apply
from fulgura.core.show.night import MOST_CUES, Cue, CuePalette, CueValue, Duration
from fulgura.core.show.route_sets import routes_of


@dataclass
class Recalled:
    """What recalling a cue does. edit: all of it, in one step; over: how long which parameters take, by their
    address; gone: what it meant and is not there any more, in words.
    """

    cue: Cue
    edit: Together
    over: dict[str, Duration] = field(default_factory=dict)
    gone: list[str] = field(default_factory=list)


def new_cue(show: Show, over: Duration, name: str = "", since: Show | None = None) -> tuple[AddItem, str]:
    """(the edit that keeps the shown look and the light as a cue, after the one that was recalled last; its
    id); without a name it is numbered. since: keep only what is not as it was then.

    Raises EditError when nothing is there to keep, or there are as many cues as there can be.
    """
    if not show.look:
        raise EditError("A cue goes to a look, and this show has none yet. Make a look first.", "/cues")
    if len(show.cues) == MOST_CUES:
        raise EditError(f"A show has at most {MOST_CUES} cues. Take one away first.", "/cues")
    ids = [cue.id for cue in show.cues]
    cue = free_id(ids, "cue-")
    kept = {"look": show.look, **_kept_light(show)} if since is None else changed_since(show, since)
    if not kept:
        raise EditError("Nothing has changed since the last cue, so there is nothing to keep.", "/cues")
    item = {
        "id": cue,
        "name": name or f"Cue {cue.removeprefix('cue-')}",
        "over": over.model_dump(),
        "song": show.song,
        **kept,
    }
    return AddItem(path="/cues", item=item, index=ids.index(show.cue) + 1 if show.cue in ids else None), cue


def neighbour(show: Show, step: int) -> Cue:
    """The cue so many steps from the one that was recalled last; before the first, the first. Raises
    EditError at either end.
    """
    ids = [cue.id for cue in show.cues]
    if not ids:
        raise EditError("There are no cues yet: keep the shown look as one.", "/cues/")
    at = ids.index(show.cue) + step if show.cue in ids else 0
    if not 0 <= at < len(ids):
        raise EditError("That was the last cue." if step > 0 else "That was the first cue.", "/cues/")
    return show.cues[at]


def find_cue(show: Show, cue: str) -> Cue:
    """A cue by its id; an empty one means that after the one that was recalled last. Raises EditError."""
    if not cue:
        return neighbour(show, 1)
    found = next((other for other in show.cues if other.id == cue), None)
    if found is None:
        raise EditError("That cue is not there any more.", f"/cues/{cue}")
    return found


def recall_cue(show: Show, cue: str) -> Recalled:
    """What recalling a cue does; an empty id means the one after that which was recalled last. What it meant
    and is gone is left out, and told.

    Raises EditError when the cue is gone, or none comes after.
    """
    found = find_cue(show, cue)
    course = _Course(show, found)
    course.add([SetValue(path="/cue", value=found.id)])
    if found.look:
        course.needs(found.look in {look.id for look in show.looks}, "its look", "/look", found.look)
    for preset in found.presets:
        course.preset(preset)
    for wanted in found.palettes:
        course.palette(wanted)
    if found.palette:
        there = found.palette in {palette.id for palette in show.palettes}
        course.needs(there, "its palette", "/palette", found.palette)
    course.add(_chases(show, found))
    for value in found.values:
        course.value(value)
    for some in found.routes:
        meant = routes_of(course.now, some.routes)
        course.needs(bool(meant), "routes that it switches")
        course.add(
            SetValue(path=f"/routes/{route.id}/muted", value=not some.act)
            for route in meant
            if route.muted == some.act
        )
    if found.bpm is not None:
        course.add([SetValue(path="/tempo/mode", value="held"), SetValue(path="/tempo/bpm", value=found.bpm)])
    if found.blackout is not None:
        course.add([SetValue(path="/blackout", value=found.blackout)])
    if found.plays:
        course.attempt(lambda: Together(edits=begin_song(show, found.plays)), "the song that it plays")
    return Recalled(found, Together(edits=course.edits), course.over, course.gone)


class _Course:
    """The edits of a cue, one after the other. now: the show with its presets recalled, for these bring
    routes.
    """

    def __init__(self, show: Show, cue: Cue) -> None:
        self.now, self.cue = show, cue
        self.edits: list[Edit] = []
        self.over: dict[str, Duration] = {}
        self.gone: list[str] = []

    def add(self, edits: Iterable[Edit]) -> None:
        self.edits += edits

    def lost(self, what: str) -> None:
        if f"{what} is gone" not in self.gone:
            self.gone.append(f"{what} is gone")

    def needs(self, there: bool, what: str, path: str = "", value: Any = None) -> None:
        """Set a value where what it names is there."""
        if not there:
            self.lost(what)
        elif path:
            self.add([SetValue(path=path, value=value)])

    def attempt(self, make: Callable[[], Edit], what: str) -> Edit | None:
        """Add what can be made; what cannot is told."""
        try:
            edit = make()
        except EditError:
            self.lost(what)
            return None
        self.add([edit])
        return edit

    def preset(self, id: str) -> None:
        edit = self.attempt(lambda: presets.recall(self.now, presets.find(self.now, id)), "a preset")
        if edit is not None:
            self.now, _ = apply(self.now, edit)

    def palette(self, wanted: CuePalette) -> None:
        groups = {group.id: group for group in self.now.groups}
        onto = [lamp.id for lamp in self.now.members(groups[wanted.group])] if wanted.group in groups else []
        if wanted.group and not onto:
            self.lost("a group of lamps")
            return
        edit = self.attempt(lambda: palettes.recall(self.now, wanted.palette, onto)[0], "a palette")
        if edit is not None:
            self.glide(edit)

    def glide(self, edit: Edit) -> None:
        """What of lamps changes takes as long as the cue does."""
        for each in edit.edits if isinstance(edit, Together) else [edit]:
            steps = getattr(each, "path", "").split("/")
            if isinstance(each, SetValue) and steps[-2:-1] == ["values"]:
                lamp = next((lamp for lamp in self.now.lamps if lamp.id == steps[2]), None)
                if lamp is not None:
                    self.over[f"{lamp.fixture.id}.{steps[-1]}"] = self.cue.over

    def value(self, wanted: CueValue) -> None:
        path = value_path(self.now, wanted.target)
        if not path:
            self.lost("a value that it sets")
            return
        if not fits(parameter_at(self.now, wanted.target), wanted.value):
            self.lost("a value that it sets")
            return
        self.add([SetValue(path=path, value=wanted.value)])
        self.over[wanted.target] = wanted.over


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
    return {"palettes": kept, "chases": _running(show) if show.chases else None}


def _running(show: Show) -> list[str]:
    return [chase.id for chase in show.chases if any(run.part.values["running"] for run in chase.runs)]


def changed_since(show: Show, since: Show) -> dict[str, Any]:
    """The fields of a cue that holds only what is not as it was then; empty when all is."""
    kept: dict[str, Any] = {}
    if show.look != since.look:
        kept["look"] = show.look
    if show.blackout != since.blackout:
        kept["blackout"] = show.blackout
    if show.song != since.song and show.song:
        kept["plays"] = show.song
    if show.tempo.mode == "held" and (show.tempo.mode, show.tempo.bpm) != (since.tempo.mode, since.tempo.bpm):
        kept["bpm"] = show.tempo.bpm
    if _running(show) != _running(since):
        kept["chases"] = _running(show)
    running = {f"{run.part.id}.running" for chase in show.chases for run in chase.runs}
    before = {part.id: part for part in since.parts()}
    values = [
        {"target": f"{part.id}.{name}", "value": value, "over": Duration().model_dump()}
        for part in show.parts()
        if part.id in before and before[part.id] is not part
        for name, value in part.values.items()
        if f"{part.id}.{name}" not in running and before[part.id].values.get(name) != value
    ]
    if values:
        kept["values"] = values
    muted = {route.id: route.muted for route in since.routes}
    switched = [route for route in show.routes if muted.get(route.id, route.muted) != route.muted]
    if switched:
        targets = [(f"part {route.targets[0].partition('.')[0]}", not route.muted) for route in switched]
        kept["routes"] = [{"routes": routes, "act": act} for routes, act in dict.fromkeys(targets)]
    return kept


def _chases(show: Show, cue: Cue) -> list[Edit]:
    """Which chases run from then on; those that are gone are passed over."""
    edits: list[Edit] = []
    for chase in show.chases if cue.chases is not None else []:
        for run in chase.runs:
            running = chase.id in (cue.chases or [])
            path = f"/chases/{chase.id}/runs/{run.id}/part/values/running"
            if run.part.values["running"] != running:
                edits.append(SetValue(path=path, value=running))
    return edits

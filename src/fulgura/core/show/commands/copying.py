"""What was copied is pasted: with ids of its own, and all that moves it."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any

from fulgura.core.kinds.registry import FAMILIES
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.show.clipping import Clipped, Clipping
from fulgura.core.show.commands.addresses import parameter_at
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, SetValue, Together, value_at
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.looks import MOST_LAYERS
from fulgura.core.show.numbered import numbered
from fulgura.core.show.routes import MOST_TARGETS, Route
from fulgura.core.show.settings import MARK
from fulgura.core.show.signals import signals


@dataclass
class Pasted:
    """What pasting makes. made: paths of the things; left: what could not be brought along, in words."""

    edit: Edit
    made: list[str]
    left: list[str]


@dataclass
class Fresh:
    """Ids that are not taken, and which old one became which."""

    show: Show
    parts: dict[str, str] = field(default_factory=dict)
    layers: dict[str, str] = field(default_factory=dict)
    routes: dict[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        show = self.show
        self._taken = {
            "part": {part.id for part in show.parts()} | {group.id for group in show.groups},
            "layer": {layer.id for look in show.looks for layer in look.layers},
            "route": {route.id for route in show.routes},
        }

    def id(self, what: str, stem: str) -> str:
        """The next id of a stem that nothing of its sort has."""
        taken = self._taken[what]
        id = free_id(sorted(taken), stem)
        taken.add(id)
        return id

    def part(self, part: dict[str, Any]) -> None:
        """Give a part an id of its own."""
        self.parts[part["id"]] = part["id"] = self.id("part", f"{part['kind']}-")

    def target(self, target: str) -> str | None:
        """An address as it is in the copy; None for what was not copied."""
        part, dot, name = target.partition(".")
        if part in self.parts:
            return f"{self.parts[part]}{dot}{name}"
        what, *rest = part.split(MARK)
        if what in ("route", "step") and rest and rest[0] in self.routes:
            return f"{MARK.join([what, self.routes[rest[0]], *rest[1:]])}{dot}{name}"
        return None


class Paste:
    """Collects the edits of one paste. where: path that it goes to, empty for where it came from."""

    def __init__(self, show: Show, clipping: Clipping, where: str) -> None:
        self.show, self.clipping, self.where = show, clipping, where
        self.fresh = Fresh(show)
        self.edits: list[Edit] = []
        self.made: list[str] = []
        self.left: list[str] = []
        self._names: dict[str, list[str]] = {}

    def run(self) -> Pasted:
        """Raises EditError when there is no place for it."""
        by_kind: dict[str, Callable[[list[Clipped]], None]] = {
            "band": self._bands,
            "layer": self._layers,
            "effect": self._effects,
            "group": self._groups,
            "chase": self._chases,
            "route": self._routes,
            "cue": self._cues,
        }
        for what, paste in by_kind.items():
            things = [thing for thing in self.clipping.things if thing.what == what]
            if things:
                paste(things)
        for route in self.clipping.routes:
            self._route(route)
        return Pasted(Together(edits=self.edits), self.made, self.left)

    def _add(self, path: str, item: dict[str, Any], index: int | None = None) -> None:
        self.edits.append(AddItem(path=path, item=item, index=index))
        self.made.append(f"{path}/{item['id']}")

    def _name(self, path: str, name: str, taken: Iterable[str]) -> str:
        names = self._names.setdefault(path, list(taken))
        names.append(numbered(name, names))
        return names[-1]

    # -- pictures -------------------------------------------------------------------------------------------

    def _layers(self, things: list[Clipped]) -> None:
        base = self.where.partition("/layers/")[0] if "/looks/" in self.where else f"/looks/{self.show.look}"
        look = value_at(self.show, base)
        if len(look.layers) + len(things) > MOST_LAYERS:
            raise EditError(f"A look has at most {MOST_LAYERS} layers. Remove some first.", f"{base}/layers")
        for thing in things:
            self.fresh.layers[thing.item["id"]] = self.fresh.id("layer", "layer-")
        # Above the ones that it was copied from, or on top.
        there = [layer.id for layer in look.layers]
        above = [there.index(thing.item["id"]) for thing in things if thing.item["id"] in there]
        index = max(above) + 1 if above and len(above) == len(things) else len(there)
        for number, thing in enumerate(things):
            item = thing.item
            for part in (item["source"], item["mix"], *item.get("effects", [])):
                self.fresh.part(part)
                self._references(part, {layer.id for layer in look.layers})
            inside = item.get("inside", "")
            kept = inside if inside in there else ""
            name = self._name(base, item["name"], [layer.name for layer in look.layers])
            item |= {
                "id": self.fresh.layers[item["id"]],
                "inside": self.fresh.layers.get(inside, kept),
                "name": name,
            }
            self._add(f"{base}/layers", item, index + number)

    def _references(self, part: dict[str, Any], layers: set[str]) -> None:
        """Lead what a part refers to on to what it is here; what is not here is left out, and said."""
        kind = FAMILIES[part["family"]].kinds[part["kind"]]
        there = {
            "picture": {picture.id for picture in self.show.pictures},
            "clip": {clip.id for clip in self.show.clips},
            "signal": {signal.id for signal in signals(self.show)},
        }
        for parameter in kind.parameters_of(part["values"]):
            value = part["values"].get(parameter.name)
            if not value or not isinstance(value, str):
                continue
            if parameter.type == "layer":
                part["values"][parameter.name] = self.fresh.layers.get(
                    value, value if value in layers else ""
                )
            elif parameter.type in there and value not in there[parameter.type]:
                part["values"][parameter.name] = ""
                self.left.append(f"the {parameter.type} that {kind.title or kind.__name__} used is not here")

    def _effects(self, things: list[Clipped]) -> None:
        for thing in things:
            holder = self._holder(thing)
            effects = value_at(self.show, holder)
            if not isinstance(effects, list):
                raise EditError("There is no place for an effect.", holder)
            was = thing.item["id"]
            at = next((i + 1 for i, part in enumerate(effects) if part.id == was), None)
            self.fresh.part(thing.item)
            look = value_at(self.show, "/".join(holder.split("/")[:3]))
            self._references(thing.item, {layer.id for layer in look.layers})
            self._add(holder, thing.item, at)

    def _holder(self, thing: Clipped) -> str:
        """The list of effects that one goes to: of the layer, or of the look, that is meant."""
        match self.where.strip("/").split("/"):
            case ["looks", _]:
                return f"{self.where}/finish"
            case ["looks", _, "layers", _]:
                return f"{self.where}/effects"
            case [""]:
                return thing.path.rpartition("/")[0]
        return self.where

    # -- what listens, lamps, the night ---------------------------------------------------------------------

    def _bands(self, things: list[Clipped]) -> None:
        inputs = {given.id for given in self.show.inputs}
        taken = [band.id for band in self.show.bands]
        hits = {hit.band: hit for hit in self.clipping.hits}
        for thing in things:
            item, was = thing.item, thing.item["id"]
            id = free_id(taken, "band-")
            taken.append(id)
            if item.get("input", MAIN) not in inputs:
                item["input"] = MAIN
                self.left.append(f"the input of {item['name']} is not here: it listens to the main one")
            name = self._name("/bands", item["name"], [band.name for band in self.show.bands])
            self.fresh.parts[f"band@{was}"] = f"band@{id}"
            self._add("/bands", item | {"id": id, "name": name})
            if was in hits:
                hit = hits[was].model_dump() | {"id": f"{id}-hits", "band": id, "input": item["input"]}
                self.edits.append(AddItem(path="/hits", item=hit))

    def _groups(self, things: list[Clipped]) -> None:
        lamps = {lamp.id for lamp in self.show.lamps}
        for thing in things:
            item, was = thing.item, thing.item["id"]
            id = self.fresh.id("part", "group-")
            gone = [lamp for lamp in item["members"] if lamp not in lamps]
            if gone:
                self.left.append(
                    f"{len(gone)} of {len(item['members'])} lamps of {item['name']} are not here"
                )
            self.fresh.parts[was] = id
            name = self._name("/groups", item["name"], [group.name for group in self.show.groups])
            item |= {"id": id, "name": name, "members": [lamp for lamp in item["members"] if lamp in lamps]}
            item["part"]["id"] = id
            self._add("/groups", item)

    def _chases(self, things: list[Clipped]) -> None:
        groups = {group.id for group in self.show.groups}
        for thing in things:
            item, was = thing.item, thing.item["id"]
            id = self.fresh.id("part", "chase-")
            self.fresh.parts[was] = id
            item |= {
                "id": id,
                "name": self._name("/chases", item["name"], [chase.name for chase in self.show.chases]),
            }
            item["part"]["id"] = id
            runs = []
            for run in item["runs"]:
                group = self.fresh.parts.get(run["group"], run["group"])
                if group not in groups and group not in self.fresh.parts.values():
                    self.left.append(f"a group that {item['name']} ran on is not here")
                    continue
                own = self.fresh.id("part", f"{id}-run-")
                self.fresh.parts[run["part"]["id"]] = own
                run["part"]["values"]["running"] = False
                runs.append(run | {"id": own, "group": group, "part": run["part"] | {"id": own}})
            item["runs"] = runs
            self._add("/chases", item)

    def _cues(self, things: list[Clipped]) -> None:
        there = [cue.id for cue in self.show.cues]
        looks = {look.id for look in self.show.looks}
        for thing in things:
            item, was = thing.item, thing.item["id"]
            at = there.index(was) + 1 if was in there else None
            id = free_id(there, "cue-")
            there.insert(len(there) if at is None else at, id)
            if item.get("look") and item["look"] not in looks:
                item["look"] = ""
                self.left.append(f"the look of the cue {item['name']} is not here")
            name = self._name("/cues", item["name"], [cue.name for cue in self.show.cues])
            self._add("/cues", item | {"id": id, "name": name}, at)

    # -- what moves them ------------------------------------------------------------------------------------

    def _routes(self, things: list[Clipped]) -> None:
        for thing in things:
            item = thing.item
            targets = [self.fresh.target(target) or target for target in item["targets"]]
            new = set(self.fresh.parts.values())
            kept = [target for target in targets if self._there(target) or target.partition(".")[0] in new]
            if not self._hears(item["signal"]):
                continue
            if not kept:
                self.left.append("nothing that a route moved is here")
                continue
            id = self.fresh.id("route", "r")
            self.fresh.routes[item["id"]] = id
            self._add("/routes", self._heeding(item) | {"id": id, "targets": kept, "solo": False})

    def _there(self, target: str) -> bool:
        """Whether a parameter, or one of a group's, is in the show."""
        groups = {group.id for group in self.show.groups}
        return parameter_at(self.show, target) is not None or target.partition(".")[0] in groups

    def _hears(self, signal: str) -> bool:
        if any(signal == info.id for info in signals(self.show)) or signal in self._new_signals():
            return True
        name = self.clipping.names.get(signal, signal)
        self.left.append(f"nothing here is called “{name}”: what it moved rests")
        return False

    def _new_signals(self) -> set[str]:
        return {f"band-{id.partition(MARK)[2]}" for id in self.fresh.parts.values() if id.startswith("band@")}

    def _heeding(self, item: dict[str, Any]) -> dict[str, Any]:
        """A route's item whose shapers look at no signal that is not there."""
        there = {signal.id for signal in signals(self.show)}
        for shaper in item["shapers"]:
            for parameter in Shaper.kinds[shaper["kind"]].parameters():
                value = shaper["values"].get(parameter.name)
                if parameter.type == "signal" and value and value not in there:
                    shaper["values"][parameter.name] = ""
        return item

    def _route(self, route: Route) -> None:
        """One that moves what was copied: beside the first's, or, where its targets take turns here, the same
        with more of them.
        """
        targets = [to for target in route.targets if (to := self.fresh.target(target)) is not None]
        if not targets:
            return
        here = self._takes_turns_here(route, targets)
        if here is not None:
            path = f"/routes/{here.id}/targets"
            self.edits.append(SetValue(path=path, value=[*here.targets, *targets]))
            return
        if self._hears(route.signal):
            id = self.fresh.id("route", "r")
            self.fresh.routes[route.id] = id
            item = self._heeding(route.model_dump())
            self.edits.append(
                AddItem(path="/routes", item=item | {"id": id, "targets": targets, "solo": False})
            )

    def _takes_turns_here(self, route: Route, more: list[str]) -> Route | None:
        """The route itself, where it stands in this show and its targets take turns."""
        found = next((other for other in self.show.routes if other.id == route.id), None)
        if found is None or found.targets != route.targets or len(found.targets) + len(more) > MOST_TARGETS:
            return None
        turns = any(part.on and Shaper.kinds[part.kind].lanes == "turns" for part in found.shapers)
        return found if turns else None


def paste(show: Show, clipping: Clipping, where: str = "") -> Pasted:
    """The edit that pastes what was copied, as one step for undo.

    where: path of a look, a layer or a list of effects that it goes to; empty: beside what it was copied
    from, or into the look that is shown. Raises EditError when there is no place for it.
    """
    found = Paste(show, clipping.model_copy(deep=True), where).run()
    if not found.made:
        raise EditError("Nothing of it has a place here: " + "; ".join(found.left) + ".")
    return found

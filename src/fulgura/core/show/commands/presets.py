"""Presets: values and routes that are kept, recalled, updated and carried over to other places of the same
kind.

A place is a parameter ("ring.radius"), a part (a source, an effect, a lamp's fixture, a modulator), a layer,
or a look. Every change is an edit, so that it is one step for undo.
"""

from typing import Any

from fulgura.core.kinds.parameters import Parameter
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.names import all_names
from fulgura.core.show.numbered import numbered
from fulgura.core.show.part import LONGEST_NAME, Part
from fulgura.core.show.routes import Preset, Scope
from fulgura.core.show.settings import Setting, place_of, setting_of
from fulgura.core.show.signals import signals

HAND_ONLY = "hand"
"""Id of the preset that every place has: the hand values as they are, and nothing that moves them."""


def parts_of(show: Show, scope: Scope, address: str) -> dict[str, tuple[str, Part | Setting]]:
    """Part id -> (its path in the document, the part), of everything at a place; empty when the place is
    gone. What listens or routes counts as a part.
    """
    setting = setting_of(show, address.partition(".")[0]) if scope in ("part", "parameter") else None
    if setting is not None:
        return {setting.id: (setting.path, setting)}
    found: dict[str, tuple[str, Part | Setting]] = {}
    for look in show.looks:
        base = f"/looks/{look.id}"
        for layer in look.layers:
            way = f"{base}/layers/{layer.id}"
            own = {layer.source.id: (f"{way}/source", layer.source), layer.mix.id: (f"{way}/mix", layer.mix)}
            own |= {effect.id: (f"{way}/effects/{effect.id}", effect) for effect in layer.effects}
            if (
                (scope == "look" and look.id == address)
                or (scope == "layer" and layer.id == address)
                or scope in ("part", "parameter")
            ):
                found |= own
        if scope in ("part", "parameter") or (scope == "look" and look.id == address):
            found |= {effect.id: (f"{base}/finish/{effect.id}", effect) for effect in look.finish}
    if scope in ("part", "parameter"):
        found[show.crossfade.id] = ("/crossfade", show.crossfade)
        found |= {lamp.fixture.id: (f"/lamps/{lamp.id}/fixture", lamp.fixture) for lamp in show.lamps}
        found |= _lights(show)
        found |= {
            modulator.part.id: (f"/modulators/{modulator.id}/part", modulator.part)
            for modulator in show.modulators
        }
        found |= {ramp.part.id: (f"/ramps/{ramp.id}/part", ramp.part) for ramp in show.ramps}
        found = {id: row for id, row in found.items() if id == address.partition(".")[0]}
    return found


def _lights(show: Show) -> dict[str, tuple[str, Part | Setting]]:
    """Parts that stand over lamps."""
    found: dict[str, tuple[str, Part | Setting]] = {show.lights.part.id: ("/lights/part", show.lights.part)}
    found |= {group.id: (f"/groups/{group.id}/part", group.part) for group in show.groups}
    for chase in show.chases:
        found[chase.part.id] = (f"/chases/{chase.id}/part", chase.part)
        found |= {run.part.id: (f"/chases/{chase.id}/runs/{run.id}/part", run.part) for run in chase.runs}
    return found


def _parameter(part: Part | Setting, name: str) -> Parameter | None:
    return next((parameter for parameter in part.parameters() if parameter.name == name), None)


def kind_of(show: Show, scope: Scope, address: str) -> str:
    """What a preset of this place fits: the type of a parameter's value, or a part's kind; layers and looks
    fit only themselves.

    Raises EditError when there is no such place.
    """
    parts = parts_of(show, scope, address)
    if not parts:
        raise EditError("What this belongs to is not there any more.", address)
    if scope == "parameter":
        part = next(iter(parts.values()))[1]
        parameter = _parameter(part, address.partition(".")[2])
        if parameter is None:
            raise EditError("There is no such parameter any more.", address)
        return parameter.type
    if scope != "part":
        return address
    part = next(iter(parts.values()))[1]
    return f"{part.family} {part.kind}"


def _holds(scope: Scope, address: str, parts: dict[str, Any], target: str) -> bool:
    return target == address if scope == "parameter" else target.partition(".")[0] in parts


def taken(show: Show, scope: Scope, address: str, id: str = "now", name: str = "Now") -> Preset:
    """What stands at a place now, as a preset that is not in the show. Raises EditError when the place is
    gone.
    """
    kind, parts = kind_of(show, scope, address), parts_of(show, scope, address)
    values = {f"{part.id}.{name}": value for _, part in parts.values() for name, value in part.values.items()}
    if scope == "parameter":
        values = {address: values[address]}
    parameter = (
        _parameter(next(iter(parts.values()))[1], address.partition(".")[2])
        if kind == "number" and scope == "parameter"
        else None
    )
    span = (parameter.low, parameter.high) if parameter is not None else (0.0, 1.0)
    routes = [
        route
        for route in show.routes
        if any(_holds(scope, address, parts, target) for target in route.targets)
    ]
    return Preset(
        id=id, name=name, scope=scope, address=address, kind=kind, span=span, values=values, routes=routes
    )


def _chosen(show: Show, scope: Scope, address: str, preset: str) -> SetValue:
    return SetValue(path="/chosen", value={**show.chosen, f"{scope} {address}": preset})


def _called(show: Show, preset: Preset) -> str:
    """A name for what nobody names: what moves it, or where it stands."""
    titles = {signal.id: signal.name for signal in signals(show)}
    movers = [titles.get(route.signal, "Something") for route in preset.routes if not route.muted]
    stands = {look.id: look.name for look in show.looks}
    stands |= {layer.id: layer.name for look in show.looks for layer in look.layers}
    stands |= all_names(show)
    if preset.scope == "parameter":
        name = " and ".join(dict.fromkeys(movers)) or "By hand"
    else:
        name = stands[preset.address]
    same = [old.name for old in show.presets if (old.scope, old.address) == (preset.scope, preset.address)]
    return numbered(name[:LONGEST_NAME], same)


def keep(show: Show, scope: Scope, address: str, name: str = "") -> tuple[Edit, str]:
    """(the edit that keeps what stands at a place under a name, the preset's id). Without a name it gets one.
    Raises EditError when the place is gone.
    """
    id = free_id([preset.id for preset in show.presets], "preset-")
    preset = taken(show, scope, address, id, name or "New")
    if not name:
        preset = preset.model_copy(update={"name": _called(show, preset)})
    return (
        Together(
            edits=[AddItem(path="/presets", item=preset.model_dump()), _chosen(show, scope, address, id)]
        ),
        id,
    )


def find(show: Show, preset: str) -> Preset:
    """Raises EditError for a preset that is gone."""
    found = next((stored for stored in show.presets if stored.id == preset), None)
    if found is None:
        raise EditError("That preset is not there any more.", f"/presets/{preset}")
    return found


def update(show: Show, preset: str) -> Edit:
    """The edit that makes a preset what stands at its place now. Raises EditError when either is gone."""
    old = find(show, preset)
    new = taken(show, old.scope, old.address, old.id, old.name)
    return Together(
        edits=[
            SetValue(path=f"/presets/{preset}/values", value=new.values),
            SetValue(path=f"/presets/{preset}/routes", value=[route.model_dump() for route in new.routes]),
            _chosen(show, old.scope, old.address, preset),
        ]
    )


def remove(preset: str) -> Edit:
    """The edit that takes a preset away; what it was recalled to stays as it is."""
    return RemoveItem(path=f"/presets/{preset}")


def differs(show: Show, preset: Preset) -> bool:
    """Whether what stands at the preset's place is not what it holds any more; False when the place
    is gone.
    """
    try:
        now = taken(show, preset.scope, preset.address)
    except EditError:
        return False
    return now.values != preset.values or sorted(now.routes, key=lambda r: r.id) != sorted(
        preset.routes, key=lambda r: r.id
    )


def hand_only(show: Show, scope: Scope, address: str) -> Edit:
    """The edit that takes away whatever moves a place. Raises EditError when the place is gone."""
    kind_of(show, scope, address)
    parts = parts_of(show, scope, address)
    return Together(edits=[*_freed(show, scope, address, parts), _chosen(show, scope, address, HAND_ONLY)])


def _freed(show: Show, scope: Scope, address: str, parts: dict[str, Any]) -> list[Edit]:
    """Edits that take a place away from every route that moves it; a route that moves nothing else goes."""
    edits: list[Edit] = []
    for route in show.routes:
        rest = [target for target in route.targets if not _holds(scope, address, parts, target)]
        if not rest:
            edits.append(RemoveItem(path=f"/routes/{route.id}"))
        elif len(rest) < len(route.targets):
            edits.append(SetValue(path=f"/routes/{route.id}/targets", value=rest))
    return edits


def recall(show: Show, preset: Preset, address: str = "") -> Edit:
    """The edit that puts a preset's values and routes in place: its own, or another one of the same kind.

    Ranges are fitted to the other parameter's. Raises EditError when the place is gone or of another kind.
    """
    address = address or preset.address
    if kind_of(show, preset.scope, address) != preset.kind:
        raise EditError(
            f"“{preset.name}” does not fit there: it is kept from another kind of thing.", address
        )
    parts = parts_of(show, preset.scope, address)
    elsewhere = address != preset.address
    old_part, new_part = preset.address.partition(".")[0], address.partition(".")[0]

    def moved_to(target: str) -> str | None:
        """Where something of the preset belongs now; None when that is gone."""
        if elsewhere:
            own, _, name = target.partition(".")
            target = f"{new_part}.{name}" if own == old_part else target
            target = address if preset.scope == "parameter" else target
        part, _, name = target.partition(".")
        return target if part in parts and name in parts[part][1].values else None

    edits: list[Edit] = _freed(show, preset.scope, address, parts)
    refit = _Refit(show, preset, address) if elsewhere and preset.scope == "parameter" else None
    for target, value in preset.values.items():
        to = moved_to(target)
        if to is not None:
            part, _, name = to.partition(".")
            edits.append(
                SetValue(path=place_of(*parts[part], name), value=refit.value(value) if refit else value)
            )
    gone = {edit.path.rpartition("/")[2] for edit in edits if isinstance(edit, RemoveItem)}
    taken_ids = [route.id for route in show.routes if route.id not in gone]
    for route in preset.routes:
        targets = [to for target in route.targets if (to := moved_to(target)) is not None]
        if targets:
            id = route.id if route.id not in taken_ids else free_id(taken_ids, "r")
            taken_ids.append(id)
            ends = {"low": refit.value(route.low), "high": refit.value(route.high)} if refit else {}
            edits.append(
                AddItem(
                    path="/routes",
                    item=route.model_copy(update={"id": id, "targets": targets, **ends}).model_dump(),
                )
            )
    return Together(edits=[*edits, _chosen(show, preset.scope, address, preset.id)])


class _Refit:
    """Takes values of one parameter over to another of the same type: as the same share of its range."""

    def __init__(self, show: Show, preset: Preset, address: str) -> None:
        self.type = preset.kind
        self.low, self.high = preset.span
        part = next(iter(parts_of(show, "parameter", address).values()))[1]
        parameter = _parameter(part, address.partition(".")[2])
        if parameter is None:
            raise EditError("There is no such parameter any more.", address)
        self.parameter = parameter

    def value(self, value: Any) -> Any:
        if self.type == "number" and self.high > self.low:
            share = (value - self.low) / (self.high - self.low)
            low, high = self.parameter.low or 0.0, self.parameter.high or 0.0
            return low + share * (high - low)
        if self.type == "choice":
            return value if value in self.parameter.choices else self.parameter.choices[0]
        return value

"""What the desk calls the parts of a show."""

from fulgura.core.show.document import Show
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.settings import SOUND
from fulgura.core.show.signals import signals


def _title(part: Part) -> str:
    return part.kind_class.title or part.kind_class.__name__


def _of_look(look: Look) -> dict[str, str]:
    """Part id -> its name within its look: by its layer, where another part there is of its kind as well."""
    titles = [_title(part) for part in look.parts()]

    def name(part: Part, layer: Layer | None) -> str:
        title = _title(part)
        if titles.count(title) == 1 and not (layer and layer.name.startswith(f"{title} ")):
            return title
        where = layer.name if layer else look.name
        return (
            where
            if layer and where.startswith(title) and part is layer.source
            else f"{where} {title.lower()}"
        )

    names: dict[str, str] = {}
    for layer in look.layers:
        names |= {part.id: name(part, layer) for part in (layer.source, *layer.effects)}
        names[layer.mix.id] = layer.name
    return names | {part.id: name(part, None) for part in look.finish}


_REMEMBERED: dict[str, tuple[Look, dict[str, str]]] = {}
"""By a look's id: the look, and the names in it. An edit leaves other looks the very same objects."""


def _of_look_remembered(look: Look) -> dict[str, str]:
    known = _REMEMBERED.get(look.id)
    if known is None or known[0] is not look:
        known = _REMEMBERED[look.id] = look, _of_look(look)
    return known[1]


def part_names(show: Show) -> dict[str, str]:
    """Part id -> what the desk calls it. What belongs to a look that is not shown says to which: “Bloom (Fog
    bank)”; equal names within a look are told apart by the layer: “Ring 2”, “Swell feedback”.
    """
    names: dict[str, str] = {}
    for look in show.looks:
        where = "" if look.id == show.look else f" ({look.name})"
        names |= {id: f"{name}{where}" for id, name in _of_look_remembered(look).items()}
    names[show.crossfade.id] = _title(show.crossfade)
    names |= {lamp.fixture.id: lamp.name for lamp in show.lamps}
    names[show.lights.part.id] = _title(show.lights.part)
    names |= {group.part.id: group.name for group in show.groups}
    groups = {group.id: group.name for group in show.groups}
    for chase in show.chases:
        names[chase.part.id] = chase.name
        names |= {run.part.id: f"{chase.name} on {groups.get(run.group, 'no group')}" for run in chase.runs}
    names |= {modulator.part.id: modulator.name for modulator in show.modulators}
    names |= {ramp.part.id: ramp.name for ramp in show.ramps}
    return names | _listening(show)


def _listening(show: Show) -> dict[str, str]:
    """What listens: “Low band”, “Kick hits”."""
    bands = {band.id: band.name for band in show.bands}
    names = {SOUND: "All routes"}
    for given in show.inputs:
        names |= {f"input@{given.id}": f"{given.name} input", f"level@{given.id}": f"{given.name} input"}
    names |= {f"band@{band}": f"{name} band" for band, name in bands.items()}
    for hit in show.hits:
        names[f"hit@{hit.id}"] = f"{(hit.drum or bands.get(hit.band, hit.id)).capitalize()} hits"
    return names


def all_names(show: Show) -> dict[str, str]:
    """The same, and those of routes and their steps, by what they hear and move: “Kick → Ring radius: pulse”.

    There can be thousands of steps: only for what is typed or read, not for every edit.
    """
    names = part_names(show)
    heard = {signal.id: signal.name for signal in signals(show)}
    for route in show.routes:
        part, _, name = route.targets[0].partition(".")
        way = f"{heard.get(route.signal, 'nothing')} → {names.get(part, part)} {name.replace('_', ' ')}"
        names[f"route@{route.id}"] = way
        names |= {f"step@{route.id}@{shaper.id}": f"{way}: {shaper.kind}" for shaper in route.shapers}
    return names

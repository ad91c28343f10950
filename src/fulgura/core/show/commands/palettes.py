"""Palettes: made from what lamps show, merged, recalled, changed. What was set by one follows it."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from fulgura.core.kinds.colour import resolved
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.lamps import lamps_of, parameter_of
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.lights import Lamp, Palette, PaletteKind

POSITION = ("pan", "tilt", "zoom", "focus")
Shown = Callable[[str], Any]
"""What a parameter is now, by its address; None for its hand value."""


def palette_of(show: Show, id: str) -> Palette:
    """Raises EditError for a palette that is gone."""
    found = next((palette for palette in show.palettes if palette.id == id), None)
    if found is None:
        raise EditError("That palette is not there any more.", "/palettes")
    return found


def _holds(kind: PaletteKind, name: str) -> bool:
    return {"colour": name == "colour", "position": name in POSITION, "state": True}[kind]


def _taken(kind: PaletteKind, lamps: Sequence[Lamp], shown: Shown) -> dict[str, dict[str, Any]]:
    """What lamps show now of what a palette of this kind holds."""
    found: dict[str, dict[str, Any]] = {}
    for lamp in lamps:
        values: dict[str, Any] = {}
        for parameter in lamp.fixture.parameters():
            if _holds(kind, parameter.name) and parameter.size:
                now = shown(f"{lamp.fixture.id}.{parameter.name}")
                values[parameter.name] = lamp.fixture.values[parameter.name] if now is None else now
        if values:
            found[lamp.id] = values
    if not found:
        raise EditError(f"None of these lamps has a {kind} to keep.", "/palettes")
    return found


def _colours(lamps: Mapping[str, Mapping[str, Any]], palette: Sequence[str]) -> list[str]:
    """Their colours, each once, in their order."""
    found = (values["colour"] for values in lamps.values() if "colour" in values)
    return list(dict.fromkeys(resolved(colour, palette) for colour in found))[:64]


def new_palette(
    show: Show,
    kind: PaletteKind,
    ids: Sequence[str],
    shown: Shown,
    name: str = "",
    colours: Sequence[str] = (),
) -> tuple[Edit, str]:
    """(the edit that keeps what these lamps show as a palette, or these colours; its id). Raises
    EditError.
    """
    id = free_id([palette.id for palette in show.palettes], "palette-")
    lamps = {} if colours else _taken(kind, lamps_of(show, ids), shown)
    number = id.rpartition("-")[2]
    palette = Palette(
        id=id,
        name=name.strip() or f"{kind.capitalize()} {number}",
        kind=kind,
        colours=list(colours) or _colours(lamps, show.colours),
        lamps=lamps,
    )
    return AddItem(path="/palettes", item=palette.model_dump()), id


def merge(show: Show, id: str, ids: Sequence[str], shown: Shown) -> Edit:
    """The edit that puts what these lamps show into a palette too; lamps that were set by it follow. Raises
    EditError.
    """
    old = palette_of(show, id)
    lamps = {**old.lamps, **_taken(old.kind, lamps_of(show, ids), shown)}
    kept = [colour for colour in old.colours if colour not in _colours(old.lamps, show.colours)]
    new = old.model_copy(
        update={"lamps": lamps, "colours": list(dict.fromkeys([*kept, *_colours(lamps, show.colours)]))[:64]}
    )
    return _changed(show, old, new)


def recolour(show: Show, id: str, index: int, colour: str) -> Edit:
    """The edit that makes one colour of a palette another one; what was set by it follows. Raises
    EditError.
    """
    old = palette_of(show, id)
    if not 0 <= index < len(old.colours):
        raise EditError("That colour is not in it any more.", f"/palettes/{id}")
    before = old.colours[index]
    lamps = {
        lamp: {
            name: colour if name == "colour" and value == before else value for name, value in values.items()
        }
        for lamp, values in old.lamps.items()
    }
    colours = [*old.colours[:index], colour, *old.colours[index + 1 :]]
    return _changed(show, old, old.model_copy(update={"colours": colours, "lamps": lamps}))


def _changed(show: Show, old: Palette, new: Palette) -> Edit:
    """The palette is another one; lamps that show what it was are led to what it is."""
    path = f"/palettes/{old.id}"
    edits: list[Edit] = [
        SetValue(path=f"{path}/lamps", value=new.lamps),
        SetValue(path=f"{path}/colours", value=new.colours),
    ]
    users = [lamp for lamp in show.lamps if old.id in lamp.uses.values()]
    for lamp in users:
        for name in [name for name, palette in lamp.uses.items() if palette == old.id]:
            now = lamp.fixture.values.get(name)
            then = _follows(old, new, lamp, name, now)
            if then is not None and then != now:
                edits.append(SetValue(path=f"/lamps/{lamp.id}/fixture/values/{name}", value=then))
    return Together(edits=edits)


def _follows(old: Palette, new: Palette, lamp: Lamp, name: str, now: Any) -> Any:
    """What a lamp has by the new palette where it has what the old one gave it; None where it was set
    otherwise since.
    """
    if old.lamps.get(lamp.id, {}).get(name) == now:
        return new.lamps.get(lamp.id, {}).get(name)
    if name == "colour" and now in old.colours:
        at = old.colours.index(now)
        return new.colours[at] if at < len(new.colours) else None
    return None


def recall(show: Show, id: str, ids: Sequence[str] = ()) -> tuple[Edit, list[str]]:
    """(the edit that gives a palette to these lamps, or to those that it was made from; names of lamps that
    can't take it).

    A lamp that it was made from gets its own back; others get its colours in turn, or, of a single place or
    state, that. Raises EditError when nobody can take it.
    """
    palette = palette_of(show, id)
    there = {lamp.id for lamp in show.lamps}
    lamps = lamps_of(show, ids or [lamp for lamp in palette.lamps if lamp in there])
    edits: list[Edit] = []
    cannot: list[str] = []
    for index, lamp in enumerate(lamps):
        values = {
            name: value
            for name, value in _for_lamp(palette, lamp, index).items()
            if parameter_of(lamp, name) is not None
        }
        if not values:
            cannot.append(lamp.name)
            continue
        path = f"/lamps/{lamp.id}"
        edits += [
            SetValue(path=f"{path}/fixture/values/{name}", value=value) for name, value in values.items()
        ]
        edits.append(SetValue(path=f"{path}/uses", value={**lamp.uses, **dict.fromkeys(values, palette.id)}))
    if not edits:
        raise EditError(f"None of these lamps can take “{palette.name}”.", f"/palettes/{id}")
    return Together(edits=edits), cannot


def _for_lamp(palette: Palette, lamp: Lamp, index: int) -> dict[str, Any]:
    if lamp.id in palette.lamps:
        return palette.lamps[lamp.id]
    if palette.kind == "colour":
        return {"colour": palette.colours[index % len(palette.colours)]} if palette.colours else {}
    kept = list(palette.lamps.values())
    return kept[index % len(kept)] if kept else {}


def without_palette(show: Show, id: str) -> Edit:
    """The edit that takes a palette away; lamps keep what they have. Raises EditError."""
    palette_of(show, id)
    edits: list[Edit] = [
        SetValue(
            path=f"/lamps/{lamp.id}/uses",
            value={name: palette for name, palette in lamp.uses.items() if palette != id},
        )
        for lamp in show.lamps
        if id in lamp.uses.values()
    ]
    return Together(edits=[*edits, RemoveItem(path=f"/palettes/{id}")])

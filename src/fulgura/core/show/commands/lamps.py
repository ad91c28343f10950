"""Lamps are hung, addressed, exchanged, placed, set and taken down."""

import re
from collections.abc import Sequence
from typing import Any

from fulgura.core.kinds.fixture import Fixture
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.lights import MOST_LAMPS, Lamp, Place
from fulgura.core.show.patch import pack, taken


def lamps_of(show: Show, ids: Sequence[str]) -> list[Lamp]:
    """These lamps, in the order that they are named. Raises EditError for none, and when one is gone."""
    lamps = {lamp.id: lamp for lamp in show.lamps}
    gone = [id for id in ids if id not in lamps]
    if gone:
        raise EditError(f"The lamp “{gone[0]}” is not there any more.", "/lamps")
    if not ids:
        raise EditError("No lamp is chosen. Choose some on the drawing first.", "/lamps")
    return [lamps[id] for id in ids]


def numbered(pattern: str, number: int, alone: bool) -> str:
    """A lamp's name: # stands for its number, ## for two digits; without one it stands behind, but where a
    lamp is alone.

    >>> numbered("Rail ##", 7, False), numbered("Foot", 2, False), numbered("Foot", 1, True)
    ('Rail 07', 'Foot 2', 'Foot')
    """
    if "#" not in pattern:
        return pattern if alone else f"{pattern} {number}"
    return re.sub("#+", lambda found: f"{number:0{len(found.group())}d}", pattern)


def hang(
    show: Show,
    kind: str,
    count: int = 1,
    name: str = "",
    at: tuple[int, int] | None = None,
    gap: int = 0,
    mode: str = "",
    pixels: int = 0,
) -> tuple[Edit, list[str]]:
    """(the edit that adds so many lamps of one kind, their ids). They are packed one behind the other from
    universe and channel ``at`` on, past what is taken; without it behind the last one. They hang in a row.

    Raises EditError when there is no such kind, or no room.
    """
    if kind not in Fixture.kinds:
        raise EditError(f"There is no kind of lamp called “{kind}”.", "/lamps")
    if len(show.lamps) + count > MOST_LAMPS:
        raise EditError(f"A show has at most {MOST_LAMPS} lamps.", "/lamps")
    profile = Fixture.kinds[kind]
    _check_mode(profile, mode)
    ids, parts = [lamp.id for lamp in show.lamps], [part.id for part in show.parts()]
    number = max((lamp.number for lamp in show.lamps), default=0) + 1
    used = {channel for lamp in show.lamps for channel in taken(lamp)}
    lamps: list[Lamp] = []
    for index in range(count):
        lamp_id, part_id = free_id(ids, "lamp-"), free_id(parts, "fixture-")
        ids.append(lamp_id)
        parts.append(part_id)
        lamps.append(
            Lamp.model_validate(
                {
                    "id": lamp_id,
                    "number": number + index,
                    "name": numbered(
                        name.strip() or profile.title or profile.__name__, index + 1, count == 1
                    ),
                    "mode": mode,
                    "pixels": pixels,
                    "fixture": {"id": part_id, "kind": kind},
                    "place": _in_a_row(show, index, count).model_dump(),
                }
            )
        )
    try:
        addresses = pack(lamps, *(at or _behind_all(show)), gap, used)
    except ValueError as error:
        raise EditError(f"They do not fit: {error}.", "/lamps") from error
    edits: list[Edit] = [
        AddItem(
            path="/lamps",
            item=lamp.model_copy(update={"universe": universe, "address": address}).model_dump(),
        )
        for lamp, (universe, address) in zip(lamps, addresses)
    ]
    return Together(edits=edits), [lamp.id for lamp in lamps]


def _check_mode(profile: type[Fixture], mode: str) -> None:
    if mode and mode not in profile.modes:
        raise EditError(f"There is no mode “{mode}”: {', '.join(profile.modes)}.", "/lamps")


def _behind_all(show: Show) -> tuple[int, int]:
    """The channel after the last that is taken."""
    last = max((channel for lamp in show.lamps for channel in taken(lamp)), default=(1, -1))
    return last[0], last[1] + 2


def _in_a_row(show: Show, index: int, count: int) -> Place:
    """Where a new lamp hangs: in a row across the room, each row a little lower than the last."""
    room = show.lights.room
    across = 0.8 * room.width * ((index + 0.5) / count - 0.5)
    rows = len({lamp.place.z for lamp in show.lamps})
    height = room.height * max(0.15, 0.85 - 0.12 * rows)
    return Place(x=round(across, 2), y=round(0.3 * room.depth, 2), z=round(height, 2))


def take_down(show: Show, ids: Sequence[str]) -> Edit:
    """The edit that takes lamps away, out of their groups as well. Raises EditError."""
    lamps = {lamp.id for lamp in lamps_of(show, ids)}
    edits: list[Edit] = [
        SetValue(path=f"/groups/{group.id}/members", value=[m for m in group.members if m not in lamps])
        for group in show.groups
        if lamps & set(group.members)
    ]
    return Together(edits=[*edits, *(RemoveItem(path=f"/lamps/{id}") for id in ids)])


def exchange(show: Show, ids: Sequence[str], kind: str, mode: str = "", pixels: int = 0) -> Edit:
    """The edit that makes these lamps ones of another kind or mode. Name, place, groups, and what the new
    kind has too stay; so do routes to that. Raises EditError.
    """
    if kind not in Fixture.kinds:
        raise EditError(f"There is no kind of lamp called “{kind}”.", "/lamps")
    profile = Fixture.kinds[kind]
    _check_mode(profile, mode)
    names = {parameter.name for parameter in profile.parameters()}
    edits: list[Edit] = []
    for lamp in lamps_of(show, ids):
        values = {name: value for name, value in lamp.fixture.values.items() if name in names}
        part = {"id": lamp.fixture.id, "family": "fixture", "kind": kind, "values": values}
        kept = {name: value for name, value in lamp.parked.items() if name in names}
        path = f"/lamps/{lamp.id}"
        edits += [
            SetValue(path=f"{path}/mode", value=mode),
            SetValue(path=f"{path}/pixels", value=pixels),
            SetValue(path=f"{path}/parked", value=kept),
            SetValue(path=f"{path}/fixture", value=part),
        ]
    return Together(edits=edits)


def readdress(show: Show, ids: Sequence[str], at: tuple[int, int] | None = None, gap: int = 0) -> Edit:
    """The edit that packs these lamps one behind the other: from an address on, or, without one, each to the
    next channels that are free behind its own: what cures a clash. Raises EditError.
    """
    lamps = lamps_of(show, ids)
    used = {channel for lamp in show.lamps if lamp.id not in set(ids) for channel in taken(lamp)}
    try:
        addresses = pack(lamps, *(at or (lamps[0].universe, lamps[0].address)), gap, used)
    except ValueError as error:
        raise EditError(f"They do not fit: {error}.", "/lamps") from error
    edits: list[Edit] = [
        SetValue(path=f"/lamps/{lamp.id}/{name}", value=value)
        for lamp, address in zip(lamps, addresses)
        for name, value in zip(("universe", "address"), address)
    ]
    return Together(edits=edits)


def parameter_of(lamp: Lamp, name: str) -> Parameter | None:
    """A lamp's function of that name."""
    return next((parameter for parameter in lamp.fixture.parameters() if parameter.name == name), None)


def set_function(
    show: Show, ids: Sequence[str], name: str, value: Any = None, by: float | None = None
) -> Edit:
    """The edit that sets one function of several lamps: all at a value, or each by as much. Those that have
    none of that name are passed over; palettes that it was set by have no say any more. Raises EditError when
    none has it.
    """
    edits: list[Edit] = []
    for lamp in lamps_of(show, ids):
        parameter = parameter_of(lamp, name)
        if parameter is None:
            continue
        to = value
        if parameter.type == "number":
            wanted = lamp.fixture.values[name] + by if by is not None else float(value)
            to = min(parameter.high or 0.0, max(parameter.low or 0.0, wanted))
        edits.append(SetValue(path=f"/lamps/{lamp.id}/fixture/values/{name}", value=to))
        if name in lamp.uses:
            rest = {other: palette for other, palette in lamp.uses.items() if other != name}
            edits.append(SetValue(path=f"/lamps/{lamp.id}/uses", value=rest))
    if not edits:
        raise EditError("None of these lamps can do that.", f"/lamps/{ids[0]}")
    return Together(edits=edits)


def home(show: Show, ids: Sequence[str]) -> Edit:
    """The edit that leads lamps back to where they point at rest, without a pattern. Raises EditError."""
    edits: list[Edit] = [
        SetValue(path=f"/lamps/{lamp.id}/fixture/values/{parameter.name}", value=parameter.default)
        for lamp in lamps_of(show, ids)
        for parameter in lamp.fixture.parameters()
        if parameter.name not in ("level", "colour")
    ]
    if not edits:
        raise EditError("None of these lamps moves.", "/lamps")
    return Together(edits=edits)


def park(show: Show, ids: Sequence[str], name: str, value: Any) -> Edit:
    """The edit that sends one function of lamps at a value whatever else is wanted; None: at its own again.
    Raises EditError.
    """
    edits: list[Edit] = []
    for lamp in lamps_of(show, ids):
        rest = {other: at for other, at in lamp.parked.items() if other != name}
        if parameter_of(lamp, name) is not None:
            parked = rest if value is None else {**rest, name: value}
            edits.append(SetValue(path=f"/lamps/{lamp.id}/parked", value=parked))
    if not edits:
        raise EditError("None of these lamps can do that.", f"/lamps/{ids[0]}")
    return Together(edits=edits)

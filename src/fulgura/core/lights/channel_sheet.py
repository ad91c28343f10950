"""What each of a universe's 512 channels is: which lamp's, which function, and who sets it."""

from pydantic import BaseModel

from fulgura.core.show.document import Show
from fulgura.core.show.lights import Lamp
from fulgura.core.show.patch import CHANNELS, patched


class ChannelRow(BaseModel):
    """One channel that means something. channel: from 1; by: who sets it."""

    channel: int
    lamp: str
    number: int
    name: str
    function: str
    by: str


def channel_sheet(show: Show, universe: int) -> list[ChannelRow]:
    """The channels of a universe that belong to lamps, in their order; two rows where two lamps share one."""
    found: list[ChannelRow] = []
    chased = _chased(show)
    routed = _routed(show)
    for lamp in show.lamps:
        for row in patched(lamp):
            if row.universe != universe or row.slot >= CHANNELS:
                continue
            name = row.channel.of or "fixed"
            function = name if lamp.cells == 1 or row.channel.of == "level" else f"{name} {row.pixel + 1}"
            for fine in range(row.channel.width):
                suffix = ("", " fine")[fine]
                who = _who(show, lamp, name, f"{universe}.{row.slot + fine + 1}", chased, routed)
                found.append(
                    ChannelRow(
                        channel=row.slot + fine + 1,
                        lamp=lamp.id,
                        number=lamp.number,
                        name=lamp.name,
                        function=function + suffix,
                        by=who,
                    )
                )
    return sorted(found, key=lambda row: row.channel)


def _chased(show: Show) -> dict[str, list[str]]:
    """Lamp -> names of the chases that run over it."""
    groups = {group.id: group for group in show.groups}
    found: dict[str, list[str]] = {}
    for chase in show.chases:
        for run in chase.runs:
            if run.part.values["running"] and run.group in groups:
                for member in groups[run.group].members:
                    found.setdefault(member, []).append(chase.name)
    return found


def _routed(show: Show) -> dict[str, list[str]]:
    """Address of a parameter, also of a group's, -> signals of the routes to it."""
    found: dict[str, list[str]] = {}
    for route in show.routes:
        for target in route.targets:
            found.setdefault(target, []).append(route.signal)
    return found


def _who(
    show: Show,
    lamp: Lamp,
    name: str,
    address: str,
    chased: dict[str, list[str]],
    routed: dict[str, list[str]],
) -> str:
    """Who sets a function of a lamp, the strongest alone."""
    functions = [name] if parameter_names(lamp) & {name} else ["colour", "level"]
    if address in show.lights.parked or set(functions) & set(lamp.parked):
        return "parked"
    if show.lights.frozen:
        return "frozen"
    light = "level" in functions or "colour" in functions
    if light and show.blackout in ("all", "lights"):
        return "blackout"
    if light and chased.get(lamp.id):
        return ", ".join(chased[lamp.id])
    parts = [lamp.fixture.id, *(group.id for group in show.groups if lamp.id in group.members)]
    signals = [signal for part in parts for each in functions for signal in routed.get(f"{part}.{each}", [])]
    if signals:
        return "route of " + ", ".join(dict.fromkeys(signals))
    names = {palette.id: palette.name for palette in show.palettes}
    used = [names[palette] for each in functions if (palette := lamp.uses.get(each, "")) in names]
    return ", ".join(used) or "hand"


def parameter_names(lamp: Lamp) -> set[str]:
    """Names of what can be set of a lamp."""
    return {parameter.name for parameter in lamp.fixture.parameters()}

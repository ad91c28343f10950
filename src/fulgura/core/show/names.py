"""What the desk calls the parts of a show."""

from fulgura.core.show.document import Show
from fulgura.core.show.part import Part


def part_names(show: Show) -> dict[str, str]:
    """Part id -> what the desk calls it. A second one of a kind is called by where it is, too: “Swell
    feedback”.
    """
    names: dict[str, str] = {}
    taken: set[str] = set()

    def note(part: Part, name: str = "", where: str = "") -> None:
        kind = part.kind_class
        title = name or kind.title or kind.__name__
        names[part.id] = f"{where} {title.lower()}" if where and title in taken else title
        taken.add(title)

    for look in show.looks:
        for layer in look.layers:
            for part in (layer.source, *layer.effects):
                note(part, where=layer.name)
            note(layer.mix, layer.name)
        for part in look.finish:
            note(part, where=look.name)
    note(show.crossfade)
    for lamp in show.lamps:
        note(lamp.fixture, lamp.name)
    note(show.lights.part)
    for group in show.groups:
        note(group.part, group.name)
    groups = {group.id: group.name for group in show.groups}
    for chase in show.chases:
        note(chase.part, chase.name)
        for run in chase.runs:
            note(run.part, f"{chase.name} on {groups.get(run.group, 'no group')}")
    for modulator in show.modulators:
        note(modulator.part, modulator.name)
    return names

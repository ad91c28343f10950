"""What a cue does, in words for the performer."""

from fulgura.core.show.document import Show
from fulgura.core.show.names import all_names
from fulgura.core.show.night import Cue, CueGo, Duration
from fulgura.core.show.route_sets import routes_title
from fulgura.core.show.signals import signals

GONE = "what is gone"


def duration_words(over: Duration) -> str:
    """How long, in words.

    >>> duration_words(Duration(amount=1.0)), duration_words(Duration(amount=2.5, unit="bars"))
    ('over 1 beat', 'over 2.5 bars')
    """
    if over.amount == 0:
        return "at once"
    unit = over.unit if over.amount != 1 or over.unit == "ms" else over.unit.removesuffix("s")
    return f"over {over.amount:g} {unit}"


def go_words(show: Show, go: CueGo) -> str:
    """When a cue goes, in words."""
    match go.when:
        case "hand":
            return "by hand"
        case "beat" | "bar":
            return f"on the next {go.when}"
        case "bars":
            return f"on the next {go.bars} bars"
        case "song":
            return "at its place in the song"
        case "clock":
            return f"at {go.clock}"
        case "after":
            return f"{go.after_beats:g} beats after the one before"
        case "signal":
            found = next((signal for signal in signals(show) if signal.id == go.signal), None)
            if found is None:
                return "on a signal that is gone"
            return f"on {found.name}" if found.kind == "hits" else f"when {found.name} is above {go.above:g}"


def cue_words(show: Show, cue: Cue) -> list[str]:
    """A line for each thing that a cue changes."""
    lines: list[str] = []
    looks = {look.id: look.name for look in show.looks}
    if cue.look:
        lines.append(f"Look: {looks.get(cue.look, GONE)} {duration_words(cue.over)}")
    presets = {preset.id: preset.name for preset in show.presets}
    lines += [f"Preset: {presets.get(preset, GONE)}" for preset in cue.presets]
    named, groups = {p.id: p.name for p in show.palettes}, {g.id: g.name for g in show.groups}
    for wanted in cue.palettes:
        onto = f" on {groups.get(wanted.group, GONE)}" if wanted.group else ""
        lines.append(f"Palette: {named.get(wanted.palette, GONE)}{onto}")
    if cue.chases is not None:
        chases = {chase.id: chase.name for chase in show.chases}
        running = ", ".join(chases.get(chase, GONE) for chase in cue.chases)
        lines.append(f"Chases: {running}" if running else "Chases stop")
    lines += _values(show, cue)
    for some in cue.routes:
        title = routes_title(show, some.routes) or "routes that are gone"
        lines.append(f"{title[0].upper()}{title[1:]} {'act' if some.act else 'rest'}")
    if cue.bpm is not None:
        lines.append(f"Tempo: {cue.bpm:g} BPM")
    if cue.plays:
        songs = {song.id: song.name for song in show.songs}
        lines.append(f"Plays: {songs.get(cue.plays, GONE)}")
    if cue.blackout is not None:
        dark = {"off": "Light again", "all": "Blackout", "lights": "Lamps dark", "pictures": "Pictures dark"}
        lines.append(dark[cue.blackout])
    return lines


def _values(show: Show, cue: Cue) -> list[str]:
    if not cue.values:
        return []
    names = all_names(show)
    parts = list(dict.fromkeys(value.target.partition(".")[0] for value in cue.values))
    if len(cue.values) <= 3:
        return [
            f"{names.get(part, GONE)} {name} {duration_words(value.over)}"
            for value in cue.values
            for part, _, name in [value.target.partition(".")]
        ]
    told = ", ".join(names.get(part, GONE) for part in parts[:4])
    more = f" and {len(parts) - 4} more" if len(parts) > 4 else ""
    return [f"{len(cue.values)} values of {told}{more}"]

"""Numbers of the document that a fader moves: those that stand there, and the parts of a colour.

A target is a path, and for a colour a part of it behind a #: "/looks/…/values/tint#red", 0..1 of what a
display is told.
"""

from collections.abc import Mapping

from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, EditError, SetValue, value_at

COLOUR_PARTS = {"red": 1, "green": 3, "blue": 5}
"""Where each stands in #rrggbb."""


def number_at(show: Show, target: str) -> float | None:
    """What stands there; None for what is gone, or is no number."""
    path, _, part = target.partition("#")
    try:
        value = value_at(show, path)
    except EditError:
        return None
    if part:
        at = COLOUR_PARTS.get(part)
        hex_colour = isinstance(value, str) and len(value) == 7 and value[0] == "#"
        return int(value[at : at + 2], 16) / 255 if at is not None and hex_colour else None
    return float(value) if isinstance(value, int | float) and not isinstance(value, bool) else None


def numbers_set(show: Show, values: Mapping[str, float]) -> list[Edit]:
    """The edits that set numbers by their targets; parts of one colour are one edit."""
    edits: list[Edit] = []
    colours: dict[str, str] = {}
    for target, value in values.items():
        path, _, part = target.partition("#")
        if not part:
            edits.append(SetValue(path=path, value=value))
            continue
        now = colours.get(path) or str(value_at(show, path))
        at = COLOUR_PARTS[part]
        colours[path] = f"{now[:at]}{round(255 * min(1.0, max(0.0, value))):02x}{now[at + 2 :]}"
    return [*edits, *(SetValue(path=path, value=colour) for path, colour in colours.items())]

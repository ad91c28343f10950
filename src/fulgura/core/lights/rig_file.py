"""The rig as a file: where lamps hang and what each of their channels means. Written down in
docs/formats/rig.md.
"""

from typing import Any

from fulgura.core.kinds.fixture import EMITTERS, Form
from fulgura.core.lights.colour import emitter_colours
from fulgura.core.show.document import Show
from fulgura.core.show.lights import Lamp
from fulgura.core.show.patch import Patched, patched

FORMAT, VERSION = "fulgura-rig", 1


def rig_file(show: Show) -> dict[str, Any]:
    """All that is needed to draw the rig from what is sent, as plain values."""
    room = show.lights.room
    return {
        "format": FORMAT,
        "version": VERSION,
        "name": show.name,
        "room": room.model_dump(),
        "lamps": [_lamp(lamp) for lamp in show.lamps],
    }


def _at(row: Patched) -> dict[str, Any]:
    return {"universe": row.universe, "channel": row.slot + 1, "bits": row.channel.bits}


def _lamp(lamp: Lamp) -> dict[str, Any]:
    rows = patched(lamp)
    colours = dict(zip(lamp.profile.emitters, emitter_colours(lamp.profile).tolist()))
    cells: list[dict[str, Any]] = [{"emitters": []} for _ in range(lamp.cells)]
    found: dict[str, Any] = {
        "id": lamp.id,
        "number": lamp.number,
        "name": lamp.name,
        "place": lamp.place.model_dump(),
        "drawn": lamp.profile.drawn,
        "beam": lamp.profile.beam,
        "cells": cells,
    }
    for row in rows:
        channel = row.channel
        match channel.form:
            case Form.DIMMER:
                found["dimmer"] = _at(row)
            case Form.EMITTER | Form.OWN:
                light = colours.get(channel.of, list(EMITTERS.get(channel.of, (0.0, 0.0, 0.0))))
                cells[row.pixel]["emitters"].append({**_at(row), "light": light})
            case Form.SPAN if channel.of in ("pan", "tilt", "zoom"):
                found[channel.of] = {**_at(row), "low": channel.low, "high": channel.high}
            case Form.STROBE:
                slow_fast = {"slow": channel.low, "fast": channel.high}
                found["strobe"] = {**_at(row), "first": channel.first, "last": channel.last, **slow_fast}
            case Form.WHEEL:
                found["wheel"] = {**_at(row), "slots": [list(slot) for slot in channel.wheel]}
            case _:
                pass
    if colours and not any(cell["emitters"] for cell in cells):
        found["light"] = next(iter(colours.values()))
    return found

"""What goes back to controllers: lights of pads, places of faders, as each control would say it itself."""

from fulgura.core.show.document import Show
from fulgura.core.show.numbers import number_at
from fulgura.core.show.surface import Mapping, Reach
from fulgura.core.surface.controls import fader_of, pad_of

Said = dict[tuple[str, str], float]
"""(controller, source) -> 0..1."""
WAITS = 0.5
"""What a pad that waits for the beat shows: half of its light."""


def feedback(show: Show, page: str, pads: dict[str, str], lit: dict[str, bool]) -> Said:
    """What every mapped control should show. pads: state of each pad, "on", "waits" or empty; lit: whether a
    mapping's own action is so now, by its id.
    """
    if not show.control.feedback:
        return {}
    said: Said = {}
    for mapping in show.mappings:
        value = None if mapping.muted else _shown(show, page, mapping, pads, lit)
        if value is not None:
            said[mapping.controller, mapping.source] = round(value, 4)
    return said


def _shown(
    show: Show, page: str, mapping: Mapping, pads: dict[str, str], lit: dict[str, bool]
) -> float | None:
    match mapping.does:
        case "pad":
            pad = pad_of(show, page, mapping.target)
            state = pads.get(pad.id, "") if pad is not None else ""
            return {"on": 1.0, "waits": WAITS}.get(state, 0.0)
        case "action":
            return float(lit.get(mapping.id, False))
        case "value" if mapping.coding in ("absolute", "fine"):
            return stands_at(show, mapping.reach())
        case "fader" if mapping.coding in ("absolute", "fine"):
            fader = fader_of(show, page, mapping.target)
            return stands_at(show, fader.moves[0]) if fader is not None and fader.moves else None
    return None


def stands_at(show: Show, reach: Reach) -> float | None:
    """Where a fader stands for what it moves, 0..1; None where that is gone."""
    value = number_at(show, reach.target)
    return reach.position(value) if value is not None else None


def midi_of(source: str, value: float) -> list[int]:
    """The MIDI 1.0 message that shows a value (0..1) on a control, by its name: the same that the control
    itself would send; empty for what is no MIDI control.

    >>> midi_of("midi 1 note 36", 1.0), midi_of("midi 2 cc 7", 0.5), midi_of("osc /x", 1.0)
    ([144, 36, 127], [177, 7, 64], [])
    """
    words = source.split(" ")
    if words[0] != "midi" or not words[1].isdigit():
        return []
    channel, seven = int(words[1]) - 1 & 15, round(value * 127)
    match words[2:]:
        case ["note", number]:
            return [0x90 | channel, int(number) & 127, seven]
        case ["cc", number]:
            return [0xB0 | channel, int(number) & 127, seven]
        case ["bend"]:
            whole = round(value * 16383)
            return [0xE0 | channel, whole & 127, whole >> 7]
    return []

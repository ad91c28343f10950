"""Controls of controllers: what each does, by the show's mappings. None leaps, and none is lost."""

from collections.abc import Callable
from dataclasses import dataclass, field

from fulgura.core.kinds.action import Action
from fulgura.core.show.document import Show
from fulgura.core.show.numbers import number_at
from fulgura.core.show.surface import Fader, Mapping, Pad, Reach
from fulgura.core.surface.messages import Message, steps
from fulgura.core.timing.pickup import Pickup

STEP = 1.0 / 127.0
"""Of its range, what one step of an encoder moves."""
Turn = Callable[[str, float, str], None]
"""Sets a number of the document: its path, its value, the gesture."""


@dataclass
class Controls:
    """pickup: where faders stand; waits: mappings whose fader has not picked its value up yet, by their
    ids, and where it stands; moved: when each control moved, in seconds, of those in hands now.
    """

    pickup: Pickup = field(default_factory=Pickup)
    waits: dict[str, float] = field(default_factory=dict)
    moved: dict[tuple[str, str], float] = field(default_factory=dict)
    turning: dict[str, tuple[float, str]] = field(default_factory=dict)
    """Numbers that were turned since the last tick: path -> value and gesture."""
    _mappings: list[Mapping] | None = None
    _by_source: dict[str, list[Mapping]] = field(default_factory=dict)
    _actions: dict[str, Action] = field(default_factory=dict)

    def take(self, show: Show) -> None:
        """Take a show over."""
        if show.mappings is self._mappings:
            return
        self._mappings = show.mappings
        self._by_source = {}
        for mapping in show.mappings:
            self._by_source.setdefault(mapping.source, []).append(mapping)
        self._actions = {
            mapping.id: mapping.action.model() for mapping in show.mappings if mapping.action is not None
        }
        there = {mapping.id for mapping in show.mappings}
        self.waits = {id: at for id, at in self.waits.items() if id in there}

    def mapped(self, message: Message) -> list[Mapping]:
        """Mappings that a message moves."""
        return [
            mapping
            for mapping in self._by_source.get(message.source, [])
            if mapping.controller in ("", message.controller)
        ]

    def action(self, mapping: Mapping) -> Action:
        """What a mapping does, made once."""
        return self._actions[mapping.id]

    def turn(self, show: Show, mapping: Mapping, reach: Reach, message: Message, now_s: float) -> str:
        """Move a number as the control says; what came of it, in words."""
        if mapping.coding == "fine" and message.fine is None:
            return "waits for its other half"
        value = self._value(show, reach.target)
        if value is None:
            return "what it moved is gone"
        fader = f"{message.controller} {mapping.source} {reach.target}"
        stands = reach.position(value)
        if mapping.coding in ("twos", "offset", "sign"):
            position = min(1.0, max(0.0, stands + steps(mapping.coding, message.raw) * STEP))
        else:
            wanted = message.fine if message.fine is not None else message.value
            held = self.pickup.move(fader, wanted, stands, 0.0, 1.0)
            if held is None:
                self.waits = {**self.waits, mapping.id: round(wanted, 3)}
                return "waits: move it past the value"
            position = held
        if mapping.id in self.waits:
            self.waits = {id: at for id, at in self.waits.items() if id != mapping.id}
        new = round(reach.value(position), 4)
        self.turning[reach.target] = (new, self.pickup.gesture(fader, now_s))
        return f"{reach.target.rpartition('/')[2]} {new:g}"

    def _value(self, show: Show, path: str) -> float | None:
        return self.turning[path][0] if path in self.turning else number_at(show, path)


def pad_of(show: Show, page: str, target: str) -> Pad | None:
    """The pad that a mapping means: by its number on the open page, or by its id."""
    if target.isdigit():
        found = next((each for each in show.pages if each.id == page), None)
        return next((pad for pad in found.pads if pad.at == int(target) - 1), None) if found else None
    return next((pad for each in show.pages for pad in each.pads if pad.id == target), None)


def fader_of(show: Show, page: str, target: str) -> Fader | None:
    """The same of faders."""
    if target.isdigit():
        found = next((each for each in show.pages if each.id == page), None)
        return next((fader for fader in found.faders if fader.at == int(target) - 1), None) if found else None
    return next((fader for each in show.pages for fader in each.faders if fader.id == target), None)

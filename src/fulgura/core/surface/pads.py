"""Pads: pressed, held, switched, and waiting for the beat. No press is lost, and none counts twice."""

from collections.abc import Callable
from dataclasses import dataclass, field

from fulgura.core.kinds.action import Action, Stage
from fulgura.core.show.document import Show
from fulgura.core.show.surface import Pad, PadPage

Line = Callable[[str], int]
"""How many lines of a kind, "beat" or "bar", have fallen so far."""


@dataclass
class Waiting:
    """A press that waits for its line. line: how many had fallen when it came."""

    pad: str
    waits: str
    line: int
    strength: float


@dataclass
class Pads:
    """fingers: who holds each pad down; switched: pads that are on, of those whose actions do not show it;
    waiting: presses in the order that they came.
    """

    fingers: dict[str, set[str]] = field(default_factory=dict)
    switched: set[str] = field(default_factory=set)
    waiting: list[Waiting] = field(default_factory=list)
    presses: int = 0
    """How many presses were carried out."""
    _pages: list[PadPage] | None = None
    _pads: dict[str, Pad] = field(default_factory=dict)
    _actions: dict[str, tuple[Pad, list[Action]]] = field(default_factory=dict)

    def take(self, show: Show) -> None:
        """Take a show over; of pads that are gone nothing is remembered."""
        if show.pages is self._pages:
            return
        self._pages = show.pages
        self._pads = {pad.id: pad for page in show.pages for pad in page.pads}
        self._actions = {id: row for id, row in self._actions.items() if id in self._pads}
        self.fingers = {id: by for id, by in self.fingers.items() if id in self._pads}
        self.switched &= self._pads.keys()
        self.waiting = [each for each in self.waiting if each.pad in self._pads]

    def pad(self, id: str) -> Pad | None:
        """A pad by its id."""
        return self._pads.get(id)

    def actions(self, pad: Pad) -> list[Action]:
        """What it does, made once."""
        kept = self._actions.get(pad.id)
        if kept is None or kept[0] is not pad:
            kept = self._actions[pad.id] = (pad, [part.model() for part in pad.actions])
        return kept[1]

    def on(self, pad: Pad, stage: Stage) -> bool:
        """Whether what it does is so now: as its actions see it, else as it was switched or is held."""
        telling = [action for action in self.actions(pad) if _tells(action)]
        if telling:
            return all(action.lit(stage) for action in telling)
        return pad.id in self.switched or (pad.mode == "hold" and bool(self.fingers.get(pad.id)))

    def press(self, id: str, by: str, strength: float, stage: Stage, line: Line) -> bool:
        """A finger comes down; whether there is such a pad."""
        pad = self._pads.get(id)
        if pad is None:
            return False
        fingers = self.fingers.setdefault(id, set())
        if by in fingers and pad.mode == "hold":
            return True  # It has not let go since.
        fingers.add(by)
        if pad.mode == "hold" and len(fingers) > 1:
            return True  # Another finger holds it already.
        if pad.waits == "no":
            self._do(pad, strength, stage)
        elif any(each.pad == id for each in self.waiting):
            self.waiting = [each for each in self.waiting if each.pad != id]  # A second press takes it back.
        else:
            self.waiting.append(Waiting(id, pad.waits, line(pad.waits), strength))
        return True

    def release(self, id: str, by: str, stage: Stage) -> bool:
        """A finger goes up; whether there is such a pad."""
        pad, fingers = self._pads.get(id), self.fingers.get(id, set())
        if pad is None:
            return False
        if by in fingers:
            fingers.discard(by)
            if not fingers and pad.mode == "hold":
                self._let_go(pad, stage)
        return True

    def _let_go(self, pad: Pad, stage: Stage) -> None:
        if any(each.pad == pad.id for each in self.waiting):
            self.waiting = [each for each in self.waiting if each.pad != pad.id]
            return
        for action in self.actions(pad):
            action.release(stage)

    def leave(self, by: str, stage: Stage) -> None:
        """Whoever this was is gone: what it held is let go. by: the beginning of its fingers' names."""
        for id, fingers in list(self.fingers.items()):
            for finger in [finger for finger in fingers if finger.startswith(by)]:
                self.release(id, finger, stage)

    def step(self, stage: Stage, line: Line) -> None:
        """One tick: what waited for a line that falls now is done."""
        due = [each for each in self.waiting if line(each.waits) > each.line]
        self.waiting = [each for each in self.waiting if each not in due]
        for each in due:
            pad = self._pads.get(each.pad)
            if pad is not None:
                self._do(pad, each.strength, stage)

    def _do(self, pad: Pad, strength: float, stage: Stage) -> None:
        self.presses += 1
        if pad.mode == "switch" and self.on(pad, stage):
            self.switched.discard(pad.id)
            for action in self.actions(pad):
                action.release(stage)
            return
        if pad.mode == "switch":
            self.switched.add(pad.id)
        for action in self.actions(pad):
            action.press(stage, strength)


def _tells(action: Action) -> bool:
    """Whether an action sees for itself if what it does is so."""
    return type(action).lit is not Action.lit

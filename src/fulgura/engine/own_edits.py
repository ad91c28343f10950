"""Edits that hands made here, until the document's keeper has them too.

What a pad does is done in this tick; the document follows. Until the web process has said that it made the
same edit, it waits here, and is told again. An edit that came from there meanwhile is made here at once, and
when nothing waits any more the show is what the document says, whatever the order was.
"""

from collections import deque
from typing import Any
from uuid import uuid4

from fulgura.core.performer import Performer
from fulgura.core.played import Made
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, apply
from fulgura.core.show.events import EditMade

AGAIN_TICKS = 30
MANY = 200
"""When more wait than this, movements of one fader become one edit."""


class OwnEdits:
    """base: the document as its keeper has it; waiting: what was made here beyond that, in order."""

    def __init__(self, performer: Performer) -> None:
        self.performer = performer
        self.base: Show = performer.show
        self.run = uuid4().hex[:12]
        self.waiting: deque[tuple[int, Made]] = deque()
        self.number = 0
        self._mixed = False

    def add(self, made: list[Made]) -> list[dict[str, Any]]:
        """Edits that were just made here; how they are told."""
        told = []
        for each in made:
            last = self.waiting[-1][1] if len(self.waiting) > MANY else None
            if last is not None and each.gesture and last.gesture == each.gesture:
                self.waiting.pop()
            self.number += 1
            self.waiting.append((self.number, each))
            told.append(self._told(self.number, each))
        return told

    def again(self) -> list[dict[str, Any]]:
        """What still waits, to be told once more."""
        return [self._told(number, made) for number, made in self.waiting]

    def _told(self, number: int, made: Made) -> dict[str, Any]:
        return {
            "run": self.run,
            "number": number,
            "event": made.event.model_dump(),
            "name": made.name,
            "gesture": made.gesture,
        }

    def theirs(self, event: EditMade) -> None:
        """Make an edit that came from the document's keeper. Raises EditError."""
        if not self.waiting:
            self.performer.act(event)
            self.base = self.performer.show
            return
        self.base, _ = apply(self.base, event.edit)
        self._mixed = True
        try:
            self.performer.act(event)
        except EditError:
            pass  # What was made here goes first until all is confirmed.

    def confirmed(self, number: int, refused: bool = False) -> None:
        """The keeper made ours too, up to this number; or refused it."""
        while self.waiting and self.waiting[0][0] <= number:
            at, made = self.waiting.popleft()
            if refused and at == number:
                self._mixed = True
            elif self._mixed or self.waiting:
                try:
                    self.base, _ = apply(self.base, made.event.edit)
                except EditError:
                    self._mixed = True
        if not self.waiting:
            if self._mixed:
                self.performer.configure(self.base)
            self.base, self._mixed = self.performer.show, False

    def whole(self, show: Show) -> None:
        """The keeper sent the whole show: what was made here beyond it is made anew on it."""
        self.base = now = show
        for _, made in self.waiting:
            try:
                now, _ = apply(now, made.event.edit)
            except EditError:
                continue
        self._mixed = bool(self.waiting)
        self.performer.configure(now)

"""The show as the playing surface has it in hand: what it changes takes effect in the performer at once, and
is kept for those who keep the document.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit
from fulgura.core.show.events import EditMade

if TYPE_CHECKING:
    from fulgura.core.performer import Performer


@dataclass(frozen=True)
class Made:
    """An edit that a hand made by way of the surface, and what undo calls it."""

    event: EditMade
    name: str
    gesture: str


class PlayedShow:
    """The instrument of core/surface over a performer.

    made: edits since they were taken last; seeks: where the main track is sent, likewise; clears: how often
    feedback was cleared.
    """

    def __init__(self, performer: "Performer") -> None:
        self._performer = performer
        self.made: list[Made] = []
        self.seeks: list[float] = []
        self.clears = 0

    @property
    def show(self) -> Show:
        return self._performer.show

    @property
    def beat_s(self) -> float:
        return self._performer.main.analyser.beat.interval_s

    @property
    def stream_s(self) -> float:
        return self._performer.main.analyser.time

    def edit(
        self,
        edit: Edit,
        name: str,
        gesture: str = "",
        glide_s: float = 0.0,
        over: Mapping[str, float] | None = None,
    ) -> None:
        event = EditMade(edit=edit, glide_ms=min(600_000.0, 1000.0 * glide_s), over=dict(over or {}))
        self._performer.act(event)
        self.made.append(Made(event, name[:80], gesture))

    def addresses(self, target: str) -> list[str]:
        return self._performer.router.addresses(target)

    def hold_value(self, address: str, value: Any) -> None:
        try:
            self._performer.override(address, value)
        except (ValueError, TypeError):
            pass  # A value of another kind: there is nothing to hold.

    def release_value(self, address: str, glide_s: float) -> None:
        self._performer.release(address, glide_s)

    def held(self) -> Sequence[str]:
        return list(self._performer.router.overrides.active)

    def turn_beat(self, what: str, value: float = 0.0, age_s: float = 0.0) -> None:
        self._performer.main.turn_beat(what, value, age_s)

    def clear_feedback(self) -> None:
        self.clears += 1

    def seek(self, seconds: float) -> None:
        self.seeks.append(seconds)

    def take_made(self) -> list[Made]:
        """Edits since this was called last."""
        made, self.made = self.made, []
        return made

    def take_seeks(self) -> list[float]:
        """Where the main track was sent since this was called last."""
        seeks, self.seeks = self.seeks, []
        return seeks

"""What others hear of the playing surface: what it shows, what controls said and are to show, the beat."""

from typing import Any

from fulgura import bus
from fulgura.core.performer import Performer
from fulgura.core.surface.feedback import Said, midi_of

NEWS_EVERY, TEMPO_EVERY = 15, 2
"""Ticks between two looks at what changes all the time, and between two words on the beat."""


class SurfaceNews:
    """Tells what has changed, when it has. ports: what the control process says of its own."""

    def __init__(self, side: bus.EngineSide) -> None:
        self.bus = side
        self.ports: dict[str, Any] = {}
        self._state: dict[str, Any] = {}
        self._heard = 0
        self._feedback: Said = {}
        self._moving: dict[str, Any] = {}

    def hello(self) -> None:
        """Somebody new listens: all is told anew."""
        self._state, self._feedback = {}, {}

    def tell(self, performer: Performer, due: float) -> None:
        """After a tick. due: monotonic seconds when it should have begun."""
        surface = performer.surface
        if performer.number % NEWS_EVERY == 0 or not self._moving:
            self._moving = surface.tempo.state(performer.show, performer.main, surface.seconds)
        state = surface.state(self._moving)
        if state != self._state:
            self._state = state
            self.bus.publish_data(bus.SURFACE, state)
        if surface.news.heard != self._heard:
            rows = [row for row in surface.news.log if row["number"] > self._heard]
            self._heard = surface.news.heard
            self.bus.publish_data(bus.CONTROL, rows)
        if surface.feedback is not self._feedback:
            changed = [
                [*control, value, midi_of(control[1], value)]
                for control, value in surface.feedback.items()
                if self._feedback.get(control) != value
            ]
            self._feedback = surface.feedback
            if changed:
                self.bus.publish_data(bus.FEEDBACK, changed)
        if performer.number % TEMPO_EVERY == 0:
            self.bus.publish_data(bus.TEMPO, self._tempo(performer, due))

    @staticmethod
    def _tempo(performer: Performer, due: float) -> dict[str, Any]:
        """Where the beat is at a monotonic time, and who wants to hear of it."""
        control, beat = performer.show.control, performer.main.analyser.beat
        return {
            "at": due,
            "beats": performer.beats.position,
            "beat_s": beat.interval_s,
            "beats_a_bar": performer.main.beats_a_bar,
            "clock_to": control.clock_to,
            "osc_to": control.osc_to,
            "tempo_by_osc": control.tempo_by_osc,
            "feedback": control.feedback,
        }

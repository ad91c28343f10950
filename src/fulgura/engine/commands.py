"""What the engine is told to do. No edit and no show ends it: what cannot be played is left out, and said."""

import gc
import time
import traceback
from collections import deque
from collections.abc import Callable
from math import inf
from typing import TYPE_CHECKING

from pydantic import TypeAdapter, ValidationError

from fulgura.core.performer import Performer
from fulgura.core.show.document import Show
from fulgura.core.show.events import Event, Timed
from fulgura.core.show.inputs import MAIN
from fulgura.engine.handover import take_over
from fulgura.engine.kept_state import left
from fulgura.engine.last_good import playable, say
from fulgura.engine.own_edits import OwnEdits
from fulgura.engine.priority import at_ease

if TYPE_CHECKING:
    from fulgura.engine.main import Engine

EVENT: TypeAdapter[Event] = TypeAdapter(Event)
LONGEST_TAKE_S = 20.0
"""How long taking a show or an edit may need, where much is designed or compiled for it."""
MOST_WAITING = 60
"""Edits that wait; more come only when somebody sends them faster than they can be made."""
MOST_BAD = 20
"""Ticks in a row that may fail before the process ends and begins anew."""


class Commands:
    """Carries out what comes over the bus. bad: how many ticks failed in a row."""

    def __init__(self, engine: "Engine") -> None:
        self.engine = engine
        self.bad = 0
        self.waiting: deque[dict] = deque()
        """Shows and edits for which there was no time yet: ticks do not wait for them."""

    def obey(self, commands: list[dict], until: float = inf) -> None:
        """Carry out commands in order. Of several shows only the newest is taken, and no edit of an older
        one. until: from then on, in monotonic seconds, shows and edits wait for the next call; what hands do
        and what is heard never waits.
        """
        newest = max((i for i, command in enumerate(commands) if command.get("do") == "show"), default=-1)
        for number, command in enumerate(commands):
            match command.get("do"):
                case "show" if number == newest:
                    self.waiting = deque([command])
                case "edit" if number > newest:
                    self.waiting.append(command)
                case _:
                    self._obey_at_once(command)
            self._take_waiting(until)
        self._take_waiting(until)

    def _take_waiting(self, until: float) -> None:
        if len(self.waiting) > MOST_WAITING:
            # More than can be made one after another: the whole show will come instead.
            self.waiting.clear()
            self.engine.revision = -1
        while self.waiting and time.monotonic() < until:
            command = self.waiting.popleft()
            self._try(self._take_show if command["do"] == "show" else self._take_edit, command)

    def _obey_at_once(self, command: dict) -> None:
        engine, input_id = self.engine, str(command.get("input", MAIN))
        match command.get("do"):
            case "event":
                self._act(command)
            case "refused":
                engine.own.confirmed(int(command.get("number", 0)), refused=True)
            case "ports":
                engine.surface.ports = command.get("state", {})
            case "audio" if input_id in engine.players:
                engine.players[input_id].live.feed(command.get("pcm", b""), command.get("channels", 1))
                if input_id == MAIN:
                    engine.arrivals.append(time.monotonic())
            case "seek" if (
                input_id in engine.players and (track := engine.players[input_id].track) is not None
            ):
                track.seek(float(command.get("seconds", 0.0)))
            case "record" if input_id in engine.players:
                engine.recorders.begin(input_id, str(command.get("name", "recording")))
            case "end-recording":
                engine.recorders.end(input_id)
            case "hello":
                engine.announce()
                engine.surface.hello()
            case "measure":
                measured = (engine.lateness, engine.work, engine.block_to_frame, engine.frame_to_wire)
                for numbers in measured:
                    numbers.clear()
                engine.missed = 0

    def _try(self, take: Callable[[dict], None], command: dict) -> None:
        """Take a show or an edit. What cannot be played is left out, and said."""
        self.engine.heart.busy(LONGEST_TAKE_S)
        try:
            with at_ease():
                take(command)
        except Exception as error:
            self.fall_back(error, int(command.get("revision", self.engine.revision)))
        # The time that it might have taken is no leave to hang from now on.
        self.engine.heart.beat()

    def fall_back(self, error: Exception, revision: int) -> None:
        """Something of this revision cannot be played: go on as before it, or without that part. Raises the
        error when not even that is possible.
        """
        self.engine.unplayed = say(error, "The last change cannot be played; the show goes on without it")
        self.bad += 1
        found = left(self.engine.handover.path) if self.engine.handover.path is not None else None
        if self.bad > MOST_BAD:
            raise error
        if found is not None and revision >= 0 and found[0]["revision"] != revision:
            take_over(self.engine, found[0])
            self.engine.catch_up(found[0]["due"])
        self.engine.revision = revision

    def _act(self, command: dict) -> None:
        """A hand on the show. at: when it moved, by the machine's monotonic clock."""
        try:
            event = EVENT.validate_python(command.get("event"))
            if isinstance(event, Timed) and isinstance(command.get("at"), float):
                event.age_s = min(10.0, max(0.0, self.engine.next_due - command["at"]))
            self.engine.performer.act(event)
        except (ValueError, TypeError):
            pass  # A hand on what is gone, or on a value of another kind: nothing to hold.
        except Exception:
            # Nothing that a page or a controller says ends the engine.
            traceback.print_exc()

    def _take_edit(self, command: dict) -> None:
        """Make one edit here too, or hear that one of our own was made there. One that does not follow on
        what is played is passed over: the whole show will come.
        """
        if command.get("from") != self.engine.revision:
            return
        if self.engine.unplayed:
            # What plays is not what the document says: after this edit it may be, as a whole.
            self.engine.revision = -1
            return
        show = self.engine.performer.show
        try:
            if command.get("made") is not None:
                self.engine.own.confirmed(int(command["made"]))
            else:
                self.engine.own.theirs(EVENT.validate_python(command["event"]))  # type: ignore[arg-type]
        except (ValueError, KeyError):
            return
        self.engine.revision = int(command["revision"])
        self.engine.follow(show)

    def _take_show(self, command: dict) -> None:
        try:
            show = Show.model_validate(command["show"])
        except (ValidationError, KeyError):
            # The web process validates; a show that fails here would be its mistake, and must not stop us.
            return
        if self._plays(show):
            # A web process that begins anew says what is known here: nothing has to be made again.
            self.engine.revision = int(command.get("revision", 0))
            return
        first, places = self.engine.revision < 0, command.get("positions_s", {})
        self.engine.revision = int(command.get("revision", 0))
        self.engine.unplayed, places = "", places if first else {}
        try:
            self._play(show, places)
        except Exception as error:
            _, bad = playable(show, lambda trial: self._play_anew(trial, places))
            self.engine.unplayed = say(
                error, f"{', '.join(bad)} cannot be played; the show goes on without it"
            )
        if first:
            # Designing filters has imported a good deal more: the collector need not look through that
            # either.
            gc.freeze()

    def _plays(self, show: Show) -> bool:
        engine = self.engine
        return (
            engine.revision >= 0
            and not engine.unplayed
            and not engine.own.waiting
            and show == engine.performer.show
        )

    def _play(self, show: Show, places: dict[str, float]) -> None:
        self.engine.own.whole(show)
        now = self.engine.performer.show
        self.engine.configure_inputs(now, places)
        self.engine.lights.configure(now.light_outputs, now.lights)

    def _play_anew(self, show: Show, places: dict[str, float]) -> None:
        """On a performer that has seen nothing that it could not play."""
        self.engine.performer = Performer(Show(name="Nothing yet"))
        self.engine.own = OwnEdits(self.engine.performer)
        self._play(show, places)
        self.engine.performer.packet(self.engine.performer.tick())

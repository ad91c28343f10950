"""The engine: the real-time process. Sixty ticks a second on a monotonic clock; a tick waits for nobody."""

import gc
import signal
import time
from pathlib import Path

from pydantic import TypeAdapter, ValidationError

from fulgura import bus
from fulgura.alive import Heart
from fulgura.core import wire
from fulgura.core.clock import BLOCK, FRAME_RATE, SAMPLE_RATE, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.document import Show
from fulgura.core.show.events import ClockRead, Event, Timed
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.part import same
from fulgura.engine.handover import Handover, missed_ticks, take_over, wait_to_go
from fulgura.engine.kept_state import left
from fulgura.engine.light_outputs import LightOutputs
from fulgura.engine.measure import Minute
from fulgura.engine.own_edits import AGAIN_TICKS, OwnEdits
from fulgura.engine.player import Player
from fulgura.engine.priority import prefer_this_process
from fulgura.engine.published import named, published
from fulgura.engine.recorder import Recorder, assemble_left_behind
from fulgura.engine.reports import report
from fulgura.engine.surface_news import SurfaceNews

EVENT: TypeAdapter[Event] = TypeAdapter(Event)
TICK_S = 1.0 / FRAME_RATE
STATE_EVERY = 15
"""Ticks between two state messages."""
BEAT_EVERY = 6
"""Ticks between two words that it lives."""
LONGEST_TAKE_S = 20.0
"""How long taking a show or an edit may need, where much is designed or compiled for it."""
CLOCK_EVERY = 15
"""Ticks between two looks at the time of the day."""
MEASURE_EVERY = 120
"""Ticks between two looks at the percentiles: they cost half a millisecond."""


class Engine:
    """Owns the performer, the inputs and the lights; run() goes on until stop is set."""

    def __init__(self, folder: Path, tracks: Path, kept: Path | None = None) -> None:
        """kept: where it leaves what a successor goes on from."""
        self.heart, self.handover = Heart(), Handover(kept)
        self.bus = bus.EngineSide(folder)
        self.tracks = tracks
        self.performer = Performer(Show(name="Nothing yet"))
        self.own = OwnEdits(self.performer)
        self.revision = -1
        self.surface = SurfaceNews(self.bus)
        self._followed: Show | None = None
        """The show that inputs and outputs follow."""
        self.announced: tuple[int, ...] = ()
        self.players: dict[str, Player] = {MAIN: Player(tracks)}
        self.recorders: dict[str, Recorder] = {}
        assemble_left_behind(tracks)
        self.lights = LightOutputs()
        self.frame_to_wire = Minute(60 * FRAME_RATE)
        self.stop = False
        self.next_due = 0.0
        """When the coming tick is due, in monotonic seconds."""
        self.lateness, self.work = Minute(60 * FRAME_RATE), Minute(60 * FRAME_RATE)
        self.arrivals: list[float] = []
        self.block_to_frame = Minute(60 * SAMPLE_RATE // BLOCK)
        self.measured: dict = {}
        self.due_at: list[float] = []
        self.missed = 0
        self.unplayed = ""
        """Why the newest edit or show is not played; empty for all is well."""

    # -- commands -------------------------------------------------------------------------------------------

    def obey(self, commands: list[dict]) -> None:
        """Carry out commands in order. Of several shows only the newest is taken, and no edit of an older
        one.
        """
        newest = max((i for i, command in enumerate(commands) if command.get("do") == "show"), default=-1)
        for number, command in enumerate(commands):
            input_id = str(command.get("input", MAIN))
            match command.get("do"):
                case "show" if number == newest:
                    self.heart.busy(LONGEST_TAKE_S)
                    self._take_show(command)
                case "edit" if number > newest:
                    self.heart.busy(LONGEST_TAKE_S)
                    self._take_edit(command)
                case "event":
                    self._act(command)
                case "refused":
                    self.own.confirmed(int(command.get("number", 0)), refused=True)
                case "ports":
                    self.surface.ports = command.get("state", {})
                case "audio" if input_id in self.players:
                    self.players[input_id].live.feed(command.get("pcm", b""), command.get("channels", 1))
                    if input_id == MAIN:
                        self.arrivals.append(time.monotonic())
                case "seek" if (
                    input_id in self.players and (track := self.players[input_id].track) is not None
                ):
                    track.seek(float(command.get("seconds", 0.0)))
                case "record" if input_id in self.players and input_id not in self.recorders:
                    self.recorders[input_id] = Recorder(
                        self.tracks, Path(str(command.get("name", "recording"))).name
                    )
                case "end-recording" if input_id in self.recorders:
                    self.recorders[input_id].close()
                    if self.recorders[input_id].finished:  # It ended by itself, and its fault has been read.
                        del self.recorders[input_id]
                case "hello":
                    self._announce()
                    self.surface.hello()
                case "measure":
                    for numbers in (self.lateness, self.work, self.block_to_frame, self.frame_to_wire):
                        numbers.clear()
                    self.missed = 0

    def _act(self, command: dict) -> None:
        """A hand on the show. at: when it moved, by the machine's monotonic clock."""
        try:
            event = EVENT.validate_python(command.get("event"))
            if isinstance(event, Timed) and isinstance(command.get("at"), float):
                event.age_s = min(10.0, max(0.0, self.next_due - command["at"]))
            self.performer.act(event)
        except (ValueError, TypeError):
            pass  # A hand on what is gone, or on a value of another kind: nothing to hold.

    def _take_edit(self, command: dict) -> None:
        """Make one edit here too, or hear that one of our own was made there. One that does not follow on
        what is played is passed over: the whole show will come.
        """
        if command.get("from") != self.revision:
            return
        show = self.performer.show
        try:
            if command.get("made") is not None:
                self.own.confirmed(int(command["made"]))
            else:
                self.own.theirs(EVENT.validate_python(command["event"]))  # type: ignore[arg-type]
        except (ValueError, KeyError):
            return
        self.revision = int(command["revision"])
        self._follow(show)

    def _follow(self, before: Show) -> None:
        """What an edit asks of inputs and outputs."""
        now = self.performer.show
        if not same(before.inputs, now.inputs) or _films(before) != _films(now):
            self.configure_inputs(now, {})
        if not same(before.light_outputs, now.light_outputs) or before.lights.private != now.lights.private:
            self.lights.configure(now.light_outputs, now.lights)

    def _take_show(self, command: dict) -> None:
        try:
            show = Show.model_validate(command["show"])
        except (ValidationError, KeyError):
            # The web process validates; a show that fails here would be its mistake, and must not stop us.
            return
        first, places = self.revision < 0, command.get("positions_s", {})
        self.revision = int(command.get("revision", 0))
        self.own.whole(show)
        now = self.performer.show
        self.configure_inputs(now, places if first else {})
        self.lights.configure(now.light_outputs, now.lights)
        if first:
            # Designing filters has imported a good deal more: the collector need not look through that
            # either.
            gc.freeze()

    def configure_inputs(self, show: Show, positions_s: dict[str, float]) -> None:
        """Open and close what inputs play; positions_s: where tracks were before this process began."""
        before: dict[str, Player] = self.players
        kept = {
            audio_input.id: before.get(audio_input.id) or Player(self.tracks) for audio_input in show.inputs
        }
        for gone in before.keys() - kept.keys():
            before[gone].close()
        self.players = kept
        for audio_input in show.inputs:
            position_s, film = positions_s.get(audio_input.id, 0.0), show.film_track(audio_input.film.part)
            kept[audio_input.id].choose(audio_input, show.seed, float(position_s), film)

    def _announce(self) -> None:
        """Tell what the numbers of the frames that follow mean."""
        self.announced = named(self.performer)
        self.bus.publish_data(bus.LAYOUT, published(self.performer))

    # -- the tick -------------------------------------------------------------------------------------------

    def run(self) -> None:
        prefer_this_process()
        start = time.monotonic()
        tick, asked = 0, 0
        self.heart.beat()
        while not self.stop:
            tick += 1
            due = start + tick * TICK_S
            self.next_due = due
            self._wait_until(due)
            now = time.monotonic()
            if now - due > 0.25:
                # The machine slept or was stopped: go on from here instead of racing after lost time.
                self.missed += int((now - due) / TICK_S)
                start, tick, asked, due = now, 0, 0, now
                continue
            self.lateness.add(now - due)
            blocks = blocks_due(tick) - asked
            # A played block arrives when its last sample is due.
            self.due_at = [start + (asked + i + 1) * BLOCK / SAMPLE_RATE for i in range(blocks)]
            asked += blocks
            self._tick(blocks, now)
            self.handover.leave(self)
            self.work.add(time.monotonic() - now)
            if tick % BEAT_EVERY == 0:
                self.heart.beat()
            if tick % MEASURE_EVERY == 0:
                self.measured = self._measured()
            if tick % STATE_EVERY == 0:
                self._report()
        for recorder in self.recorders.values():
            recorder.close()
        for recorder in self.recorders.values():
            recorder.wait(3.0)
        self.lights.close()
        self.bus.close()

    def catch_up(self, since: float) -> None:
        """Play at once the ticks that were due since then, in monotonic seconds: lights and clocks are right
        again.
        """
        made = asked = 0
        while missed_ticks(since) > made and not self.stop:
            made += 1
            blocks = blocks_due(made) - asked
            asked += blocks
            self.due_at = []
            self.next_due = since + made * TICK_S
            self._tick(blocks, time.monotonic())
            self.heart.beat()

    def _wait_until(self, due: float) -> None:
        """Take commands as they come, but be awake in time."""
        while (left := due - time.monotonic()) > 0.0:
            if left > 0.003:
                self.obey(self.bus.take(left - 0.002))
            else:
                time.sleep(left)
        self.obey(self.bus.take())

    def _tick(self, due: int, now: float) -> None:
        performer = self.performer
        for input_id, player in self.players.items():
            recorder = self.recorders.get(input_id)
            if player.film is not None:
                player.film.at_s = performer.picture.film_place(player.shows)
            for block in player.input.blocks(due):
                performer.hear(block, input_id)
                if recorder is not None:
                    recorder.add(block)
        self._place_track()
        # What a hand did while the sound was heard still counts for this tick.
        self.obey(self.bus.take())
        show = performer.show
        frame = performer.tick()
        self._tell_made(show)
        if self.announced != named(performer):
            self._announce()
        self.bus.publish(bus.FRAME, wire.encode(performer.packet(frame)))
        published = time.monotonic()
        for arrived in self.arrivals if self.players[MAIN].use == "live" else self.due_at:
            self.block_to_frame.add(published - arrived)
        self.arrivals.clear()
        self.lights.send(frame.universes, now)
        self.frame_to_wire.add(time.monotonic() - now)
        self.surface.tell(performer, self.next_due)

    def _place_track(self) -> None:
        """Tell the performer where the main track is, and what time of the day."""
        placed = self.players[MAIN].placed()
        if placed is not None:
            self.performer.act(placed)
        if self.performer.number % CLOCK_EVERY == 0:
            now = time.localtime()
            self.performer.act(ClockRead(seconds=3600 * now.tm_hour + 60 * now.tm_min + now.tm_sec))

    def _tell_made(self, before: Show) -> None:
        """Edits that hands made since the last tick go to the document's keeper."""
        played = self.performer.played
        made = played.take_made()
        if made:
            self._follow(self._followed if self._followed is not None else before)
        self._followed = self.performer.show
        news = self.own.add(made)
        if self.own.waiting and self.performer.number % AGAIN_TICKS == 0:
            news = self.own.again()
        for edit in news:
            self.bus.publish_data(bus.EDIT, edit)
        for seconds in played.take_seeks():
            track = self.players[MAIN].track
            if track is not None:
                track.seek(seconds)

    def _report(self) -> None:
        for input_id, recorder in list(self.recorders.items()):
            if input_id not in self.players:
                recorder.close()
            if recorder.finished and not recorder.fault:
                del self.recorders[input_id]
        self.bus.publish_data(bus.STATE, report(self))

    def _measured(self) -> dict:
        named = {"lateness_ms": self.lateness, "work_ms": self.work, "block_to_frame_ms": self.block_to_frame}
        named["tick_to_wire_ms"] = self.frame_to_wire
        return {
            "missed": self.missed,
            **{name: numbers.percentiles_ms() for name, numbers in named.items() if numbers.count},
        }


def _films(show: Show) -> list[str]:
    """The sounds of the films that inputs hear."""
    return [show.film_track(each.film.part) for each in show.inputs if each.use == "film"]


def main(folder: Path, tracks: Path, kept: Path, spare: bool = False) -> None:
    """Run the engine until SIGTERM or SIGINT. kept: where it leaves what a successor goes on from; spare:
    whether it waits until another one has ended.
    """
    goes_on = wait_to_go(kept) if spare else True
    engine = Engine(folder, tracks, kept)

    def stop(*_: object) -> None:
        engine.stop = True

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    if goes_on and (found := left(kept)) is not None:
        take_over(engine, found[0])
        engine.catch_up(found[0]["due"])
    engine.run()

"""The engine: the real-time process. Sixty ticks a second on a monotonic clock; a tick waits for nobody."""

import signal
import time
from math import inf
from pathlib import Path

from fulgura import bus
from fulgura.alive import Heart
from fulgura.core import wire
from fulgura.core.clock import BLOCK, FRAME_RATE, SAMPLE_RATE, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.document import Show
from fulgura.core.show.events import ClockRead
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.part import same
from fulgura.engine.commands import Commands
from fulgura.engine.handover import Handover, missed_ticks, take_over, wait_to_go
from fulgura.engine.kept_state import OLDEST_S, left
from fulgura.engine.light_outputs import LightOutputs
from fulgura.engine.measure import Minute
from fulgura.engine.own_edits import AGAIN_TICKS, OwnEdits
from fulgura.engine.player import Player
from fulgura.engine.priority import prefer_this_process
from fulgura.engine.published import named, published
from fulgura.engine.recorder import assemble_left_behind
from fulgura.engine.recorders import Recorders
from fulgura.engine.reports import report
from fulgura.engine.surface_news import SurfaceNews

TICK_S = 1.0 / FRAME_RATE
STATE_EVERY = 15
"""Ticks between two state messages."""
LONGEST_CATCH_UP_S = 1.5
EDIT_S = 0.004
"""The time that a tick has for edits, and that one takes at least."""
BEAT_EVERY = 6
"""Ticks between two words that it lives."""
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
        self.recorders = Recorders(tracks)
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
        self.commands = Commands(self)

    # -- commands -------------------------------------------------------------------------------------------

    def obey(self, commands: list[dict], until: float = inf) -> None:
        """Carry out commands in order; from then on, in monotonic seconds, shows and edits wait."""
        self.commands.obey(commands, until)

    def follow(self, before: Show) -> None:
        """What an edit asks of inputs and outputs."""
        now = self.performer.show
        if not same(before.inputs, now.inputs) or _films(before) != _films(now):
            self.configure_inputs(now, {})
        if not same(before.light_outputs, now.light_outputs) or before.lights.private != now.lights.private:
            self.lights.configure(now.light_outputs, now.lights)

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

    def announce(self) -> None:
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
            try:
                self._tick(blocks, now)
                self.handover.leave(self)
                self.commands.bad = 0
            except Exception as error:
                self.commands.fall_back(error, self.revision)
            self.work.add(time.monotonic() - now)
            if tick % BEAT_EVERY == 0:
                self.heart.beat()
            if tick % MEASURE_EVERY == 0:
                self.measured = self._measured()
            if tick % STATE_EVERY == 0:
                self._report()
        self.recorders.close()
        self.lights.close()
        self.bus.close()

    def catch_up(self, since: float) -> None:
        """Play at once the ticks that were due since then, in monotonic seconds: lights and clocks are right
        again.
        """
        begun = time.monotonic()
        since, made, asked = max(since, begun - OLDEST_S), 0, 0
        # A machine that is slower than time itself never catches up.
        while missed_ticks(since) > made and not self.stop and time.monotonic() - begun < LONGEST_CATCH_UP_S:
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
                # Edits that wait already are made while there is time.
                idle_s = 0.0 if self.commands.waiting and left > EDIT_S else left - 0.002
                self.obey(self.bus.take(idle_s), due - EDIT_S)
            else:
                time.sleep(left)
        self.obey(self.bus.take(), due)

    def _tick(self, due: int, now: float) -> None:
        performer = self.performer
        for input_id, player in self.players.items():
            recorder = self.recorders.of.get(input_id)
            if player.film is not None:
                player.film.at_s = performer.picture.film_place(player.shows)
            for block in player.input.blocks(due):
                performer.hear(block, input_id)
                if recorder is not None:
                    recorder.add(block)
        self._place_track()
        # What a hand did while the sound was heard still counts for this tick, and at least one edit.
        self.obey(self.bus.take(), time.monotonic() + EDIT_S)
        show = performer.show
        frame = performer.tick()
        self._tell_made(show)
        if self.announced != named(performer):
            self.announce()
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
            self.follow(self._followed if self._followed is not None else before)
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
        self.recorders.tidy(set(self.players))
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

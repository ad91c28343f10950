"""The engine: the real-time process. Sixty ticks a second on a monotonic clock; a tick waits for nobody."""

import gc
import os
import signal
import time
from pathlib import Path

from pydantic import ValidationError

from fulgura import bus
from fulgura.core import BLOCK, FRAME_RATE, SAMPLE_RATE, wire
from fulgura.core.performer import Performer, blocks_due
from fulgura.core.show.document import Show
from fulgura.engine.inputs import HouseInput, Input, LiveInput, TrackInput
from fulgura.engine.measure import Minute
from fulgura.engine.sacn_output import SacnOutput

TICK_S = 1.0 / FRAME_RATE
STATE_EVERY = 15
"""Ticks between two state messages."""
MEASURE_EVERY = 120
"""Ticks between two looks at the percentiles: they cost half a millisecond."""


class Engine:
    """Owns the performer, the inputs and the lights; run() goes on until stop is set."""

    def __init__(self, folder: Path, tracks: Path) -> None:
        self.bus = bus.EngineSide(folder)
        self.tracks = tracks
        self.performer = Performer(Show(name="Nothing yet"))
        self.revision = -1
        self.track: TrackInput | None = None
        self.house: HouseInput | None = None
        self.live = LiveInput()
        self.lights = SacnOutput()
        self.start_position_s = 0.0
        self.stop = False
        self.lateness, self.work = Minute(60 * FRAME_RATE), Minute(60 * FRAME_RATE)
        self.arrivals: list[float] = []
        self.block_to_frame = Minute(60 * SAMPLE_RATE // BLOCK)
        self.measured: dict = {}
        self.due_at: list[float] = []
        self.missed = 0

    # -- commands -------------------------------------------------------------------------------------------

    def obey(self, commands: list[dict]) -> None:
        """Carry out commands. Of several shows only the newest is taken: the document is the truth."""
        newest = None
        for command in commands:
            match command.get("do"):
                case "show":
                    newest = command
                case "audio":
                    self.live.feed(command.get("pcm", b""), command.get("channels", 1))
                    self.arrivals.append(time.monotonic())
                case "seek" if self.track is not None:
                    self.track.seek(float(command.get("seconds", 0.0)))
                case "hello":
                    self._announce()
                case "measure":
                    for numbers in (self.lateness, self.work, self.block_to_frame):
                        numbers.clear()
                    self.missed = 0
        if newest is not None:
            self._take_show(newest)

    def _take_show(self, command: dict) -> None:
        try:
            show = Show.model_validate(command["show"])
        except (ValidationError, KeyError):
            return  # The web process validates; a show that fails here would be its mistake, and must not stop us.
        if self.revision < 0:
            self.start_position_s = float(command.get("position_s", 0.0))
        self.revision = int(command.get("revision", 0))
        before = (self.performer.plan.id, self.performer.layout.id)
        self.performer.configure(show)
        self._choose_input(show)
        self.lights.configure(show.light_output, {lamp.universe for lamp in show.lamps})
        if before != (self.performer.plan.id, self.performer.layout.id):
            self._announce()

    def _choose_input(self, show: Show) -> None:
        if show.input.use == "track" and show.input.track.track:
            wanted = show.input.track
            if self.track is None or self.track.track != wanted.track:
                # The name comes from the document; only the last part is used, so that it cannot lead elsewhere.
                self.track = TrackInput(self.tracks / f"{Path(wanted.track).name}.flac", wanted.track, self.start_position_s)
                self.start_position_s = 0.0
            self.track.playing, self.track.loop = wanted.playing, wanted.loop
        if show.input.use == "house":
            if self.house is None:
                self.house = HouseInput(show)
            self.house.settings = show.input.house

    @property
    def input(self) -> Input:
        use = self.performer.show.input.use
        if use == "track" and self.track is not None:
            return self.track
        if use == "house" and self.house is not None:
            return self.house
        return self.live

    def _announce(self) -> None:
        self.bus.publish_data(bus.LAYOUT, {
            "layout": self.performer.layout.model_dump(), "plan": self.performer.plan.model_dump(),
        })

    # -- the tick -------------------------------------------------------------------------------------------

    def run(self) -> None:
        _prefer_this_process()
        start = time.monotonic()
        tick, asked = 0, 0
        while not self.stop:
            tick += 1
            due = start + tick * TICK_S
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
            self.work.add(time.monotonic() - now)
            if tick % MEASURE_EVERY == 0:
                self.measured = self._measured()
            if tick % STATE_EVERY == 0:
                self._report()
        self.lights.close()
        self.bus.close()

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
        for block in self.input.blocks(due):
            performer.hear(block)
        frame = performer.tick()
        self.bus.publish(bus.FRAME, wire.encode(performer.packet(frame)))
        published = time.monotonic()
        for arrived in self.arrivals if self.performer.show.input.use == "live" else self.due_at:
            self.block_to_frame.add(published - arrived)
        self.arrivals.clear()
        self.lights.send(frame.universes, now)

    def _report(self) -> None:
        self.bus.publish_data(bus.STATE, {
            "needs_show": self.revision < 0, "revision": self.revision, "input": {"use": self.performer.show.input.use, **self.input.state()},
            "lights": {"sent": self.lights.sent, "failed": self.lights.failed, "trouble": self.lights.trouble},
            "why": dict(zip(self.performer.layout.routes, self.performer.router.explain())),
            "repaired": self.performer.repaired, "frame": self.performer.number, "measured": self.measured,
        })

    def _measured(self) -> dict:
        named = {"lateness_ms": self.lateness, "work_ms": self.work, "block_to_frame_ms": self.block_to_frame}
        return {"missed": self.missed, **{name: numbers.percentiles_ms() for name, numbers in named.items() if numbers.count}}


def _prefer_this_process() -> None:
    """Ask for real-time scheduling, or at least a better priority; go on without where that is not allowed."""
    try:
        os.sched_setscheduler(0, os.SCHED_RR, os.sched_param(10))
    except (OSError, AttributeError):
        try:
            os.nice(-10)
        except OSError:
            pass
    gc.freeze()


def main(folder: Path, tracks: Path) -> None:
    """Run the engine until SIGTERM or SIGINT."""
    engine = Engine(folder, tracks)

    def stop(*_: object) -> None:
        engine.stop = True

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    engine.run()

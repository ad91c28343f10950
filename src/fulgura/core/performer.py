"""The Performer: audio blocks in, Frames out. Live, offline, stills and tests all drive this very class."""

from dataclasses import dataclass, field
from zlib import crc32

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from fulgura.core import BLOCK, FRAME_RATE, SAMPLE_RATE
from fulgura.core.lights.profiles import Fixture
from fulgura.core.lights.universe import universes
from fulgura.core.picture.compiler import compile_look
from fulgura.core.picture.plan import Plan
from fulgura.core.routing.router import Router, Slot
from fulgura.core.show.document import Look, Show
from fulgura.core.signals import table
from fulgura.core.signals.table import SignalInfo
from fulgura.core.sound import hits as hitting
from fulgura.core.sound import levels
from fulgura.core.sound import tempo as beating
from fulgura.core.sound.analyser import USUAL_DETECTORS, Analyser, BandSetting
from fulgura.core.wire import BlockId, Packet

WAVEFORM = 512
EMPTY_LOOK = Look(id="empty", name="Empty")


class LampInfo(BaseModel):
    id: str
    name: str
    universe: int
    address: int


class Layout(BaseModel):
    """What the numbers in a frame mean. Sent when it changes; frames name it by id."""

    id: int = 0
    signals: list[SignalInfo]
    slots: list[Slot]
    routes: list[str]
    hits: list[str]
    reasons: list[str]
    lamps: list[LampInfo]


@dataclass
class Frame:
    """Everything that one tick decided. Arrays are not reused afterwards."""

    number: int
    time: float
    signals: NDArray
    live: NDArray
    uniforms: NDArray
    waveform: NDArray
    spectrum: NDArray
    routes: NDArray
    hits: list[hitting.Hit]
    beats: list[beating.Beat]
    status: NDArray
    universes: dict[int, NDArray]
    lamps: NDArray


@dataclass
class Collected:
    """What was heard since the last frame."""

    hits: list[hitting.Hit] = field(default_factory=list)
    rejected: list[hitting.Hit] = field(default_factory=list)
    beats: list[beating.Beat] = field(default_factory=list)
    peak: float = 0.0
    repaired: int = 0
    clipped: int = 0


class Performer:
    """Plays one show: hears blocks with ``hear``, gives a frame with ``tick``, takes edits with ``configure``."""

    def __init__(self, show: Show) -> None:
        self.analyser = Analyser((), ())
        self.router = Router()
        self.number = 0
        self.collected = Collected()
        self.repaired = self.clips = 0
        self.due: list[beating.Beat] = []
        self.bar_position = 1
        self.bar_phase = 0.0
        self.show = show
        self.plan: Plan
        self.layout: Layout
        self.configure(show)

    def configure(self, show: Show) -> None:
        """Take over an edited show between two ticks."""
        self.show = show
        self.gain = 10 ** (show.input.gain_db / 20)
        usual = {detector.name: detector for detector in USUAL_DETECTORS}
        self.analyser.configure(
            tuple(BandSetting(b.id, b.low_hz, b.high_hz, b.gain_db, b.attack_ms / 1000, b.release_ms / 1000) for b in show.bands),
            tuple(hitting.tuned(usual[h.id], h.sensitivity, h.dead_time_ms / 1000) for h in show.hits),
        )
        self.router.configure(show)
        look = next((look for look in show.looks if look.id == show.look), EMPTY_LOOK)
        self.plan = compile_look(look, self.router.places)
        self.gather = np.array(self.plan.gather, dtype=int)
        layout = Layout(
            signals=self.router.signals, slots=self.router.slots, routes=[r.id for r in show.routes],
            hits=[h.id for h in show.hits], reasons=[reason or "" for reason in hitting.REASONS],
            lamps=[LampInfo(id=lamp.id, name=lamp.name, universe=lamp.universe, address=lamp.address) for lamp in show.lamps],
        )
        self.layout = layout.model_copy(update={"id": crc32(layout.model_dump_json().encode())})

    def hear(self, block: NDArray) -> None:
        """One audio block, float, shape (256,) or (256, channels)."""
        heard = self.analyser.push(block * self.gain)
        now = self.collected
        now.hits += heard.hits
        now.rejected += heard.rejected
        now.beats += heard.beats
        self.due += heard.beats
        now.peak = max(now.peak, self.analyser.peak)
        self.repaired += heard.repaired
        self.clips += int(self.analyser.peak >= 0.999)

    def tick(self) -> Frame:
        """Close one frame: route what was heard since the last, and decide every value."""
        collected, self.collected = self.collected, Collected()
        values = self._signals(collected)
        live = self.router.tick(values, 1.0 / FRAME_RATE)
        frames = universes(self.show.lamps, self.router.places, live, blackout=self.show.blackout)
        self.number += 1
        return Frame(
            number=self.number, time=self.analyser.time, signals=values, live=live,
            uniforms=live[self.gather] if len(self.gather) else np.zeros(0),
            waveform=self.analyser.recent[-WAVEFORM:].copy(), spectrum=self.analyser.display_spectrum(),
            routes=np.array([x for runner in self.router.runners for x in (runner.incoming, runner.outgoing)]),
            hits=[*collected.hits, *collected.rejected], beats=collected.beats, status=self._status(collected),
            universes=frames, lamps=self._lamps(frames),
        )

    def _signals(self, collected: Collected) -> NDArray:
        now, beat = self.analyser.time, self.analyser.beat
        struck = 0.0
        while self.due and self.due[0].t <= now:
            self.bar_position = self.due.pop(0).bar_position
            struck = 1.0
        phase = beating.beat_phase(beat, now) if beat.confidence > 0.15 else 0.0
        self.bar_phase = (self.bar_position - 1 + phase) / 4.0
        values = []
        for signal in self.router.signals:
            if signal.id == table.LEVEL:
                values.append(min(1.0, self.analyser.rms * 2 ** 0.5))
            elif signal.id == table.BEAT:
                values.append(struck)
            elif signal.id == table.BEAT_PHASE:
                values.append(phase)
            elif signal.id == table.BAR_PHASE:
                values.append(self.bar_phase)
            elif signal.id.startswith("hit-"):
                values.append(max((h.strength for h in collected.hits if h.detector == signal.id[4:]), default=0.0))
            else:
                values.append(min(1.0, float(self.analyser.band_levels[self._band_order[signal.id[5:]]])))
        return np.array(values)

    @property
    def _band_order(self) -> dict[str, int]:
        return {band.name: i for i, band in enumerate(self.analyser.bands)}

    def _status(self, collected: Collected) -> NDArray:
        beat = self.analyser.beat
        return np.array([
            levels.to_dbfs(self.analyser.rms), levels.peak_dbfs(collected.peak), self.clips, self.repaired,
            beat.bpm, beat.confidence, self.bar_phase, self.bar_position, beat.next_t, beat.interval_s,
            float(self.show.blackout), self.show.sound_amount,
        ])

    def _lamps(self, frames: dict[int, NDArray]) -> NDArray:
        shown = []
        for lamp in self.show.lamps:
            first = lamp.address - 1
            shown.append(frames[lamp.universe][first : first + Fixture.kinds[lamp.fixture.kind].channels][:3] / 255.0)
        return np.concatenate(shown) if shown else np.zeros(0)

    def packet(self, frame: Frame) -> Packet:
        """A frame as it goes on the wire; rounding to 32 bits happens only here."""
        order = {name: i for i, name in enumerate(self.layout.hits)}
        hits = [(order.get(h.detector, 0), hitting.REASONS.index(h.reason), h.t, h.strength, h.threshold) for h in frame.hits]
        f4 = lambda a: np.ascontiguousarray(a, dtype="<f4")  # noqa: E731
        level = np.clip((frame.spectrum + 90.0) * (255.0 / 90.0), 0, 255).astype(np.uint8)
        return Packet(self.plan.id, self.layout.id, frame.number, frame.time, {
            BlockId.UNIFORMS: f4(frame.uniforms), BlockId.WAVEFORM: f4(frame.waveform), BlockId.STATUS: f4(frame.status),
            BlockId.SIGNALS: f4(frame.signals), BlockId.LIVE: f4(frame.live), BlockId.ROUTES: f4(frame.routes),
            BlockId.SPECTRUM: level, BlockId.HITS: np.array(hits, dtype="<f8").reshape(-1),
            BlockId.BEATS: np.array([(b.t, b.bar_position) for b in frame.beats], dtype="<f8").reshape(-1),
            BlockId.LAMPS: f4(frame.lamps),
        })


def blocks_due(frame: int) -> int:
    """How many blocks have been heard when frame number ``frame`` (from 1) closes."""
    return frame * SAMPLE_RATE // (FRAME_RATE * BLOCK)

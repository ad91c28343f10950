"""The Performer: audio blocks in, Frames out. Live, offline, stills and tests all drive this very class."""

from dataclasses import dataclass
from math import exp
from typing import Any
from zlib import crc32

import numpy as np
from numpy.typing import NDArray

from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.fixture import Fixture
from fulgura.core.kinds.providers import ClipLength, Heard, Maker
from fulgura.core.kinds.tick import Moment
from fulgura.core.layout import HitInfo, InputInfo, LampInfo, Layout, RouteInfo
from fulgura.core.lights.universe import universes
from fulgura.core.picture.compiler import BEATS, compile_look, constant, made_parts
from fulgura.core.picture.data import FIRST_OWN, WAVEFORM
from fulgura.core.picture.plan import Plan
from fulgura.core.routing.router import Router
from fulgura.core.routing.slots import as_floats
from fulgura.core.show.document import Show
from fulgura.core.show.edits import apply
from fulgura.core.show.events import BeatTurned, Edited, Event, GivenBack, Held, RoomHeard
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.looks import Look
from fulgura.core.show.part import Part, same
from fulgura.core.sound import hits as hitting
from fulgura.core.sound import tempo as beating
from fulgura.core.sound.listener import SURE_ENOUGH, Ear
from fulgura.core.timing.beats import BeatRun
from fulgura.core.wire import BlockId, Packet

_FADE = exp(-1.0 / (4.0 * FRAME_RATE))
"""Peaks of signals are remembered for some four seconds."""
BEATS_WRAP = 4096.0
"""Beats are told to shaders modulo this: 32 bits are exact to a thousandth of a beat there."""
EMPTY_LOOK = Look(id="empty", name="Empty")


@dataclass
class Frame:
    """Everything that one tick decided. Arrays are not reused afterwards."""

    number: int
    time: float
    signals: NDArray
    live: NDArray
    uniforms: NDArray
    waveform: NDArray
    stereo: NDArray
    spectrum: NDArray
    own: list[NDArray]
    """What the shown sources have for themselves, in the order of their blocks."""
    routes: NDArray
    facts: NDArray
    hits: list[hitting.Hit]
    beats: list[list[beating.Beat]]
    """Of each input."""
    status: NDArray
    universes: dict[int, NDArray]
    lamps: NDArray


@dataclass
class Making:
    """A maker, and where the live values of its part stand."""

    maker: Maker
    fixed: dict[str, Any]
    places: dict[str, int]

    @classmethod
    def of(cls, part: Part, maker: Maker, places: dict[str, int]) -> "Making":
        parameters = part.parameters()
        return cls(
            maker,
            {one.name: part.values[one.name] for one in parameters if one.size != 1},
            {one.name: places[f"{part.id}.{one.name}"] for one in parameters if one.size == 1},
        )

    def step(self, live: NDArray, heard: Heard) -> NDArray:
        return self.maker.step(
            self.fixed | {name: float(live[place]) for name, place in self.places.items()}, heard
        )


class Performer:
    """Plays one show: hears blocks with ``hear``, gives a frame with ``tick``, takes edits with
    ``configure``.
    """

    def __init__(self, show: Show) -> None:
        self.ears: dict[str, Ear] = {}
        self.router = Router()
        self.number = 0
        self.beats = BeatRun()
        self.peaks = np.zeros(0)
        self.show = show
        self.plan: Plan
        self.layout: Layout
        self.makers: dict[str, Maker] = {}
        self._clips: dict[str, ClipLength] = {}
        self._made: list[Making] = []
        self._constants: frozenset[str] = frozenset()
        self._moved: frozenset[str] = frozenset()
        self.leaving: Look | None = None
        """The look that is gone over from, while that lasts."""
        self.crossed_s = self.crossing_s = 0.0
        self._last: Show | None = None
        self._shape: list[tuple[str, list[str]]] = []
        self.configure(show)

    @property
    def main(self) -> Ear:
        """The main input's ear: its clock is the show's."""
        return self.ears[MAIN]

    def configure(self, show: Show, glide_s: float = 0.0) -> None:
        """Take over an edited show between two ticks. What did not change is the very same object in both,
        and costs nothing.

        glide_s: how long live values take to get to where they now belong.
        """
        before, self.show = self._last, show
        self._last = show
        if (
            before is None
            or not all(
                same(getattr(before, name), getattr(show, name)) for name in ("inputs", "bands", "hits")
            )
            or before.tempo is not show.tempo
        ):
            self.ears = {one.id: self.ears.get(one.id) or Ear() for one in show.inputs}
            for one in show.inputs:
                self.ears[one.id].configure(show, one)
        slots, signals, routes = (
            self.router.slots,
            self.router.signals,
            () if before is None else before.routes,
        )
        # A change of look is a crossfade of pictures: its values do not glide as well, or nothing would move
        # meanwhile.
        self.router.configure(show, glide_s if before is None or before.look == show.look else 0.0)
        if len(self.peaks) != len(self.router.signals):
            self.peaks = np.zeros(len(self.router.signals))
        if slots is not self.router.slots:
            kinds = [(part, part.kind_class) for part in show.parts()]
            self._constants = frozenset(
                f"{part.id}.{one.name}"
                for part, kind in kinds
                for one in part.parameters()
                if one.size and constant(one, kind)
            )
        seen = (
            before is None
            or before.look != show.look
            or before.beside != show.beside
            or before.crossing is not show.crossing
            or not same(before.looks, show.looks)
            or not same(before.pictures, show.pictures)
            or not same(before.clips, show.clips)
        )
        if (
            seen
            or slots is not self.router.slots
            or (not same(routes, show.routes) and self._moved != self._moved_choices())
        ):
            if before is not None and before.look != show.look:
                self.leaving = before.shown() if glide_s > 0.0 else None
                self.crossed_s, self.crossing_s = 0.0, glide_s
            self._compile()
        shape = [(route.id, [shaper.id for shaper in route.shapers]) for route in show.routes]
        if (
            before is None
            or slots is not self.router.slots
            or signals != self.router.signals
            or shape != self._shape
            or not same(before.hits, show.hits)
            or not same(before.lamps, show.lamps)
            or not same(before.inputs, show.inputs)
        ):
            self._shape = shape
            self._lay_out(show)

    def _compile(self) -> None:
        """The plan of what is to be seen: a look, or one that goes over into another. Makers of parts that
        stay go on.
        """
        show, look = self.show, self.show.shown() or EMPTY_LOOK
        # A look that is left may have been edited, or taken away, since.
        leaving = next(
            (one for one in show.looks if self.leaving is not None and one.id == self.leaving.id), None
        )
        self.leaving = leaving
        beside = next((one for one in show.looks if one.id == show.beside and one.id != look.id), None)
        first, second = (leaving, look) if leaving is not None else (look, beside)
        places = self.router.places | {BEATS: len(self.router.hand)}
        self._moved = self._moved_choices()
        self.plan = compile_look(
            first,
            places,
            second,
            show.crossing if second is not None else None,
            self._moved,
            show.pictures,
            show.clips,
        )
        self._clips = {one.id: ClipLength(one.frames, one.rate) for one in show.clips}
        self.gather = np.array(self.plan.gather, dtype=int)
        self._share = self.router.places[f"{show.crossing.id}.share"]
        parts = [part for one in (first, second) if one is not None for part in made_parts(one)]
        kept = {f"{part.kind} {part.id}": part for part in parts}
        self.makers = {
            name: (
                self.makers.get(name)
                or Source.kinds[part.kind].own.maker(crc32(name.encode(), show.seed & 0xFFFFFFFF))
            )
            for name, part in kept.items()
        }
        self._made = [Making.of(part, self.makers[name], self.router.places) for name, part in kept.items()]

    def _moved_choices(self) -> frozenset[str]:
        """Addresses of choices and the like that a route or a hand moves: shaders cannot take them for
        constants.
        """
        hands = self.router.hands
        return self._constants & (
            {target for route in self.show.routes for target in route.targets}
            | hands.held.keys()
            | hands.gliding.keys()
        )

    def _cross(self, live: NDArray, dt: float) -> None:
        """One tick further from one look to another, in place of what the hand says."""
        self.crossed_s += dt
        if self.crossed_s >= self.crossing_s:
            self.leaving = None
            self._compile()
        else:
            live[self._share] = self.crossed_s / self.crossing_s

    def _lay_out(self, show: Show) -> None:
        routes, first = [], 0
        for route in show.routes:
            routes.append(
                RouteInfo(id=route.id, first=first, shapers=[shaper.id for shaper in route.shapers])
            )
            first += len(route.shapers) + 2
        layout = Layout(
            inputs=[InputInfo(id=one.id, name=one.name) for one in show.inputs],
            signals=self.router.signals,
            slots=self.router.slots,
            routes=routes,
            hits=[
                HitInfo(id=h.id, input=show.input_of(h), drum=h.drum, listens=h.listens) for h in show.hits
            ],
            reasons=[reason or "" for reason in hitting.REASONS],
            lamps=[
                LampInfo(id=lamp.id, name=lamp.name, universe=lamp.universe, address=lamp.address)
                for lamp in show.lamps
            ],
        )
        self.layout = layout.model_copy(update={"id": crc32(layout.model_dump_json().encode())})

    def hear(self, block: NDArray, place: str = MAIN) -> None:
        """One audio block of an input, float, shape (256,) or (256, channels)."""
        self.ears[place].hear(block)

    def tick(self) -> Frame:
        """Close one frame: route what was heard since the last, and decide every value."""
        now = self.main.analyser.time
        closed = {place: ear.close() for place, ear in self.ears.items()}
        moment = self._moment()
        heard = [signal for signal in self.router.signals if signal.input]
        values, hits = np.zeros(len(self.router.signals)), np.zeros(len(self.router.signals), dtype=int)
        values[: len(heard)] = [closed[signal.input][1][signal.heard] for signal in heard]
        hits[: len(heard)] = [closed[signal.input][2].get(signal.heard, 0) for signal in heard]
        live = self.router.tick(values, hits, moment)
        if self.leaving is not None:
            self._cross(live, moment.dt)
        self.peaks = np.maximum(values, self.peaks * _FADE)
        frames = universes(self.show.lamps, self.router.places, live, blackout=self.show.blackout)
        self.number += 1
        spectra = np.array([ear.analyser.display_spectrum() for ear in self.ears.values()])
        heard_now = Heard(moment, spectra[0], self.main.sound, self._names(), self._clips)
        # An input that was opened later has a younger clock; on the wire there is only the main one's.
        told = {
            place: collected.later(now - self.ears[place].analyser.time)
            for place, (collected, *_) in closed.items()
        }
        return Frame(
            number=self.number,
            time=now,
            signals=values,
            live=live,
            uniforms=(
                np.append(live, moment.beats % BEATS_WRAP)[self.gather] if len(self.gather) else np.zeros(0)
            ),
            waveform=self.main.analyser.recent[-WAVEFORM:].copy(),
            stereo=self.main.sound.T.copy(),
            spectrum=spectra,
            own=[making.step(live, heard_now) for making in self._made],
            routes=self.router.stages.copy(),
            facts=np.concatenate([self.router.facts().ravel(), self.peaks]),
            hits=[hit for one in told.values() for hit in (*one.hits, *one.rejected)],
            beats=[one.beats for one in told.values()],
            status=np.array(
                [ear.status(closed[place][0], now, self.show) for place, ear in self.ears.items()]
            ),
            universes=frames,
            lamps=self._lamps(frames),
        )

    def _names(self) -> dict[str, str]:
        """What a text can show."""
        look, cue, one = self.show.shown(), self.show.recalled(), self.show.input
        track = one.track.track.rpartition(".")[0] or one.track.track
        return {
            "track": track.replace("-", " ").title() if one.use == "track" else one.name,
            "look": look.name if look else "",
            "cue": cue.name if cue else "",
            "tempo": f"{self.main.analyser.beat.bpm:.0f}",
        }

    def _moment(self) -> Moment:
        """What this tick tells routes and movers of time and beat."""
        ear, dt = self.main, 1.0 / FRAME_RATE
        beat = ear.analyser.beat
        sure = beat.confidence > SURE_ENOUGH
        fallen, bars = self.beats.step(
            dt, beat.interval_s, ear.bar_phase * ear.beats_a_bar if sure else None, ear.beats_a_bar
        )
        return Moment(
            dt=dt,
            beats=self.beats.position,
            beat_s=beat.interval_s,
            seconds=self.number * dt,
            fallen=fallen,
            bars=bars,
        )

    def act(self, event: Event) -> None:
        """A hand on the show, between two ticks: an edit, the beat, a live value held or given back."""
        match event:
            case Edited(edit=edit, glide_ms=ms, glide_beats=beats):
                self.configure(
                    apply(self.show, edit)[0], ms / 1000.0 + beats * self.main.analyser.beat.interval_s
                )
            case Held(target=target, value=value) if (slot := self.router.by_target.get(target)) is not None:
                index, size = slot.index, slot.parameter.size
                frozen = self.router.live[index : index + size].tolist()
                self.router.hands.hold(target, frozen if value is None else as_floats(slot.parameter, value))
                if target in self._constants and target not in self._moved:
                    self._compile()
            case GivenBack(target=target, glide_ms=ms):
                for one in [target] if target else list(self.router.hands.held):
                    self.router.hands.give_back(one, ms / 1000.0)
            case BeatTurned(what=what, value=value):
                self.main.turn_beat(what, value)
            case RoomHeard(input=place) if place in self.ears:
                self.ears[place].listen_to_room()

    def _lamps(self, frames: dict[int, NDArray]) -> NDArray:
        shown = []
        for lamp in self.show.lamps:
            first = lamp.address - 1
            shown.append(
                frames[lamp.universe][first : first + Fixture.kinds[lamp.fixture.kind].channels][:3] / 255.0
            )
        return np.concatenate(shown) if shown else np.zeros(0)

    def packet(self, frame: Frame) -> Packet:
        """A frame as it goes on the wire; rounding to 32 bits happens only here."""
        order = {hit.id: i for i, hit in enumerate(self.layout.hits)}
        hits = [
            (order.get(h.detector, 0), hitting.REASONS.index(h.reason), h.t, h.strength, h.threshold)
            for h in frame.hits
        ]

        def f4(a):
            return np.ascontiguousarray(a, dtype="<f4")

        beats = [(b.t, b.bar_position, place) for place, rows in enumerate(frame.beats) for b in rows]
        level = np.clip((frame.spectrum + 90.0) * (255.0 / 90.0), 0, 255).astype(np.uint8)
        return Packet(
            self.plan.id,
            self.layout.id,
            frame.number,
            frame.time,
            {
                BlockId.UNIFORMS: f4(frame.uniforms),
                BlockId.WAVEFORM: f4(frame.waveform),
                BlockId.STATUS: f4(frame.status).reshape(-1),
                BlockId.SIGNALS: f4(frame.signals),
                BlockId.LIVE: f4(frame.live),
                BlockId.ROUTES: f4(frame.routes),
                BlockId.FACTS: f4(frame.facts),
                BlockId.SPECTRUM: level.reshape(-1),
                BlockId.HITS: np.array(hits, dtype="<f8").reshape(-1),
                BlockId.BEATS: np.array(beats, dtype="<f8").reshape(-1),
                BlockId.LAMPS: f4(frame.lamps),
                BlockId.STEREO: f4(frame.stereo).reshape(-1),
                **{FIRST_OWN + number: block for number, block in enumerate(frame.own)},
            },
        )

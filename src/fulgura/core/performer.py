"""The Performer: audio blocks in, Frames out. Live, offline, stills and tests all drive this very class."""

from collections.abc import Mapping
from math import exp
from typing import Any

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.changes import choices, differ, same_lamps
from fulgura.core.clock import FRAME_RATE
from fulgura.core.frame import Frame, packet_of
from fulgura.core.kinds.providers import SCOPE, TickInput
from fulgura.core.kinds.tick import TickContext
from fulgura.core.layout import Layout, lay_out
from fulgura.core.lights.rig import Rig
from fulgura.core.picture.data import MOST_COLOURS, WAVEFORM
from fulgura.core.picture.plan import Plan
from fulgura.core.picture.sending import Heard, Sending
from fulgura.core.picture.shown import BEATS_WRAP, ShownPicture
from fulgura.core.played import PlayedShow
from fulgura.core.routing.flash_causes import FlashCause, FlashCauses
from fulgura.core.routing.indices import as_floats
from fulgura.core.routing.router import Router
from fulgura.core.routing.tuning import Tuning
from fulgura.core.show.document import Show
from fulgura.core.show.edits import apply
from fulgura.core.show.events import (
    BeatTurned,
    EditMade,
    Event,
    LampsIdentified,
    OverrideReleased,
    OverrideSet,
    RoomHeard,
)
from fulgura.core.show.inputs import MAIN
from fulgura.core.sound.listener import SURE_ENOUGH, InputListener
from fulgura.core.surface.cues import NightNow
from fulgura.core.surface.surface import Surface
from fulgura.core.timing.beats import BeatRun
from fulgura.core.wire import Packet

_FADE = exp(-1.0 / (4.0 * FRAME_RATE))
"""Peaks of signals are remembered for some four seconds."""


class Performer:
    """Plays one show: hears blocks with ``hear``, gives a frame with ``tick``, takes edits with
    ``configure``.
    """

    def __init__(self, show: Show) -> None:
        self.listeners: dict[str, InputListener] = {}
        self.router = Router()
        self.picture = ShownPicture()
        self.sending = Sending()
        self.causes = FlashCauses()
        self.tuning = Tuning()
        self.rig = Rig()
        self.number = 0
        self.beats = BeatRun()
        self.peaks: Array = np.zeros(0)
        self.show = show
        self.played = PlayedShow(self)
        self.surface = Surface(self.played)
        self.layout: Layout
        self._heard: dict[str, tuple[float, int]] = {}
        """Values and hits of the last tick, by the signal's id, where a cue waits for one."""
        self._choices: frozenset[str] = frozenset()
        """Addresses of what shaders take for constants while nothing moves it."""
        self._last: Show | None = None
        self._route_shapes: list[tuple[str, list[str]]] = []
        self.configure(show)

    @property
    def main(self) -> InputListener:
        """The main input's listener: its clock is the show's."""
        return self.listeners[MAIN]

    @property
    def plan(self) -> Plan:
        """What is drawn."""
        return self.picture.plan

    # -- taking a show over ---------------------------------------------------------------------------------

    def configure(self, show: Show, glide_s: float = 0.0, over: Mapping[str, float] | None = None) -> None:
        """Take over an edited show between two ticks. What did not change is the very same object in both,
        and costs nothing.

        glide_s: how long live values take to get to where they now belong; over: those that take another
        time, by their address.
        """
        before, self.show = self._last, show
        self._last = show
        if (
            differ(before, show, "inputs", "bands", "hits")
            or before is None
            or before.tempo is not show.tempo
        ):
            self._configure_inputs(self.tuning.listens(show))
        indices, signals, groups = self.router.indices, self.router.signals, self.router.group_targets
        # A change of look is a crossfade of pictures: its values do not glide as well, or nothing would move
        # meanwhile.
        self.router.configure(show, glide_s if before is None or before.look == show.look else 0.0, over)
        self.tuning.configure(show)
        self.surface.configure(show)
        reindexed = indices is not self.router.indices
        if len(self.peaks) != len(self.router.signals):
            self.peaks = np.zeros(len(self.router.signals))
        if reindexed:
            self._choices = choices(show)
        self._take_picture(before, show, glide_s, reindexed)
        self.rig.configure(show, self.router.index_of)
        if reindexed or differ(before, show, "routes", "looks") or before is None or before.look != show.look:
            self.causes.configure(show, self.router)
        shapes = [(route.id, [shaper.id for shaper in route.shapers]) for route in show.routes]
        if (
            reindexed
            or signals != self.router.signals
            or shapes != self._route_shapes
            or groups is not self.router.group_targets
            or differ(before, show, "hits", "inputs")
            or not same_lamps(before, show)
        ):
            self._route_shapes = shapes
            indices = self.router.indices + self.router.group_indices()
            self.layout = lay_out(show, self.router.signals, indices, self.rig.compiled.universes)

    def _configure_inputs(self, show: Show) -> None:
        self.listeners = {
            setting.id: self.listeners.get(setting.id) or InputListener() for setting in show.inputs
        }
        for setting in show.inputs:
            self.listeners[setting.id].configure(show, setting)

    def _take_picture(self, before: Show | None, show: Show, glide_s: float, reindexed: bool) -> None:
        """Compile what is seen anew, where the edit touches it."""
        seen = (
            self.sending.configure(show, before)
            or before is None
            or before.look != show.look
            or before.beside != show.beside
            or before.crossfade is not show.crossfade
            or before.guard is not show.guard
            or differ(before, show, "looks", "pictures", "clips", "ramps")
        )
        rerouted = differ(before, show, "routes") and self.picture.moved != self._moved_choices()
        if seen or reindexed or rerouted:
            if before is not None and before.look != show.look:
                self.picture.leave(before.shown(), glide_s)
                self.sending.leave(before.shown(), glide_s)
            self._compile()

    def _compile(self, *which: ShownPicture | Sending) -> None:
        """Make plans anew: of all that is shown, or of which alone."""
        router = self.router
        for pictures in which or (self.picture, self.sending):
            pictures.compile(self.show, router.index_of, len(router.hand), self._moved_choices())

    def _moved_choices(self) -> frozenset[str]:
        """Addresses of choices and the like that a route or a hand moves: shaders cannot take them for
        constants.
        """
        overrides = self.router.overrides
        routed = {target for route in self.show.routes for target in route.targets}
        return self._choices & (routed | overrides.active.keys() | overrides.gliding.keys())

    # -- playing --------------------------------------------------------------------------------------------

    def hear(self, block: Array, input_id: str = MAIN) -> None:
        """One audio block of an input, float, shape (256,) or (256, channels)."""
        self.listeners[input_id].hear(block)

    def tick(self) -> Frame:
        """Close one frame: route what was heard since the last, and decide every value."""
        night = self._night_now()
        self.surface.lead_beat(self.main, night.seconds)
        self.surface.step(night)
        now = self.main.analyser.time
        closed = {input_id: listener.close() for input_id, listener in self.listeners.items()}
        context = self._context()
        values, hits = self.router.heard(closed)
        context.played = self.surface.stage.played
        live = self.router.tick(values, hits, context)
        self.surface.forget()
        if self.tuning.step(live, self.router):
            self._configure_inputs(self.tuning.listens(self.show))
        self._remember(values, hits)
        for pictures in (self.picture, self.sending):
            if pictures.cross(live, context.dt):
                self._compile(pictures)
        self.causes.step(live, self.number / FRAME_RATE)
        self.peaks = np.maximum(values, self.peaks * _FADE)
        blackout = self.show.blackout
        context.values, context.hits, context.order = values, hits, self.router.order
        lights, let_go = self.rig.tick(live, context)
        for target in let_go:
            self.router.overrides.release(target, 0.0)
        self.number += 1
        listeners = self.listeners.items()
        collected = {input_id: closed[input_id].collected for input_id, _ in listeners}
        # An input that was opened later has a younger clock; on the wire there is only the main one's.
        told = [collected[input_id].later(now - listener.analyser.time) for input_id, listener in listeners]
        status = [listener.status(collected[input_id], now, self.show) for input_id, listener in listeners]
        spectra = np.array([listener.analyser.display_spectrum() for _, listener in listeners])
        heard_by = self._heard_by(context, spectra)
        light = 0.0 if blackout in ("all", "pictures") else 1.0
        standing = np.array([float(self.show.frozen), self.played.clears, context.beats % BEATS_WRAP])
        return Frame(
            number=self.number,
            time=now,
            signals=values,
            live=live,
            uniforms=self.picture.uniforms(live, context.beats, light),
            waveform=heard_by[MAIN].waveform,
            stereo=heard_by[MAIN].stereo,
            spectrum=spectra,
            own=self.picture.step(live, heard_by[MAIN].tick),
            routes=self.router.stages.copy(),
            telemetry=np.concatenate([self.router.telemetry().ravel(), self.peaks]),
            hits=[hit for heard in told for hit in (*heard.hits, *heard.rejected)],
            beats=[heard.beats for heard in told],
            status=np.array(status),
            universes=lights.universes,
            light=lights.light,
            pose=lights.pose,
            picture=standing,
            palette=self.router.painted.block(MOST_COLOURS),
            sent=self.sending.blocks(live, light, standing, heard_by),
        )

    def _heard_by(self, context: TickContext, spectra: Array) -> dict[str, Heard]:
        """What pictures are told of each input."""
        names, clips = self._names(), self.picture.clips
        sounds = {input_id: listener.sound for input_id, listener in self.listeners.items()}
        return {
            input_id: Heard(
                listener.analyser.recent[-WAVEFORM:].copy(),
                spectrum,
                listener.sound.newest(SCOPE).T.copy(),
                TickInput(context, names, clips, sounds, input_id),
            )
            for (input_id, listener), spectrum in zip(self.listeners.items(), spectra)
        }

    def _night_now(self) -> NightNow:
        """What the surface is told of this tick: where the beat will be at its end."""
        part = 1.0 / FRAME_RATE / self.main.analyser.beat.interval_s
        now_s = (self.number + 1) / FRAME_RATE
        return NightNow(self.beats.position + part, now_s, self.main.beats_a_bar, part, self._heard)

    def _remember(self, values: Array, hits: Array) -> None:
        wanted = {cue.go.signal for cue in self.show.cues if cue.go.when == "signal"}
        order = self.router.order
        self._heard = {
            signal: (float(values[order[signal]]), int(hits[order[signal]]))
            for signal in wanted
            if signal in order
        }

    def packet(self, frame: Frame) -> Packet:
        """A frame as it goes on the wire."""
        return packet_of(frame, self.plan.id, self.layout, [plan.id for plan in self.sending.plans])

    @property
    def flash_causes(self) -> list[FlashCause]:
        """What moves often enough to make the picture flash."""
        return self.causes.found(self.number / FRAME_RATE)

    def lamps_held_back(self) -> list[str]:
        """Ids of lamps that would have flashed too often lately."""
        return self.rig.held_back(self.number / FRAME_RATE)

    def _names(self) -> dict[str, str]:
        """What a text can show."""
        look, cue, main = self.show.shown(), self.show.recalled(), self.show.input
        track = main.track.track.rpartition(".")[0] or main.track.track
        return {
            "track": track.replace("-", " ").title() if main.use == "track" else main.name,
            "look": look.name if look else "",
            "cue": cue.name if cue else "",
            "tempo": f"{self.main.analyser.beat.bpm:.0f}",
        }

    def _context(self) -> TickContext:
        """What this tick tells routes and modulators of time and beat."""
        listener, dt = self.main, 1.0 / FRAME_RATE
        beat = listener.analyser.beat
        sure = beat.confidence > SURE_ENOUGH
        in_bar = listener.bar_phase * listener.beats_a_bar if sure else None
        fallen, bars = self.beats.step(dt, beat.interval_s, in_bar, listener.beats_a_bar)
        return TickContext(
            dt=dt,
            beats=self.beats.position,
            beat_s=beat.interval_s,
            seconds=self.number * dt,
            fallen=fallen,
            bars=bars,
        )

    # -- hands ----------------------------------------------------------------------------------------------

    def act(self, event: Event) -> None:
        """A hand on the show, between two ticks: an edit, the beat, a live value held or given back.

        Raises EditError for an edit that cannot be made, ValueError or TypeError for a value that is none.
        """
        match event:
            case EditMade(edit=edit, glide_ms=ms, glide_beats=beats, over=over):
                glide_s = ms / 1000.0 + beats * self.main.analyser.beat.interval_s
                self.configure(apply(self.show, edit)[0], glide_s, over)
            case OverrideSet(target=target, value=value):
                self.override(target, value)
            case OverrideReleased(target=target, glide_ms=ms):
                self.release(target, ms / 1000.0)
            case BeatTurned(what=what, value=seconds):
                self.main.turn_beat(what, seconds)
            case RoomHeard(input=input_id) if input_id in self.listeners:
                self.listeners[input_id].listen_to_room()
            case LampsIdentified(lamps=lamps):
                self.rig.identify(lamps)
            case _:
                self.surface.take(event)

    def release(self, target: str, glide_s: float) -> None:
        """Give held values back to what moves them: of a parameter or a group, or all for an empty target."""
        everything = list(self.router.overrides.active)
        for released in self.router.addresses(target) if target else everything:
            self.rig.let_go(released)
            self.router.overrides.release(released, glide_s)

    def override(self, target: str, value: Any) -> None:
        """Hold a live value, or those of a group: at a value, or, for None, where it is."""
        for address in self.router.addresses(target):
            self.rig.hold(address)
            self._hold_value(address, value)

    def _hold_value(self, target: str, value: Any) -> None:
        entry = self.router.by_target[target]
        now = self.router.live[entry.index : entry.index + entry.parameter.size].tolist()
        self.router.overrides.set(
            target, now if value is None else as_floats(entry.parameter, value, self.show.colours)
        )
        if target in self._choices and target not in self.picture.moved:
            self._compile()

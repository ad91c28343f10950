"""Where the tempo comes from beside the sound: taps, a MIDI clock, OSC. All are followed, one rules."""

from dataclasses import dataclass, field
from math import ceil
from typing import Any

from fulgura.core.show.document import Show
from fulgura.core.show.edits import SetValue, Together
from fulgura.core.show.events import MidiSaid, TempoSaid
from fulgura.core.sound.listener import SURE_ENOUGH, InputListener
from fulgura.core.surface.instrument import Instrument
from fulgura.core.timing.midi_clock import A_BEAT, ClockIn
from fulgura.core.timing.taps import Taps

CLOCK, START, CONTINUE, STOP, POSITION = 0xF8, 0xFA, 0xFB, 0xFC, 0xF2
SILENT_S = 8.0
"""Without a word for so long, a tempo by OSC has fallen away."""


@dataclass
class OscTempo:
    """What was said by OSC: the tempo, and when a beat fell, on the show's clock."""

    bpm: float = 0.0
    said_s: float = -1e9
    beat_s: float = -1e9
    in_bar: int = 0
    fresh: bool = False


@dataclass
class TempoSources:
    """Times are on the clock of ticks, in seconds."""

    taps: Taps = field(default_factory=Taps)
    tapped_bpm: float = 0.0
    clock: ClockIn = field(default_factory=ClockIn)
    clock_from: str = ""
    osc: OscTempo = field(default_factory=OscTempo)

    def tap(self, t: float, age_s: float, instrument: Instrument) -> None:
        """A tap at a time. From the third on the tempo is held, with a beat at each tap."""
        bpm = self.taps.tap(t)
        if bpm is None:
            return
        self.tapped_bpm = bpm = round(bpm, 2)
        edits = [SetValue(path="/tempo/mode", value="held"), SetValue(path="/tempo/bpm", value=bpm)]
        instrument.edit(Together(edits=[*edits]), "Tapped tempo", f"taps-{self.taps.began}")
        instrument.turn_beat("align", 60.0 / bpm, age_s)

    def midi(self, said: MidiSaid, t: float) -> bool:
        """Take a message of the clock; whether it was one."""
        match said.data[0]:
            case 0xF8:
                self.clock_from = said.controller
                self.clock.tick(t)
            case 0xFA:
                self.clock.start()
            case 0xFB:
                self.clock.go_on()
            case 0xFC:
                self.clock.stop()
            case 0xF2 if len(said.data) == 3:
                self.clock.song_position(said.data[2] << 7 | said.data[1])
            case _:
                return False
        return True

    def said(self, said: TempoSaid, t: float) -> None:
        """Take a tempo, or a beat, by OSC."""
        self.osc.said_s = t
        if said.bpm is not None:
            self.osc.bpm = said.bpm
        if said.beat is not None:
            self.osc.beat_s, self.osc.in_bar, self.osc.fresh = t, said.beat, True

    def lead(self, show: Show, listener: InputListener, t: float) -> None:
        """Before a tick at a time: lead the main input's beat, where it is theirs to lead."""
        if show.tempo.mode == "midi" and self.clock.alive(t):
            place = self.clock.at(t)
            if place is None:
                return
            beats = place.ticks / A_BEAT
            if not (
                self.clock.placed and self.clock.running
            ):  # Nobody says where a beat is: the tempo alone.
                listener.analyser.beat.interval_s = A_BEAT * place.period_s
                return
            following = ceil(beats - 1e-6)
            in_s = (following - beats) * A_BEAT * place.period_s
            listener.follow_beat(in_s, A_BEAT * place.period_s, following % listener.beats_a_bar)
        elif show.tempo.mode == "osc" and self.osc.bpm:
            beat_s = 60.0 / self.osc.bpm
            if not self.osc.fresh:
                listener.analyser.beat.interval_s = beat_s
                return
            self.osc.fresh = False
            gone = (t - self.osc.beat_s) / beat_s
            steps = max(0, ceil(gone - 1e-6))
            in_bar = self.osc.in_bar - 1 + steps if self.osc.in_bar else None
            listener.follow_beat((steps - gone) * beat_s, beat_s, in_bar)

    def state(self, show: Show, listener: InputListener, t: float) -> dict[str, Any]:
        """What desks show: which source rules, whether it is there, and the tempi of all."""
        beat, place = listener.analyser.beat, self.clock.at(t)
        clock, osc = self.clock.alive(t), t - self.osc.said_s < SILENT_S and self.osc.bpm > 0.0
        rows = [
            _row("sound", 60.0 / beat.heard_s if beat.heard_s else 0.0, beat.confidence > SURE_ENOUGH),
            _row("taps", self.tapped_bpm, self.tapped_bpm > 0.0),
            _row("midi", place.bpm if clock and place is not None else 0.0, clock),
            _row("osc", self.osc.bpm, osc),
        ]
        rules = {"auto": "sound", "midi": "midi", "osc": "osc"}.get(show.tempo.mode, "hand")
        there = {"midi": clock, "osc": osc}.get(rules, True)
        names = {"midi": "The MIDI clock", "osc": "The tempo by OSC"}
        return {
            "rules": rules,
            "there": there,
            "says": "" if there else f"{names[rules]} has fallen away; the beat runs on as it was.",
            "sources": rows,
            "running": self.clock.running,
            "placed": self.clock.placed,
            "sixteenth": self.clock.sixteenth,
            "from": self.clock_from,
            "taps": len(self.taps.times),
        }


def _row(source: str, bpm: float, sure: bool) -> dict[str, Any]:
    return {"source": source, "bpm": round(bpm, 2), "sure": bool(sure)}

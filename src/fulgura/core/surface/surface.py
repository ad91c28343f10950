"""The playing surface: pads, faders, controls, cues, songs and tempo, stepped by the tick.

Events go in; edits of the document, held values, hits and turns of the beat come out through the instrument.
The same events give the same.
"""

from typing import Any

from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.action import Action
from fulgura.core.show import events
from fulgura.core.show.commands.mappings import bind
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, Together
from fulgura.core.show.numbers import numbers_set
from fulgura.core.show.surface import Mapping
from fulgura.core.sound.listener import InputListener
from fulgura.core.surface.controls import Controls, fader_of, pad_of
from fulgura.core.surface.cues import Course, NightNow
from fulgura.core.surface.feedback import Said, feedback, stands_at
from fulgura.core.surface.instrument import Instrument
from fulgura.core.surface.learning import Learning
from fulgura.core.surface.messages import Message, MidiReader
from fulgura.core.surface.news import News
from fulgura.core.surface.pads import Pads
from fulgura.core.surface.stage import LiveStage
from fulgura.core.surface.tempo import TempoSources

LOOK_EVERY = 2
"""Ticks between two looks at what is lit."""
BY_HAND_S = 0.4
"""A control that was moved so lately is not told where it stands: it is in a hand."""


class Surface:
    """Takes events with ``take``, and steps with ``step`` before each tick's values are made."""

    def __init__(self, instrument: Instrument) -> None:
        self.instrument = instrument
        self.news, self.pads, self.controls = News(), Pads(), Controls()
        self.course, self.tempo = Course(), TempoSources()
        self.midi = MidiReader()
        self.learning: Learning | None = None
        self.stage = LiveStage(instrument, self.news, self.course, self.tempo)
        self.lit: dict[str, str] = {}
        """State of each pad: "on", "waits", or not there."""
        self._seen: tuple[object, ...] = ()
        self._seen_show: Show | None = None
        self.feedback: Said = {}
        self.faders: dict[str, float] = {}
        """Where the faders of the open page stand, 0..1."""
        self.due: dict[str, float] = {}
        """At which beat of the show a waiting pad or cue goes, by its id."""
        self.seconds = 0.0
        self.down: set[tuple[str, str]] = set()
        self.still_down = False
        """Controls of control changes that are pressed; whether the one that speaks now was so already."""
        self.holding: dict[str, Action] = {}
        """Actions of mappings that are held down, by the finger."""

    @property
    def show(self) -> Show:
        return self.instrument.show

    def configure(self, show: Show) -> None:
        """Take a show over."""
        self.pads.take(show)
        self.controls.take(show)
        if self.stage.page not in {page.id for page in show.pages}:
            self.stage.page = show.pages[0].id if show.pages else ""

    # -- events ---------------------------------------------------------------------------------------------

    def take(self, event: object) -> bool:
        """Take an event; whether it was one for the surface."""
        # It counts for the tick that comes.
        at = self.seconds + 1.0 / FRAME_RATE - getattr(event, "age_s", 0.0)
        self.stage.at_s, self.stage.ago_s = at, self.seconds - at
        match event:
            case events.PadPressed(pad=pad, strength=strength, by=by):
                if not self.pads.press(pad, by, strength, self.stage, self._line):
                    self.news.say("That pad is gone.")
            case events.PadReleased(pad=pad, by=by):
                self.pads.release(pad, by, self.stage)
            case events.FaderMoved(fader=fader, position=position, gesture=gesture):
                self._move(fader, position, gesture)
            case events.ActionDone(action=action, strength=strength, ended=ended):
                done = action.model()
                done.release(self.stage) if ended else done.press(self.stage, strength)
            case events.ControlSaid():
                value = min(1.0, max(0.0, event.value))
                self._hear(Message(event.controller, event.source, value, event.down, event.value))
            case events.MidiSaid():
                if not self.tempo.midi(event, at):
                    for message in self.midi.read(event.controller, event.data):
                        self._hear(message)
            case events.ControllerGone(controller=controller):
                self._leave(f"{controller}|")
                self.down = {control for control in self.down if control[0] != controller}
            case events.LearnAsked():
                fields = event.model_dump(exclude={"event"})
                self.learning = Learning(fields, self.seconds) if event.does else None
            case events.Tapped():
                self.stage.tap()
            case events.TempoSaid():
                self.tempo.said(event, at)
            case events.TrackPlaced():
                self.course.placed = event.track, event.position_s, event.length_s, event.playing
            case events.ClockRead(seconds=seconds):
                self.course.read = seconds
            case _:
                return False
        return True

    def _line(self, what: str) -> int:
        return self.stage.now.line(what)

    def _move(self, id: str, position: float, gesture: str) -> None:
        """A fader of the desk: it shows where the value stands, so it has it in hand."""
        fader = fader_of(self.show, self.stage.page, id)
        for reach in fader.moves if fader is not None else []:
            self.controls.turning[reach.target] = (round(reach.value(position), 4), gesture or "fader")

    def _hear(self, message: Message) -> None:
        """A control said something."""
        if self.learning is not None:
            self.learning.hear(message, self.seconds)
            self.news.note(message.controller, message.source, message.value, "is being learnt")
            return
        control = (message.controller, message.source)
        self.controls.moved[control] = self.seconds
        # A fader that runs through its way is pressed once; notes and messages are each a press.
        runs = " cc " in message.source
        self.still_down = runs and message.pressed and control in self.down
        if runs:
            (self.down.add if message.pressed else self.down.discard)(control)
        did = [self._do(mapping, message) for mapping in self.controls.mapped(message) if not mapping.muted]
        self.news.note(message.controller, message.source, message.value, "; ".join(filter(None, did)))

    def _do(self, mapping: Mapping, message: Message) -> str:
        """What a mapping makes of a message, in words."""
        show, by = self.show, f"{message.controller}|{message.source}"
        if self.still_down and mapping.does in ("pad", "action", "hit"):
            return ""
        match mapping.does:
            case "value":
                return self.controls.turn(show, mapping, mapping.reach(), message, self.seconds)
            case "fader":
                fader = fader_of(show, self.stage.page, mapping.target)
                moves = fader.moves if fader is not None else []
                said = [self.controls.turn(show, mapping, reach, message, self.seconds) for reach in moves]
                return ", ".join(said) or "no fader there"
            case "pad":
                return self._play(mapping, message, by)
            case "action":
                action = self.controls.action(mapping)
                self._act(action, message, f"{by} {mapping.id}")
                return f"{action.title or type(action).__name__}{'' if message.pressed else ' let go'}"
            case "hit" if message.pressed:
                self.stage.hit(mapping.target, message.value)
                return "hit"
        return ""

    def _act(self, action: Action, message: Message, by: str) -> None:
        if message.pressed:
            if " program " not in message.source:  # Nobody lets a programme go.
                self.holding[by] = action
            action.press(self.stage, message.value)
        elif self.holding.pop(by, None) is not None:
            action.release(self.stage)

    def _leave(self, by: str) -> None:
        """Whoever these fingers belong to is gone: what they held is let go."""
        self.pads.leave(by, self.stage)
        for held in [held for held in self.holding if held.startswith(by)]:
            self.holding.pop(held).release(self.stage)

    def _play(self, mapping: Mapping, message: Message, by: str) -> str:
        pad = pad_of(self.show, self.stage.page, mapping.target)
        if not message.pressed:
            # It may have been pressed on another page, which was turned since.
            held = [id for id, fingers in self.pads.fingers.items() if by in fingers]
            for id in held:
                self.pads.release(id, by, self.stage)
            return "let go" if held else ""
        if pad is None:
            return "no pad there"
        self.pads.press(pad.id, by, message.value, self.stage, self._line)
        if message.down and " program " in message.source:
            self.pads.release(pad.id, by, self.stage)
        return f"pad {pad.name or pad.at + 1}"

    # -- the tick -------------------------------------------------------------------------------------------

    def lead_beat(self, listener: InputListener, seconds: float) -> None:
        """Before the tick's beat is read: lead it where somebody else counts."""
        self.tempo.lead(self.show, listener, seconds)

    def step(self, now: NightNow) -> None:
        """One tick; what was played since the last is in ``stage.played`` until ``forget``."""
        self.news.step()
        self.seconds = now.seconds
        self.stage.now, self.stage.at_s, self.stage.ago_s, self.stage.done = now, now.seconds, 0.0, 0
        self._flush()
        if self.learning is not None and self.learning.over(self.seconds):
            self.learning = None
        if self.learning is not None and self.learning.done(self.seconds):
            fields, self.learning = self.learning.fields(), None
            self._learn(fields)
        self.pads.step(self.stage, self._line)
        self.course.step(self.instrument, now, self.news)
        if self.news.tick % LOOK_EVERY == 0:
            self._see()

    def forget(self) -> None:
        """After the tick: what was played was heard."""
        self.stage.played = {}

    def _flush(self) -> None:
        """All that was turned since the last tick is one edit."""
        if not self.controls.turning:
            return
        turned, self.controls.turning = self.controls.turning, {}
        gesture = " ".join(dict.fromkeys(gesture for _, gesture in turned.values()))[:64]
        try:
            rows = numbers_set(self.show, {target: value for target, (value, _) in turned.items()})
            self.instrument.edit(rows[0] if len(rows) == 1 else Together(edits=rows), "Fader", gesture)
        except EditError as error:
            self.news.say(f"A fader: {error}")

    def _learn(self, fields: dict[str, Any]) -> None:
        try:
            self.instrument.edit(bind(self.show, fields), "Controller")
        except (EditError, ValueError) as error:
            self.news.say(f"It could not be learnt: {error}")

    def _see(self) -> None:
        """What is lit, and what controllers are told of it: looked at again when something changed."""
        self._count_down()
        seen = self._sight()
        if seen == self._seen and self.show is self._seen_show:
            return
        self._seen, self._seen_show = seen, self.show
        waiting = {each.pad for each in self.pads.waiting}
        self.lit = {
            pad.id: "waits" if pad.id in waiting else "on"
            for page in self.show.pages
            for pad in page.pads
            if pad.id in waiting or self.pads.on(pad, self.stage)
        }
        actions_lit = {
            mapping.id: self.controls.action(mapping).lit(self.stage)
            for mapping in self.show.mappings
            if mapping.does == "action" and mapping.action is not None
        }
        open_page = next((each for each in self.show.pages if each.id == self.stage.page), None)
        self.faders = {
            fader.id: round(stands, 4)
            for fader in (open_page.faders if open_page is not None else [])
            if fader.moves and (stands := stands_at(self.show, fader.moves[0])) is not None
        }
        told = feedback(self.show, self.stage.page, self.lit, actions_lit)
        for control in self._in_hands():
            if control in told and control in self.feedback:
                told[control] = self.feedback[control]
        self.feedback = told

    def _in_hands(self) -> list[tuple[str, str]]:
        """Controls that moved so lately that they are not told where they stand."""
        moved = self.controls.moved
        for control in [control for control, at in moved.items() if self.seconds - at >= BY_HAND_S]:
            del moved[control]
        return list(moved)

    def _sight(self) -> tuple[object, ...]:
        """All beside the document that decides what is lit."""
        fingers = [id for id, by in self.pads.fingers.items() if by]
        waiting = [each.pad for each in self.pads.waiting]
        held, flashing = list(self.instrument.held()), list(self.stage.flashing)
        return self.stage.page, fingers, sorted(self.pads.switched), waiting, held, flashing, self._in_hands()

    def _count_down(self) -> None:
        now = self.stage.now
        self.due = {each.pad: now.due(each.line, each.waits) for each in self.pads.waiting}
        cue = next((cue for cue in self.show.cues if cue.id == self.course.waiting), None)
        if cue is not None:
            bars = cue.go.bars if cue.go.when == "bars" else 1
            self.due[cue.id] = now.due(self.course.line, cue.go.when, bars)

    def state(self, tempo: dict[str, Any]) -> dict[str, Any]:
        """What desks show. tempo: of the sources of the tempo, which change all the time."""
        learning = self.learning
        return {
            "page": self.stage.page,
            "pads": self.lit,
            "waiting": self.course.waiting,
            "since": round(self.course.since, 3),
            "said": list(self.news.said),
            "waits": self.controls.waits,
            "faders": self.faders,
            "due": self.due,
            "learning": learning.wanted if learning is not None else None,
            "tempo": tempo,
        }

"""What actions do to the show that plays: the stage of core/kinds/action.py over an instrument."""

from collections.abc import Callable
from typing import Any

from fulgura.core.kinds.tick import NOTHING_PLAYED, Played
from fulgura.core.show.commands import palettes, presets
from fulgura.core.show.commands.addresses import as_value, parameter_at, value_path
from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, EditError, SetValue, Together
from fulgura.core.show.lights import Chase
from fulgura.core.show.route_sets import routes_of
from fulgura.core.surface.cues import Course, NightNow
from fulgura.core.surface.instrument import Instrument
from fulgura.core.surface.news import News
from fulgura.core.surface.tempo import TempoSources

MOST_A_TICK = 500
"""Actions in one tick: more of them go round in a ring."""
NUDGE_S = 0.01
LOCK, METERS = "lock", ("4/4", "3/4", "6/8")
Doing = Callable[[], None]


class LiveStage:
    """Everything that an action can do. What is gone is told, and passed over.

    at_s: when the hand moved that acts now, on the clock of ticks; ago_s: how long before the last tick,
    below 0 after it; page: id of the page that is open.
    """

    def __init__(self, instrument: Instrument, news: News, course: Course, tempo: TempoSources) -> None:
        self.instrument, self.news, self.course, self.tempo_sources = instrument, news, course, tempo
        self.now = NightNow(0.0, 0.0, 4, 0.0)
        self.at_s = self.ago_s = 0.0
        self.page = ""
        self.played: dict[str, Played] = {}
        """What was played since the last tick, by the id of the modulator's part."""
        self.flashing: dict[str, list[str]] = {}
        self.done = 0
        """Actions in this tick."""

    @property
    def show(self) -> Show:
        return self.instrument.show

    def _edit(self, name: str, make: Callable[[], Edit], glide_s: float = 0.0) -> None:
        self.done += 1
        if self.done > MOST_A_TICK:
            self.news.say("Actions set each other off in a ring; the rest of them was left out.")
            return
        try:
            self.instrument.edit(make(), name, glide_s=glide_s)
        except EditError as error:
            self.news.say(f"{name}: {error}")

    def _set(self, name: str, path: str, value: Any, glide_s: float = 0.0) -> None:
        self._edit(name, lambda: SetValue(path=path, value=value), glide_s)

    # -- the picture ----------------------------------------------------------------------------------------

    def show_look(self, look: str, beats: float) -> None:
        if look not in {other.id for other in self.show.looks}:
            self.news.say("The look that this shows is gone.")
        elif look != self.show.look:
            self._set("Look", "/look", look, beats * self.instrument.beat_s)

    def look_is(self, look: str) -> bool:
        return self.show.look == look

    def clear_feedback(self) -> None:
        self.instrument.clear_feedback()

    def freeze(self, what: str, frozen: bool) -> None:
        if what in ("pictures", "all") and self.show.frozen != frozen:
            self._set("Freeze", "/frozen", frozen)
        if what in ("lights", "all") and self.show.lights.frozen != frozen:
            self._set("Freeze", "/lights/frozen", frozen)

    def frozen(self, what: str) -> bool:
        pictures, lights = self.show.frozen, self.show.lights.frozen
        return {"pictures": pictures, "lights": lights}.get(what, pictures and lights)

    # -- the course of the night ----------------------------------------------------------------------------

    def go(self, cue: str, step: int) -> None:
        self.course.ask(cue, step, self.instrument, self.now, self.news)

    def cue_is(self, cue: str) -> bool:
        return self.show.cue == cue

    def song(self, song: str, step: int) -> None:
        self.course.begin(song, step, self.instrument, self.news)

    def song_is(self, song: str) -> bool:
        return self.show.song == song

    # -- what is kept ---------------------------------------------------------------------------------------

    def recall_preset(self, preset: str, glide_ms: float) -> None:
        self._edit(
            "Preset", lambda: presets.recall(self.show, presets.find(self.show, preset)), glide_ms / 1000
        )

    def preset_is(self, preset: str) -> bool:
        return preset in self.show.chosen.values()

    def recall_palette(self, palette: str, group: str, glide_ms: float) -> None:
        onto = [lamp.id for each in self.show.groups if each.id == group for lamp in self.show.members(each)]
        if group and not onto:
            self.news.say("The group of lamps that this palette goes onto is gone.")
            return
        self._edit("Palette", lambda: palettes.recall(self.show, palette, onto)[0], glide_ms / 1000)

    def use_palette(self, palette: str, glide_ms: float) -> None:
        if palette not in {other.id for other in self.show.palettes}:
            self.news.say("The palette that this takes into use is gone.")
            return
        self._edit("Palette", lambda: SetValue(path="/palette", value=palette), glide_ms / 1000)

    def palette_is(self, palette: str) -> bool:
        return self.show.palette == palette

    def _chase(self, chase: str) -> Chase | None:
        return next((other for other in self.show.chases if other.id == chase), None)

    def run_chase(self, chase: str, running: bool) -> None:
        found = self._chase(chase)
        if found is None or not found.runs:
            self.news.say("The chase that this runs is gone, or has no group.")
            return
        edits = [
            SetValue(path=f"/chases/{chase}/runs/{run.id}/part/values/running", value=running)
            for run in found.runs
        ]
        self._edit("Chase", lambda: Together(edits=[*edits]))

    def chase_runs(self, chase: str) -> bool:
        found = self._chase(chase)
        return found is not None and any(run.part.values["running"] for run in found.runs)

    # -- values ---------------------------------------------------------------------------------------------

    def set_value(self, target: str, value: float, colour: str, glide_ms: float) -> None:
        parameter, path = parameter_at(self.show, target), value_path(self.show, target)
        if parameter is None or not path:
            self.news.say("The parameter that this sets is gone.")
            return
        self._set(parameter.title, path, as_value(parameter, value, colour), glide_ms / 1000)

    def hold(self, target: str, value: float, colour: str) -> None:
        parameter = parameter_at(self.show, target)
        addresses = self.instrument.addresses(target)
        if parameter is None or not addresses:
            self.news.say("The parameter that this holds is gone.")
            return
        for address in addresses:
            self.instrument.hold_value(address, as_value(parameter, value, colour))

    def release(self, target: str, glide_ms: float) -> None:
        for address in self.instrument.addresses(target):
            self.instrument.release_value(address, glide_ms / 1000)

    def holds(self, target: str) -> bool:
        held, addresses = self.instrument.held(), self.instrument.addresses(target)
        return bool(addresses) and all(address in held for address in addresses)

    def flash(self, group: str, level: float, on: bool) -> None:
        if not on:
            for address in self.flashing.pop(group, []):
                self.instrument.release_value(address, 0.0)
            return
        lamps = [f"{lamp.fixture.id}.level" for lamp in self.show.lamps]
        wanted = self.instrument.addresses(f"{group}.level") if group else lamps
        there = [address for address in wanted if self.instrument.addresses(address)]
        if not there:
            self.news.say("There are no lamps to flash.")
        self.flashing[group] = there
        for address in there:
            self.instrument.hold_value(address, level)

    def flashes(self, group: str) -> bool:
        return group in self.flashing

    def hit(self, played: str, strength: float) -> None:
        found = next((each for each in self.show.modulators if each.id == played), None)
        if found is None or found.part.kind != "played-signal":
            self.news.say("The played signal that this hits is gone.")
            return
        before = self.played.get(found.part.id, NOTHING_PLAYED)
        self.played[found.part.id] = Played(before.hits + 1, min(1.0, max(0.0, strength)))

    # -- routes ---------------------------------------------------------------------------------------------

    def act_routes(self, routes: str, act: bool) -> None:
        edits = [
            SetValue(path=f"/routes/{route.id}/muted", value=not act)
            for route in routes_of(self.show, routes)
            if route.muted == act
        ]
        if edits:
            self._edit("Routes on" if act else "Routes off", lambda: Together(edits=[*edits]))
        elif not routes_of(self.show, routes):
            self.news.say("The routes that this switches are gone.")

    def routes_act(self, routes: str) -> bool:
        meant = routes_of(self.show, routes)
        return bool(meant) and not any(route.muted for route in meant)

    def sound_amount(self, amount: float) -> None:
        self._set("Sound amount", "/sound_amount", amount)

    def sound_amount_is(self, amount: float) -> bool:
        return abs(self.show.sound_amount - amount) < 0.005

    def hand_back(self, glide_ms: float) -> None:
        self.flashing.clear()
        self.instrument.release_value("", glide_ms / 1000)
        if self.show.sound_amount:
            self._set("Hand back", "/sound_amount", 0.0, glide_ms / 1000)

    # -- the beat -------------------------------------------------------------------------------------------

    def tap(self) -> None:
        self.tempo_sources.tap(self.at_s, self.ago_s, self.instrument)

    def turn_beat(self, what: str) -> None:
        tempo = self.show.tempo
        if what in METERS:
            self._set("Meter", "/tempo/meter", what)
        elif what in ("lock", "unlock"):
            self._set("Beat", "/tempo/mode", "locked" if what == "lock" else "auto")
        elif what in ("half", "double") and tempo.mode == "held":
            bpm = tempo.bpm * (0.5 if what == "half" else 2.0)
            self._set(f"{what.capitalize()} tempo", "/tempo/bpm", min(240.0, max(40.0, bpm)))
        elif what in ("sooner", "later"):
            self.instrument.turn_beat("nudge", -NUDGE_S if what == "sooner" else NUDGE_S)
        else:
            meant = {"now is the one": "downbeat", "hear it anew": "anew"}.get(what, what)
            self.instrument.turn_beat(meant, 0.0, self.ago_s)

    def beat_is(self, what: str) -> bool:
        tempo = self.show.tempo
        return tempo.mode == "locked" if what == LOCK else tempo.meter == what

    # -- the whole ------------------------------------------------------------------------------------------

    def blackout(self, what: str, on: bool) -> None:
        self._set("Blackout", "/blackout", what if on else "off")

    def dark(self, what: str) -> bool:
        return self.show.blackout in (what, "all")

    def turn_page(self, page: str, step: int) -> None:
        ids = [each.id for each in self.show.pages]
        if page and page not in ids:
            self.news.say("That page of pads is gone.")
        elif page:
            self.page = page
        elif ids:
            at = ids.index(self.page) if self.page in ids else 0
            self.page = ids[(at + step) % len(ids)]

    def page_is(self, page: str) -> bool:
        return self.page == page

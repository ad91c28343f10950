"""The course of the night: which cue goes when. What goes by itself goes once."""

from dataclasses import dataclass, field

from fulgura.core.show.commands.cues import find_cue, neighbour, recall_cue
from fulgura.core.show.commands.songs import begin_song, beside
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, Together
from fulgura.core.show.night import Cue, seconds_of_day
from fulgura.core.surface.instrument import Instrument
from fulgura.core.surface.news import News

LEAP_S = 1.0
"""A track that moves further than this between two ticks was sent elsewhere."""
END_S = 0.15
"""So near to its end a track is over."""
DAY_S = 86_400.0
SET_S = 3 * 3600.0
"""A clock that moves by more than this was corrected: times of the day that it left out are not made up for,
those that come again go again. By less (summer time, a server of time): what was left out goes at once, and
nothing goes twice. As cron(8) of Debian does it (from memory).
"""
SAID_S = 60.0
"""A clock that was set back by more is told of."""
MOST_A_SECOND = 8
"""Cues that go by themselves in a second: more of them go round in a ring."""


@dataclass
class NightNow:
    """What a tick tells the course. beats: of the show, predicted to the end of the tick; lines: how many
    beats, bars, or so many bars have fallen; values: value and hits of the signals that
    cues wait for, by their id, in the last tick.
    """

    beats: float
    seconds: float
    beats_a_bar: int
    beat_part: float
    values: dict[str, tuple[float, int]] = field(default_factory=dict)

    def line(self, what: str, bars: int = 1) -> int:
        """How many lines of a kind have fallen by the end of this tick, to the nearest tick."""
        return int((self.beats + 0.5 * self.beat_part) // self._length(what, bars))

    def due(self, line: int, what: str, bars: int = 1) -> float:
        """At which beat of the show the line after so many falls."""
        return (line + 1) * self._length(what, bars)

    def _length(self, what: str, bars: int) -> float:
        return 1.0 if what == "beat" else float(self.beats_a_bar * bars)


@dataclass
class Course:
    """waiting: a cue that was asked for and waits for its line; since: beats at which the last went."""

    waiting: str = ""
    line: int = 0
    since: float = 0.0
    track: tuple[str, float] = ("", 0.0)
    """The main input's track, and where it was in the last tick."""
    placed: tuple[str, float, float, bool] = ("", 0.0, 0.0, False)
    clock: float | None = None
    """Up to which time of the day cues have gone, in seconds."""
    read: float | None = None
    """What the clock says."""
    told: bool = False
    """It was said that the clock was set back."""
    levels: dict[str, float] = field(default_factory=dict)
    times: list[float] = field(default_factory=list)
    """When cues went by themselves lately."""

    def ask(self, cue: str, step: int, instrument: Instrument, now: NightNow, news: News) -> None:
        """A hand asks for a cue: it goes, or waits for its line; asked for again, it goes at once."""
        try:
            found = find_cue(instrument.show, cue) if cue else neighbour(instrument.show, step)
        except EditError as error:
            news.say(str(error))
            return
        waits = found.go.when in ("beat", "bar", "bars") and step >= 0
        if waits and self.waiting != found.id:
            self.waiting, self.line = found.id, now.line(found.go.when, _bars(found))
            return
        self.go(found, instrument, now, news)

    def go(self, cue: Cue, instrument: Instrument, now: NightNow, news: News) -> None:
        """A cue goes now."""
        self.waiting = ""
        show = instrument.show
        try:
            recalled = recall_cue(show, cue.id)
            beats_a_bar = show.tempo.beats_a_bar
            over = {
                target: each.seconds(instrument.beat_s, beats_a_bar) for target, each in recalled.over.items()
            }
            glide = cue.over.seconds(instrument.beat_s, beats_a_bar)
            instrument.edit(recalled.edit, f"Cue {cue.name}", glide_s=glide, over=over)
        except EditError as error:
            news.say(f"The cue “{cue.name}” could not go: {error}")
            return
        if _has_track(show, cue.plays):
            instrument.seek(0.0)
        self.since = now.beats
        self.levels.clear()
        for gone in recalled.gone:
            news.say(f"Cue “{cue.name}”: {gone}. It did the rest.")

    def begin(self, song: str, step: int, instrument: Instrument, news: News) -> None:
        """A song begins from its start: a certain one, or one beside that which plays."""
        try:
            chosen = song or beside(instrument.show, step).id
            instrument.edit(Together(edits=begin_song(instrument.show, chosen)), "Song")
        except EditError as error:
            news.say(str(error))
            return
        if _has_track(instrument.show, chosen):
            self.track = ("", 0.0)
            instrument.seek(0.0)

    # -- what goes by itself --------------------------------------------------------------------------------

    def step(self, instrument: Instrument, now: NightNow, news: News) -> None:
        """One tick."""
        show = instrument.show
        if self.waiting:
            cue = next((cue for cue in show.cues if cue.id == self.waiting), None)
            if cue is None:
                self.waiting = ""
            elif now.line(cue.go.when, _bars(cue)) > self.line:
                self.go(cue, instrument, now, news)
                show = instrument.show
        due = self._due(show, now)
        self._remember(now)
        self._follow_clock(show, news)
        if due is not None and self._allowed(due, now, news):
            self.go(due, instrument, now, news)
        if show.night.runs == "track":
            self._go_on(instrument, news)

    def _allowed(self, cue: Cue, now: NightNow, news: News) -> bool:
        self.times = [time for time in self.times if now.seconds - time < 1.0]
        if len(self.times) >= MOST_A_SECOND:
            news.say(f"“{cue.name}” and others set each other off in a ring; they are held back.")
            return False
        self.times.append(now.seconds)
        return True

    def _due(self, show: Show, now: NightNow) -> Cue | None:
        """The cue that goes by itself in this tick."""
        if show.night.runs == "track":
            placed = self._at_its_place(show)
            if placed is not None:
                return placed
        passed = self._passed(show) if show.night.runs == "clock" else None
        return passed or self._in_turn(show, now)

    def _passed(self, show: Show) -> Cue | None:
        """The last of the cues whose time of the day the clock passed."""
        moved, began = self._moved(), self.clock
        if began is None or not 0.0 < moved <= SET_S:
            return None
        # Seconds from what had gone to each, in this day or the next.
        until = [
            ((seconds_of_day(cue.go.clock) - began) % DAY_S or DAY_S, at)
            for at, cue in enumerate(show.cues)
            if cue.go.when == "clock"
        ]
        passed = [each for each in until if each[0] <= moved]
        return show.cues[max(passed)[1]] if passed else None

    def _moved(self) -> float:
        """How far the clock is ahead of what has gone, in seconds; below 0 when it was set back."""
        if self.clock is None or self.read is None:
            return 0.0
        return (self.read - self.clock + DAY_S / 2.0) % DAY_S - DAY_S / 2.0

    def _at_its_place(self, show: Show) -> Cue | None:
        track, at, _, _ = self.placed
        rows = [cue for cue in show.cues if cue.song == show.song and cue.go.when == "song" and show.song]
        if not rows or not any(song.id == show.song and song.track == track for song in show.songs):
            return None
        before = self.track[1] if self.track[0] == track else -1.0
        if 0.0 <= at - before <= LEAP_S:
            passed = [cue for cue in rows if before < cue.at_s <= at]
            return max(passed, key=lambda cue: cue.at_s) if passed else None
        if abs(at - before) > LEAP_S:  # It was sent elsewhere: what belongs there is recalled.
            passed = [cue for cue in rows if cue.at_s <= at]
            last = max(passed, key=lambda cue: cue.at_s) if passed else None
            return last if last is not None and last.id != show.cue else None
        return None

    def _in_turn(self, show: Show, now: NightNow) -> Cue | None:
        """The next cue, when it follows the last or waits for a signal."""
        ids = [cue.id for cue in show.cues]
        if show.cue not in ids or ids.index(show.cue) + 1 >= len(ids):
            return None
        cue = show.cues[ids.index(show.cue) + 1]
        if cue.go.when == "after" and now.beats - self.since >= cue.go.after_beats:
            return cue
        if cue.go.when == "signal" and cue.go.signal in now.values:
            value, hits = now.values[cue.go.signal]
            before = self.levels.get(cue.go.signal)
            rose = before is not None and before <= cue.go.above < value
            return cue if hits > 0 or rose else None
        return None

    def _remember(self, now: NightNow) -> None:
        self.track = self.placed[0], self.placed[1]
        self.levels = {signal: value for signal, (value, _) in now.values.items()}

    def _follow_clock(self, show: Show, news: News) -> None:
        moved = self._moved()
        if not -SET_S <= moved < 0.0:
            self.clock, self.told = self.read, False
        elif moved < -SAID_S and not self.told and show.night.runs == "clock":
            self.told = True
            news.say(
                f"The computer’s clock was set back by {-moved / 60.0:.0f} minutes. Cues by the clock"
                " that have gone do not go again."
            )

    def _go_on(self, instrument: Instrument, news: News) -> None:
        """The next song, when the one that plays is over."""
        show, (track, at, length, playing) = instrument.show, self.placed
        song = next((song for song in show.songs if song.id == show.song), None)
        over = playing and length > 1.0 and at >= length - END_S
        if song is None or song.again or not over or track != song.track:
            return
        self.placed = ("", 0.0, 0.0, False)
        try:
            beside(show, 1)
        except EditError:
            return
        self.begin("", 1, instrument, news)


def _has_track(show: Show, song: str) -> bool:
    """Whether a song is played from the library; a band plays itself."""
    return any(other.id == song and other.track for other in show.songs)


def _bars(cue: Cue) -> int:
    return cue.go.bars if cue.go.when == "bars" else 1

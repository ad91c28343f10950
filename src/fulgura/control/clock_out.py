"""The tempo, given: MIDI clock (24 ticks a quarter note, a start with the bar) and OSC. A thread of its own
sleeps from tick to tick.
"""

import threading
import time
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from fulgura.core.timing.midi_clock import A_BEAT

CLOCK, START, STOP = b"\xf8", b"\xfa", b"\xfc"
SPIN_S = 0.0006
"""So long before a tick the thread stays awake: waking up takes a while."""
IDLE_S, LONGEST_NAP_S, STALE_S, MOST_BEHIND = 0.02, 0.01, 3.0, 3
LEAN, LEAP_BEATS = 0.04, 0.2
"""How much of what is new in a word on the beat is taken; from how far off on the beat was moved."""


@dataclass
class Pace:
    """Where the beat is: at ``at``, in monotonic seconds, so many beats have gone by, one each beat_s.

    What the engine says of it stands in the steps of its sound, some milliseconds this way or that: it is
    leaned to, a little each time.
    """

    at: float
    beats: float
    beat_s: float

    def lean(self, at: float, beats: float, beat_s: float) -> None:
        """Take another word on it."""
        here = self.beats + (at - self.at) / self.beat_s
        off = beats - here
        leapt = abs(off) > LEAP_BEATS
        self.at, self.beats = at, beats if leapt else here + LEAN * off
        self.beat_s = beat_s if leapt else self.beat_s + LEAN * (beat_s - self.beat_s)

    def ticks(self, now: float) -> float:
        """Ticks since the show's first beat, whole and part."""
        return (self.beats + (now - self.at) / self.beat_s) * A_BEAT

    def due(self, number: int) -> float:
        """When a tick is due, in monotonic seconds."""
        return self.at + (number / A_BEAT - self.beats) * self.beat_s


class ClockOut:
    """Sends by ``midi`` (port, bytes) and ``osc`` (address, number) where ``lead`` says that somebody wants
    it.
    """

    def __init__(
        self, midi: Callable[[str, bytes], None], osc: Callable[[str, str, float | int], None]
    ) -> None:
        self.midi, self.osc = midi, osc
        self.off: deque[float] = deque(maxlen=600)
        """How far each interval was from what it should have been, in seconds."""
        self.sent = 0
        self._lead: dict[str, Any] = {}
        self._pace: Pace | None = None
        self._started: set[str] = set()
        self._bpm = 0.0
        self._closed = False
        threading.Thread(target=self._run, daemon=True).start()

    def lead(self, told: dict[str, Any]) -> None:
        """Where the beat is now, and who wants to hear of it (see engine/surface_news.py)."""
        self._lead = told

    def _wanted(self) -> bool:
        lead = self._lead
        fresh = bool(lead) and time.monotonic() - lead["at"] < STALE_S
        return fresh and bool(lead["clock_to"] or (lead["tempo_by_osc"] and lead["osc_to"]))

    def _follow(self, heard: dict[str, Any]) -> Pace:
        """The pace, leaned to what was heard last."""
        where = heard["at"], heard["beats"], heard["beat_s"]
        if self._pace is None:
            self._pace = Pace(*where)
        else:
            self._pace.lean(*where)
        return self._pace

    def _run(self) -> None:
        number, last, heard = -1, 0.0, None
        while not self._closed:
            if not self._wanted():
                self._stop()
                number, self._pace = -1, None
                time.sleep(IDLE_S)
                continue
            if self._pace is None or heard is not self._lead:
                heard = self._lead
                self._follow(heard)
            pace = self._pace
            assert pace is not None, "it was just followed"
            here = pace.ticks(time.monotonic())
            if number < 0 or here - number > MOST_BEHIND:
                number, last = int(here), 0.0  # The beat leapt: on from there.
            due = pace.due(number + 1)
            left = due - time.monotonic()
            if left > LONGEST_NAP_S:
                time.sleep(LONGEST_NAP_S)  # What the beat does meanwhile is heard.
                continue
            if left > SPIN_S:
                time.sleep(left - SPIN_S)
            while time.monotonic() < due:
                pass
            number += 1
            now = time.monotonic()
            self._tick(number)
            if last:
                self.off.append(now - last - pace.beat_s / A_BEAT)
            last = now

    def _tick(self, number: int) -> None:
        lead = self._lead
        self.sent += 1
        for port in lead["clock_to"]:
            if port not in self._started and number % (A_BEAT * lead["beats_a_bar"]) == 0:
                self._started.add(port)
                self.midi(port, START)
            self.midi(port, CLOCK)
        if lead["tempo_by_osc"] and lead["osc_to"] and number % A_BEAT == 0:
            bpm = round(60.0 / lead["beat_s"], 2)
            if abs(bpm - self._bpm) > 0.005:
                self._bpm = bpm
                self.osc(lead["osc_to"], "/tempo", bpm)
            self.osc(lead["osc_to"], "/beat", number // A_BEAT % lead["beats_a_bar"] + 1)

    def _stop(self) -> None:
        for port in self._started:
            self.midi(port, STOP)
        self._started.clear()

    def state(self) -> dict[str, Any]:
        """How many ticks were sent, and how far their intervals were off, in milliseconds."""
        off = np.abs(np.array(self.off)) * 1000.0
        if not len(off):
            return {"sent": self.sent}
        p50, p99 = np.percentile(off, [50, 99])
        return {"sent": self.sent, "p50_ms": round(float(p50), 3), "p99_ms": round(float(p99), 3)}

    def close(self) -> None:
        self._closed = True
        self._stop()

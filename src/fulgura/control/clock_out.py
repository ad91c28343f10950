"""The tempo, given: MIDI clock (24 ticks a quarter note, a start with the bar) and OSC. A thread of its own
sleeps from tick to tick.
"""

import threading
import time
from collections import deque
from collections.abc import Callable
from typing import Any

import numpy as np

from fulgura.core.timing.midi_clock import A_BEAT

CLOCK, START, STOP = b"\xf8", b"\xfa", b"\xfc"
SPIN_S = 0.0006
"""So long before a tick the thread stays awake: waking up takes a while."""
IDLE_S, STALE_S, MOST_BEHIND = 0.02, 3.0, 3


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

    def _run(self) -> None:
        number, last = -1, 0.0
        while not self._closed:
            if not self._wanted():
                self._stop()
                number = -1
                time.sleep(IDLE_S)
                continue
            here = _ticks(self._lead, time.monotonic())
            if number < 0 or here - number > MOST_BEHIND:
                number, last = int(here), 0.0  # The beat leapt: on from there.
            due = _due(self._lead, number + 1)
            left = due - time.monotonic()
            if left > IDLE_S:
                time.sleep(IDLE_S)  # What the beat does meanwhile is heard.
                continue
            if left > SPIN_S:
                time.sleep(left - SPIN_S)
            while time.monotonic() < due:
                pass
            number += 1
            now = time.monotonic()
            self._tick(number)
            if last:
                self.off.append(now - last - self._lead["beat_s"] / A_BEAT)
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


def _ticks(lead: dict[str, Any], now: float) -> float:
    """Ticks since the show's first beat, whole and part, at a monotonic time."""
    beats: float = lead["beats"] + (now - lead["at"]) / lead["beat_s"]
    return beats * A_BEAT


def _due(lead: dict[str, Any], number: int) -> float:
    """When a tick is due, in monotonic seconds."""
    due: float = lead["at"] + (number / A_BEAT - lead["beats"]) * lead["beat_s"]
    return due

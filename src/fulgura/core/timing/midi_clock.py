"""Somebody else's MIDI clock: 24 ticks a quarter note, start, stop, continue, and the song position in
sixteenths (MIDI 1.0, The MIDI Association, 1996: system real time and song position pointer).

Tempo and place are those of the line, or, where the tempo moves, of the parabola that fits the last ticks
best (least squares): one tick alone may be late by milliseconds.
"""

from collections import deque
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from fulgura.core.arrays import Array

A_BEAT, A_SIXTEENTH = 24, 6
WINDOWS = (192, 96, 48, 24)
"""Ticks that are looked at: two bars of four, or fewer when the tempo has changed since."""
GAP_S = 0.5
"""Without a tick for so long it has stopped: the slowest clock, of 20 BPM, ticks eight times a second."""
SECOND_DIFFERENCE, LOOSE = 1.0 / (0.6745 * 6**0.5), 1.6
"""From the median of second differences to the deviation of one tick, whatever the tempo does; how many times
that a fit may lie off.
"""
CURVED = 4.0
"""From how many standard errors on a tempo counts as moving."""


@dataclass(frozen=True)
class ClockPlace:
    """period_s: from tick to tick; ticks: where it is at a moment, since the song's start, whole and part."""

    period_s: float
    ticks: float

    @property
    def bpm(self) -> float:
        return 60.0 / (A_BEAT * self.period_s)


@dataclass
class ClockIn:
    """placed: whether ticks are counted from a start; running: whether the song goes on; count: ticks of the
    song before the next.
    """

    times: deque[float] = field(default_factory=lambda: deque(maxlen=WINDOWS[0]))
    running: bool = False
    placed: bool = False
    count: int = 0
    _loose: int = 0
    """Ticks since the first of all, for a clock that was never started."""

    def tick(self, t: float) -> None:
        """A clock tick came at a time in seconds."""
        if self.times and not 0.0 <= t - self.times[-1] < GAP_S:
            self.times.clear()
        self.times.append(t)
        self._loose += 1
        if self.running:
            self.count += 1

    def start(self) -> None:
        """From the beginning: the next tick is the song's first."""
        self.count, self.running, self.placed = 0, True, True

    def stop(self) -> None:
        self.running = False

    def go_on(self) -> None:
        """From where it stopped, or was sent."""
        self.running = self.placed = True

    def song_position(self, sixteenths: int) -> None:
        """The next tick that counts is this sixteenth's."""
        self.count = sixteenths * A_SIXTEENTH

    @property
    def sixteenth(self) -> int:
        """Where the song is: the sixteenth of the last tick that counted."""
        return max(0, self.count - 1) // A_SIXTEENTH

    def alive(self, t: float) -> bool:
        """Whether it ticks."""
        return len(self.times) >= WINDOWS[-1] // 2 and t - self.times[-1] < GAP_S

    def at(self, t: float) -> ClockPlace | None:
        """Tempo and place at a time in seconds; None before half a beat was heard."""
        if len(self.times) < WINDOWS[-1] // 2:
            return None
        times = np.array(self.times)
        last, period = _fit(times)
        if period <= 0.0:
            return None
        ticks = (self.count if self.placed else self._loose) - 1
        return ClockPlace(period, ticks + (t - last) / period)


@lru_cache(len(WINDOWS) * 64)
def _bases(count: int) -> tuple[Array, Array]:
    """Least squares for lines and parabolas over ticks …, -2, -1, 0: matrices from times to coefficients."""
    x = np.arange(1 - count, 1, dtype=float)
    line, parabola = np.vander(x, 2, True), np.vander(x, 3, True)
    return np.linalg.pinv(line), np.linalg.pinv(parabola)


def _fit(times: Array) -> tuple[float, float]:
    """(when the last tick should have come, seconds from tick to tick then)."""
    sizes = [size for size in WINDOWS if size < len(times)]
    jitter = float(np.median(np.abs(np.diff(times[-WINDOWS[1] :], 2)))) * SECOND_DIFFERENCE
    for size in [len(times), *sizes]:
        rows = times[-size:]
        line, parabola = _bases(size)
        x = np.arange(1 - size, 1, dtype=float)
        a, b, c = parabola @ rows
        noise = max(float(np.std(rows - (a + b * x + c * x * x))), 1e-5)
        # It lies further off than ticks jitter: the tempo jumped within what is looked at.
        if size > WINDOWS[-1] and noise > LOOSE * jitter + 3e-4:
            continue
        # Standard error of the parabola's bend, of many ticks: sigma * sqrt(180 / n^5).
        if abs(c) > CURVED * noise * (180.0 / size**5) ** 0.5:
            if size > WINDOWS[1]:
                continue
            return float(a), float(b)
        start, step = line @ rows
        return float(start), float(step)
    start, step = _bases(len(rows))[0] @ rows
    return float(start), float(step)

"""Watches a detector over bars: how many hits a bar brings, and whether it looks as if it were set
wrongly.
"""

from collections import deque
from dataclasses import dataclass, field

CROWDED_BEATS = 8
"""Beats that are looked back on for hits that come twice."""
CROWDED_SHARE = 0.75
SILENT_BARS = 8
SLACK_BEATS = 0.125
"""A hit on the beat may be told a little after it: what so long after a beat is still counted to what was
before it, so that neither side of the line is left to chance. Half a sixteenth lies as far from every place
that is usually struck.
"""
USUAL_BEAT_S = 0.5
"""A beat's length while none is known."""
LOUD_DBFS = -40.0
"""Level of its own range from which a detector is expected to find something."""
FAST_HZ, FAST_MOST = 3_000.0, 4
"""A range that lies above this is struck more often than once a beat: four times is usual, for cymbals
(common practice).
"""

CROWDED = "It fires more than once a beat: give it a longer dead time, or less sensitivity."
SILENT = "Not one hit in eight bars, though its range is loud: give it more sensitivity, or another range."


@dataclass
class DetectorDiagnostics:
    """One detector's. most: hits in one beat that are still usual."""

    most: int = 1
    a_bar: int | None = None
    """Hits of the last whole bar; None before there was one."""
    _bar: int | None = None
    _beat: int = 0
    _beats: deque[int] = field(default_factory=lambda: deque(maxlen=CROWDED_BEATS))
    _since_s: float = 0.0
    _loud_s: float = 0.0
    _beat_s: float = USUAL_BEAT_S
    _fell: deque[list[float]] = field(default_factory=deque)
    """Beats that are not yet the line between what was before and after: how many seconds are left, and their
    bar position.
    """

    def step(self, hits: int, beats: list[int], level_dbfs: float, beat_s: float, seconds: float) -> None:
        """Note what so many seconds brought: hits, the bar positions of the beats that fell, the level of its
        range.
        """
        self._beat_s = beat_s or USUAL_BEAT_S
        self._beat += hits
        if self._bar is not None:
            self._bar += hits
        for waiting in self._fell:
            waiting[0] -= seconds
        self._fell.extend([SLACK_BEATS * self._beat_s, position] for position in beats)
        while self._fell and self._fell[0][0] <= 0.0:
            self._beats.append(self._beat)
            self._beat = 0
            if self._fell.popleft()[1] == 1:
                self.a_bar, self._bar = self._bar, 0
        self._since_s = 0.0 if hits else self._since_s + seconds
        self._loud_s = 0.0 if hits else self._loud_s + (seconds if level_dbfs > LOUD_DBFS else 0.0)

    def warning(self, beats_a_bar: int) -> str:
        """What looks wrong, in words; empty when nothing does."""
        crowded = [count > self.most for count in self._beats]
        if len(crowded) == CROWDED_BEATS and sum(crowded) >= CROWDED_SHARE * CROWDED_BEATS:
            return CROWDED
        eight = SILENT_BARS * beats_a_bar * self._beat_s
        # Loud for half of that time: what is loud once a bar is not silence, and a tail is not loud.
        return SILENT if self._since_s > eight and self._loud_s > eight / 2 else ""

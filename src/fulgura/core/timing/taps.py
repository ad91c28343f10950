"""A tempo that is tapped."""

from dataclasses import dataclass, field

import numpy as np

TAP_GAP_S = 2.0
"""A longer pause between taps begins a new count."""


@dataclass
class Taps:
    """Taps on the beat: ``tap`` each; the tempo is that of the median gap (robust against one slip).

    >>> taps = Taps()
    >>> [taps.tap(t) for t in (0.0, 0.5, 1.0, 1.4)]
    [None, None, 120.0, 120.0]
    """

    times: list[float] = field(default_factory=list)
    began: int = 0
    """Counts the counts."""

    def tap(self, t: float) -> float | None:
        """Note a tap at time t in seconds; the tempo in BPM from the third tap on, when it is one."""
        if self.times and not 0.0 < t - self.times[-1] < TAP_GAP_S:
            self.times.clear()
        self.began += not self.times
        self.times = [*self.times[-7:], t]
        if len(self.times) < 3:
            return None
        bpm = 60.0 / float(np.median(np.diff(self.times)))
        return bpm if 40.0 <= bpm <= 240.0 else None

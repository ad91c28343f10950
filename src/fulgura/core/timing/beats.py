"""The beat as a position that never goes back: what modulators, delays and patterns run on."""

from dataclasses import dataclass
from math import floor


@dataclass
class BeatRun:
    """Beats since the show began, whole and part. It follows the beat that is heard, and runs on alone when
    none is.

    position modulo the beats of a bar is the place in the bar, so that what lasts a bar begins on the one.
    """

    position: float = 0.0

    def step(self, dt: float, beat_s: float, bar_place: float | None, beats_a_bar: int) -> tuple[int, int]:
        """One tick of dt seconds: (beats, bar lines) that were passed.

        bar_place: beats since the bar's one as it is heard, 0 <= x < beats_a_bar; None while no beat is sure.
        """
        before = self.position
        wanted = before + dt / beat_s
        if bar_place is not None:
            off = (bar_place - wanted) % beats_a_bar
            off -= beats_a_bar if off > beats_a_bar / 2 else 0.0
            if abs(off) <= 0.5:
                wanted = max(before, wanted + off)  # A little early: wait. It never goes back.
            else:
                wanted += off % beats_a_bar  # The one was moved: leap on to it.
        self.position = wanted
        passed = floor(wanted) - floor(before)
        return (min(passed, 1) if passed > 1 and bar_place is not None else passed), floor(
            wanted / beats_a_bar
        ) - floor(before / beats_a_bar)

"""The last minute of what flashed, and of what the guard held back."""

import time
from collections.abc import Callable, Iterable

SECONDS = 60


class FlashMinute:
    """What flashed most in each second, and what was held back most, over all outputs."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._of: dict[int, tuple[int, float]] = {}
        self._newest = int(clock())

    def add(self, told: Iterable[tuple[int, float]]) -> list[tuple[int, float]] | None:
        """What outputs say now: flashes of the last second, share held back. Once a second the whole minute
        up to the second that just ended: as many pairs as SECONDS, the oldest first; else None.
        """
        now = int(self._clock())
        ended = None
        if now > self._newest:
            ended = [self._of.get(at, (0, 0.0)) for at in range(now - SECONDS, now)]
            self._of = {at: own for at, own in self._of.items() if at > now - SECONDS}
            self._newest = now
        for flashes, held in told:
            most, share = self._of.get(now, (0, 0.0))
            self._of[now] = (max(most, flashes), max(share, held))
        return ended

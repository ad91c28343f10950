"""What moves often enough to make a picture flash: the first places to look when the guard holds something
back.
"""

from collections import deque

import numpy as np
from pydantic import BaseModel

from fulgura.core.arrays import Array
from fulgura.core.routing.router import Router
from fulgura.core.safety import rules
from fulgura.core.show.document import Show
from fulgura.core.show.names import part_names
from fulgura.core.show.routes import Route

MOST_TOLD = 4


class FlashCause(BaseModel):
    """A parameter that goes up and down more often than three times a second, and the route that does it."""

    target: str
    route: str
    text: str
    a_second: float


class FlashCauses:
    """Follows all that routes move of the shown looks."""

    def __init__(self) -> None:
        self.routes: list[tuple[str, Route]] = []
        self.names: dict[str, str] = {}
        self.signals: dict[str, str] = {}
        self.titles: dict[str, str] = {}
        self.places: Array = np.zeros(0, dtype=np.int64)
        self.spans: Array = np.ones(0)
        self.extremes: Array = np.zeros(0)
        self.rising: Array = np.zeros(0, dtype=bool)
        self.changes: list[deque[float]] = []

    def configure(self, show: Show, router: Router) -> None:
        """Take over an edited show."""
        looks = [look for look in show.looks if look.id in (show.look, show.beside)]
        shown = {part.id for look in looks for part in look.parts()}
        before = {target: times for (target, _), times in zip(self.routes, self.changes)}
        self.routes = [
            (target, route)
            for route in show.routes
            if not route.muted
            for target in route.targets
            if target.partition(".")[0] in shown and target in router.by_target
        ]
        entries = [router.by_target[target] for target, _ in self.routes]
        self.names = part_names(show)
        self.signals = {signal.id: signal.name for signal in router.signals}
        self.titles = {target: entry.parameter.title for (target, _), entry in zip(self.routes, entries)}
        self.places = np.array([entry.index for entry in entries], dtype=np.int64)
        self.spans = np.array([_span(entry.parameter.low, entry.parameter.high) for entry in entries])
        self.extremes = router.live[self.places].copy() if len(self.places) else np.zeros(0)
        self.rising = np.ones(len(entries), dtype=bool)
        self.changes = [before.get(target, deque()) for target, _ in self.routes]

    def step(self, live: Array, seconds: float) -> None:
        """One tick: which of them turned round."""
        if not len(self.places):
            return
        now = live[self.places]
        off = np.where(self.rising, self.extremes - now, now - self.extremes)
        turned = off >= rules.STEP * self.spans
        further = np.where(self.rising, np.maximum(self.extremes, now), np.minimum(self.extremes, now))
        self.extremes = np.where(turned, now, further)
        self.rising ^= turned
        for at in np.flatnonzero(turned):
            times = self.changes[at]
            times.append(seconds)
            while times[0] <= seconds - 1.0:
                times.popleft()

    def found(self, seconds: float) -> list[FlashCause]:
        """Those that turned round more than six times in the last second, the most often first."""
        rows = []
        for (target, route), times in zip(self.routes, self.changes):
            recent = sum(time > seconds - 1.0 for time in times)
            if recent > rules.MOST_CHANGES:
                part, _, parameter = target.partition(".")
                signal = self.signals.get(route.signal, route.signal)
                text = f"{signal} on {self.names.get(part, part)} · {self.titles.get(target, parameter)}"
                rows.append(FlashCause(target=target, route=route.id, text=text, a_second=recent / 2.0))
        return sorted(rows, key=lambda row: -row.a_second)[:MOST_TOLD]


def _span(low: float | None, high: float | None) -> float:
    return max(1e-9, (high if high is not None else 1.0) - (low if low is not None else 0.0))

"""What the surface tells the performer: sentences that stay for a while, and what controls said."""

from collections import deque
from dataclasses import dataclass, field
from typing import Any

from fulgura.core.clock import FRAME_RATE

STAYS_TICKS = 8 * FRAME_RATE
ROWS = 40


@dataclass
class News:
    """said: sentences and until which tick they stay; log: what controls said last, the newest last."""

    tick: int = 0
    said: dict[str, int] = field(default_factory=dict)
    log: deque[dict[str, Any]] = field(default_factory=lambda: deque(maxlen=ROWS))
    heard: int = 0
    """How many messages came so far."""

    def say(self, text: str) -> None:
        """A sentence for the performer."""
        self.said[text] = self.tick + STAYS_TICKS

    def step(self) -> None:
        """One tick: what stood long enough goes."""
        self.tick += 1
        for text in [text for text, until in self.said.items() if until < self.tick]:
            del self.said[text]

    def note(self, controller: str, source: str, value: float, did: str) -> None:
        """What a control said, and what came of it."""
        self.heard += 1
        row = {"number": self.heard, "controller": controller, "source": source}
        self.log.append({**row, "value": round(value, 4), "did": did})

"""The colours of the palette in use, on their way from those of another."""

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.colour import from_hex
from fulgura.core.show.document import Show


class Painted:
    """``take`` takes a show's palette over; ``step`` gives its colours of this tick."""

    def __init__(self) -> None:
        self.palette: list[str] = []
        """As they are written."""
        self.now: Array = np.zeros((0, 3))
        """Linear light, shape (n, 3)."""
        self._begun: Array = self.now
        self._wanted: Array = self.now
        self._gone = self._seconds = 0.0

    def take(self, show: Show, glide_s: float) -> bool:
        """Whether the colours are others than before; they take glide_s seconds to get there."""
        palette = show.colours
        if palette == self.palette:
            return False
        self.palette, self._wanted = palette, np.array([from_hex(colour) for colour in palette])
        # What is new comes from those of before, counted round.
        places = np.arange(len(palette)) % max(1, len(self.now))
        self._begun = self.now[places] if len(self.now) else self._wanted
        self._gone, self._seconds = 0.0, glide_s
        return True

    def step(self, dt: float) -> Array:
        """One tick further."""
        self._gone += dt
        share = min(1.0, self._gone / self._seconds) if self._seconds > 0.0 else 1.0
        self.now = self._begun + share * (self._wanted - self._begun) if share < 1.0 else self._wanted
        return self.now

    def block(self, size: int) -> Array:
        """So many colours for shaders, a 1 behind each, counted round; shape (size, 4)."""
        places = np.arange(size) % max(1, len(self.now))
        colours = self.now[places] if len(self.now) else np.zeros((size, 3))
        return np.concatenate([colours, np.ones((size, 1))], axis=1)

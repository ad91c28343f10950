"""What the analyser listens for."""

from typing import ClassVar

from fulgura.core.kinds.registry import Kind

DRUMS = ("kick", "snare", "hat")
SLOPES = {"gentle": 1, "usual": 2, "steep": 4}
"""How a band falls beside its edges -> how often its filter is run: 6, 12 or 24 dB an octave."""
DEAD_TIME_MS = {"kick": 80.0, "snare": 60.0, "hat": 50.0}
"""After a hit of a drum nothing is counted for so long."""


class Listening(Kind):
    """What the analyser listens for."""

    family: ClassVar[str] = "listening"

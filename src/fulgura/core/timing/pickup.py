"""A fader of a controller and the value it moves: bound by moving it, and never a leap.

A controller does not know where the value stands (it was moved on the desk, or another show was opened). So
its fader takes hold only when it passes the value, as a hand would pick it up (common practice: soft
takeover).
"""

from dataclasses import dataclass, field

NEAR = 0.03
"""Share of the range within which the fader has hold of the value at once."""
GESTURE_GAP_S = 1.0
"""Movements closer together than this are one step for undo."""


@dataclass
class Pickup:
    """What is remembered of each fader and what it moves, by a name for the two."""

    positions: dict[str, float] = field(default_factory=dict)
    gestures: dict[str, tuple[int, float]] = field(default_factory=dict)

    def move(self, control: str, position: float, value: float, low: float, high: float) -> float | None:
        """The new value when a fader (0..1) moves over a value's range; None while it has not picked the
        value up.
        """
        position = min(1.0, max(0.0, position))
        before = self.positions.get(control)
        self.positions[control] = position
        stands = (value - low) / (high - low) if high != low else 0.0
        held = abs(position - stands) <= NEAR or (
            before is not None
            and (abs(before - stands) <= NEAR or (before - stands) * (position - stands) < 0.0)
        )
        return low + position * (high - low) if held else None

    def gesture(self, control: str, now: float) -> str:
        """A name for the movement that is under way at a time in seconds."""
        number, last = self.gestures.get(control, (0, now))
        number += now - last > GESTURE_GAP_S
        self.gestures[control] = (number, now)
        return f"fader {number} {control}"[:64]

"""Hands on live values: grabbed, frozen, and led smoothly back. One mechanism for all: a glide from what was
to what is.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from fulgura.core.arrays import Array


@dataclass
class Glide:
    """On the way from where it was. gone: seconds so far."""

    start: list[float]
    seconds: float
    gone: float = 0.0


def eased(share: float) -> float:
    """Smoothstep, 3x^2 - 2x^3: begins and ends without a jerk."""
    return share * share * (3.0 - 2.0 * share)


@dataclass
class Overrides:
    """What holds live values beside routes. held: target -> the value it is kept at; gliding: target -> its
    way back.
    """

    active: dict[str, list[float]] = field(default_factory=dict)
    gliding: dict[str, Glide] = field(default_factory=dict)

    def set(self, target: str, value: list[float]) -> None:
        """Grab, or go on holding: the live value is this until it is given back."""
        self.active[target] = value
        self.gliding.pop(target, None)

    def release(self, target: str, seconds: float) -> None:
        """Let go: the live value glides to where routes and hand want it."""
        value = self.active.pop(target, None)
        if value is not None and seconds > 0.0:
            self.gliding[target] = Glide(value, seconds)

    def glide_all(self, indices: Mapping[str, Any], live: Array, seconds: float) -> None:
        """Whatever changes now is reached from where it is."""
        for target, entry in indices.items():
            self.glide(target, entry, live, seconds)

    def glide(self, target: str, entry: Any, live: Array, seconds: float) -> None:
        """What changes here is reached from where it is; at once for 0 seconds."""
        if target in self.active:
            return
        self.gliding.pop(target, None)
        if seconds > 0.0:
            now = live[entry.index : entry.index + entry.parameter.size].tolist()
            self.gliding[target] = Glide(now, seconds)

    def forget(self, indices: Mapping[str, Any]) -> None:
        """A show was edited: what is gone is let go."""
        for kept in (self.active, self.gliding):
            for target in [target for target in kept if target not in indices]:
                del kept[target]

    def act(self, live: Array, indices: Mapping[str, Any], dt: float) -> None:
        """Change the live values in place, after routes have had their say."""
        ended = []
        for target, glide in self.gliding.items():
            entry = indices[target]
            glide.gone += dt
            share = min(1.0, glide.gone / glide.seconds)
            if share >= 1.0:
                ended.append(target)
                continue
            part = eased(share)
            for i, start in enumerate(glide.start):
                at = entry.index + i
                # A choice has nothing between its places: it changes at the end.
                live[at] = (
                    start
                    if entry.parameter.type in ("choice", "toggle")
                    else start + (live[at] - start) * part
                )
        for target in ended:
            del self.gliding[target]
        for target, value in self.active.items():
            entry = indices[target]
            live[entry.index : entry.index + len(value)] = value

"""Modulators: signals that are not heard but made. One is a part of the show like any other: its parameters
have hand values, and routes can move them.
"""

from typing import Any, ClassVar, Literal

from fulgura.core.kinds.registry import Kind
from fulgura.core.kinds.tick import Moment

State = list[Any]


class Mover(Kind):
    """Makes one signal."""

    family: ClassVar[str] = "mover"
    made_by: ClassVar[Literal["beat", "hand"]] = "beat"
    """What it follows, for its colour on the desk."""

    def start(self, seed: int) -> State:
        """The state that it begins with. seed: of everything random in it."""
        return []

    def step(self, state: State, now: Moment) -> tuple[float, int]:
        """One tick: (value, hits that fall)."""
        raise NotImplementedError

    def refers_to(self) -> tuple[str, ...]:
        """Signals that it looks at."""
        return ()

    def trouble(self, order: dict[str, int]) -> str:
        """What is wrong with it, in words; empty when nothing is. order: the signals that there are."""
        return next(
            (
                f"The signal “{signal}” that it listens to is gone."
                for signal in self.refers_to()
                if signal not in order
            ),
            "",
        )

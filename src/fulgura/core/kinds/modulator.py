"""Modulators: signals that are not heard but made. One is a part of the show like any other: its parameters
have hand values, and routes can move them.
"""

from collections.abc import Mapping
from typing import Any, ClassVar, Literal

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.registry import Kind
from fulgura.core.kinds.tick import TickContext

State = list[Any]


class Modulator(Kind):
    """Makes one signal."""

    family: ClassVar[str] = "modulator"
    made_by: ClassVar[Literal["beat", "hand"]] = "beat"
    """What it follows, for its colour on the desk."""

    def start(self, seed: int) -> State:
        """The state that it begins with. seed: of everything random in it."""
        return []

    def step(self, state: State, now: TickContext) -> tuple[float, int]:
        """One tick: (value, hits that fall)."""
        raise NotImplementedError

    def refers_to(self) -> tuple[str, ...]:
        """Signals that it looks at."""
        return ()

    def fault(self, order: Mapping[str, int]) -> Fault | None:
        """What is wrong with it; None when nothing is. order: the signals that there are."""
        gone = (signal for signal in self.refers_to() if signal not in order)
        return next((Fault.of(FaultCode.MODULATOR_SIGNAL_GONE, signal=signal) for signal in gone), None)

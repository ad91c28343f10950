"""Modulators while they run: what each remembers, and one tick of one."""

from dataclasses import dataclass

from fulgura.core.arrays import Array
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.modulator import Modulator, State
from fulgura.core.kinds.tick import NOTHING_PLAYED, TickContext
from fulgura.core.routing.indices import ParameterIndex
from fulgura.core.show.part import Part


@dataclass
class ModulatorRunner:
    """One modulator, and what it remembers. routed: whether a route moves one of its parameters."""

    part: Part
    kind: Modulator
    state: State
    signal: int
    indices: list[ParameterIndex]
    fault: Fault | None = None
    passing: Fault | None = None
    """What is wrong in one tick: the next one tries again."""
    routed: bool = False

    def step(self, live: Array, now: TickContext) -> tuple[float, int]:
        """(its value, how many hits it made) in this tick. live: shape (floats,), its own parameters
        as moved.
        """
        self.passing = None
        if self.fault:
            return 0.0, 0
        now.mine = now.played.get(self.part.id, NOTHING_PLAYED)
        kind = self.kind
        if self.routed:
            kind = kind.model_copy(
                update={
                    entry.parameter.name: float(live[entry.index])
                    for entry in self.indices
                    if entry.parameter.type == "number"
                }
            )
        try:
            value, fell = kind.step(self.state, now)
        except ZeroDivisionError:
            self.passing = Fault.of(FaultCode.DIVIDES_BY_ZERO)
            return 0.0, 0
        except (OverflowError, ValueError):
            self.passing = Fault.of(FaultCode.ENDLESS)
            return 0.0, 0
        return value, fell

"""The order in which routes and modulators are run: each after what it hears. What goes round in a ring is
named and left out.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import partial
from typing import Any

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.routing import run as running
from fulgura.core.routing.compile import Runner
from fulgura.core.routing.indices import ParameterIndex, bounds
from fulgura.core.routing.made import ModulatorRunner
from fulgura.core.routing.run import TARGET
from fulgura.core.show.routes import MIXES, MixHow
from fulgura.core.show.settings import SOUND
from fulgura.core.show.signals import SignalInfo

_MIXES = tuple(MIXES)
_FORMS = {"choice": running.CHOICE, "toggle": running.TOGGLE}


@dataclass
class RunGroup:
    """What is run in one go: routes, and the parameters that they move; then the modulator whose parameters
    those are, if any.
    """

    modulator: ModulatorRunner | None
    runners: list[Runner]
    which: Array = field(default_factory=lambda: np.zeros(0, dtype=np.int64))
    targets: Array = field(default_factory=lambda: np.zeros(0, dtype=TARGET))
    ways: Array = field(default_factory=lambda: np.zeros((0, 2), dtype=np.int64))


class Orderer:
    """Puts what a show has in order.

    signals, order: the show's signals, and the place of each by its id and word; entries: parameters by
    address; index_of: gives the index of a route among all.
    """

    def __init__(
        self,
        runners: Sequence[Runner],
        modulators: Sequence[ModulatorRunner],
        signals: Sequence[SignalInfo],
        order: Mapping[str, int],
        entries: Mapping[str, ParameterIndex],
        index_of: Callable[[Runner], int],
    ) -> None:
        self.runners, self.modulators = runners, modulators
        self.signals, self.order, self.entries, self.index_of = signals, order, entries, index_of
        self.made = {runner.signal: runner for runner in modulators}
        self.owner = {entry.target: runner.signal for runner in modulators for entry in runner.indices}
        """Signal of the modulator that a parameter belongs to."""
        self.feeding: dict[int, list[Runner]] = {signal: [] for signal in self.made}
        self.done: set[int] = set()
        self.path: list[int] = []
        self.groups: list[RunGroup] = []

    def run(self, mixes: Mapping[str, MixHow]) -> list[RunGroup]:
        """The groups in order; faults of rings are written to the runners. mixes: of parameters that several
        routes move.
        """
        rest = self._feed()
        for modulator in self.modulators:
            modulator.fault = modulator.kind.fault(self.order)
        for modulator in self.modulators:
            self._visit(modulator.signal)
        self.groups.append(RunGroup(None, rest))
        # A route to several modulators is run with the first of them that needs it; one to modulators and
        # others likewise.
        told: set[str] = set()
        for group in self.groups:
            mine = [runner for runner in group.runners if runner.route.id not in told]
            told |= {runner.route.id for runner in mine}
            group.which = np.array(
                [self.index_of(runner) for runner in mine if _acts(runner)], dtype=np.int64
            )
            signal = None if group.modulator is None else group.modulator.signal
            group.targets, group.ways = self._ways(group.runners, signal, mixes)
        return self.groups

    def _feed(self) -> list[Runner]:
        """Note which routes move each modulator; those that move something else come back."""
        rest: list[Runner] = []
        for runner in self.runners:
            runner.ring = None
            fed = {self.owner[entry.target] for entry in runner.targets if entry.target in self.owner}
            for signal in fed:
                self.feeding[signal].append(runner)
            if not fed or len(fed) < len({entry.part for entry in runner.targets}):
                rest.append(runner)
        return rest

    def _visit(self, signal: int) -> None:
        if signal in self.done or signal not in self.made:
            return
        modulator = self.made[signal]
        self.path.append(signal)
        for name in modulator.kind.refers_to():
            self._follow(self.order.get(name, -1), partial(setattr, modulator, "fault"))
        for runner in self.feeding[signal]:
            for heard in sorted({int(runner.row["signal"]), *runner.refers}):
                self._follow(heard, partial(setattr, runner, "ring"))
        self.path.pop()
        self.done.add(signal)
        modulator.routed = bool(self.feeding[signal])
        self.groups.append(RunGroup(modulator, self.feeding[signal]))

    def _follow(self, heard: int, complain: Callable[[Fault], None]) -> None:
        if heard in self.path:
            names = (
                self.signals[signal_id].name for signal_id in (*self.path[self.path.index(heard) :], heard)
            )
            complain(Fault.of(FaultCode.RING, names=" → ".join(names)))
        else:
            self._visit(heard)

    def _ways(
        self, runners: Iterable[Runner], owner: int | None, mixes: Mapping[str, MixHow]
    ) -> tuple[Array, Array]:
        """Rows of the parameters that these routes move and that belong to this owner, and the ways that lead
        to each.
        """
        found: dict[str, list[tuple[int, int]]] = {}
        for runner in filter(_acts, runners):
            for number, entry in enumerate(runner.targets):
                if self.owner.get(entry.target) == owner:
                    found.setdefault(entry.target, []).append((self.index_of(runner), runner.at[1] + number))
        rows: list[tuple[Any, ...]] = []
        ways: list[tuple[int, int]] = []
        for target, own in found.items():
            entry = self.entries[target]
            how = _MIXES.index(mixes.get(target, "sum"))
            form = _FORMS.get(entry.parameter.type, running.NUMBER)
            span = (len(ways), len(ways) + len(own))
            free = entry.part == SOUND
            rows.append((entry.index, entry.parameter.size, how, form, *bounds(entry.parameter), *span, free))
            ways += own
        return np.array(rows, dtype=TARGET), np.array(ways, dtype=np.int64).reshape(-1, 2)


def _acts(runner: Runner) -> bool:
    return bool(runner.row["signal"] >= 0 and not runner.ring)

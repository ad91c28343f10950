"""A route as rows of numbers, for the compiled loop of run.py."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from zlib import crc32

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.colour import from_hex, resolved
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.kinds.shapers.spread import place
from fulgura.core.routing import run as running
from fulgura.core.routing.indices import ParameterIndex
from fulgura.core.routing.run import LANE, ROUTE, SHAPER
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route


@dataclass
class Runner:
    """One route as rows of numbers, and where they stand among those of all routes.

    shapers, lanes count from 0, and so do p and s; names: of what each shaper remembers, in the order of the
    rows; shared: how many shapers stand before a cycle; cycles: whether there is one; refers: signals that
    shapers look at.
    """

    route: Route
    row: Array
    shapers: Array
    names: list[tuple[str, str]]
    lanes: Array
    targets: list[ParameterIndex]
    p: Array
    s: Array
    shared: int
    cycles: bool
    refers: set[int]
    fault: Fault | None = None
    ring: Fault | None = None
    at: tuple[int, int, int, int] = (0, 0, 0, 0)
    """Where its shapers, lanes, p and s begin."""

    @property
    def turns(self) -> Array:
        """What the cycle remembers, where there is one."""
        row = self.shapers[self.shared]
        return self.s[row["s"] : row["s_end"]]

    @property
    def turns_by(self) -> Array:
        """The cycle's parameters, where there is one."""
        row = self.shapers[self.shared]
        return self.p[row["p"] : row["p_end"]]

    def fits(self, other: "Runner") -> bool:
        """Whether another takes exactly this one's place: as many numbers, and the same signals and
        targets.
        """

        def sizes(runner: "Runner") -> tuple[int, int, int]:
            return (len(runner.p), len(runner.s), len(runner.route.shapers))

        return (
            sizes(self) == sizes(other)
            and self.names == other.names
            and self.targets == other.targets
            and self.refers == other.refers
            and self.row["signal"] == other.row["signal"]
        )


def _ends(
    route: Route, parameter: Parameter, palette: Sequence[str]
) -> tuple[list[float], list[float]] | FaultCode:
    """(low, high) of a route as floats of its slot, or what is wrong when they are of another kind than the
    parameter.
    """
    if parameter.type == "colour":
        if not (isinstance(route.low, str) and isinstance(route.high, str)):
            return FaultCode.NEEDS_COLOURS
        low, high = (from_hex(resolved(end, palette)) for end in (route.low, route.high))
        return list(low), list(high)
    if isinstance(route.low, str) or isinstance(route.high, str):
        return FaultCode.NEEDS_NUMBERS
    return [float(route.low)], [float(route.high)]


MOST_LANES = running.MOST_LANES


def _lanes(part: Part) -> str:
    """How a shaper parts the way of several targets, if it does."""
    return Shaper.kinds[part.kind].lanes


def seed_of(show_seed: int, *names: str) -> int:
    """A seed of its own for everything that has a name in the show."""
    return crc32("/".join(names).encode(), show_seed & 0xFFFFFFFF)


def compile_route(
    route: Route,
    order: dict[str, int],
    by_target: dict[str, ParameterIndex],
    groups: Callable[[str], list[str]],
    seed: int,
    old: Runner | None = None,
    palette: Sequence[str] = (),
) -> Runner:
    """One route as numbers. A shaper that stays keeps what it remembers, so that an edit while playing makes
    no jump. groups: addresses that a group's stands for; palette: the colours in
    use.
    """
    return _Compiler(route, order, by_target, groups, seed, old, palette).run()


class _Compiler:
    """Collects the rows of one route."""

    def __init__(
        self,
        route: Route,
        order: dict[str, int],
        by_target: dict[str, ParameterIndex],
        groups: Callable[[str], list[str]],
        seed: int,
        old: Runner | None,
        palette: Sequence[str],
    ) -> None:
        self.route, self.order, self.by_target, self.seed, self.old = route, order, by_target, seed, old
        self.groups, self.palette = groups, palette
        self.kept: dict[tuple[str, str], Array] = {}
        if old is not None:
            self.kept = {name: old.s[row["s"] : row["s_end"]] for name, row in zip(old.names, old.shapers)}
        self.rows: list[tuple[int, ...]] = []
        self.names: list[tuple[str, str]] = []
        self.p: list[float] = []
        self.s: list[float] = []
        self.refers: set[int] = set()
        self.fault = None if route.signal in order else Fault.of(FaultCode.SIGNAL_GONE)
        self.way_in_unit = 1.0

    def run(self) -> Runner:
        route = self.route
        targets, ends = self._targets()
        if ends:
            self.way_in_unit = abs(ends[0][1][0] - ends[0][0][0])
        on = [(position, part) for position, part in enumerate(route.shapers) if part.on]
        split = next((i for i, (_, part) in enumerate(on) if _lanes(part)), len(on))
        for position, part in on[:split]:
            self._add(position, part)
        shared = len(self.rows)
        turns = split < len(on) and _lanes(on[split][1]) == "turns"
        if turns:
            self._add(*on[split])
            split += 1
        picks = any(Shaper.kinds[part.kind].gives_colours for _, part in on)
        lanes = np.zeros(len(targets), dtype=LANE)
        for lane, entry, (low, high), stands in zip(lanes, targets, ends, self.stands):
            lane["first"] = len(self.rows)
            for position, part in on[split:]:
                self._add(position, part, entry.target, stands)
            lane["last"], lane["size"] = len(self.rows), len(low)
            lane["picks"] = len(low) == 3 and picks
            lane["low"][: len(low)] = lane["out"][: len(low)] = low
            lane["way"][: len(low)] = np.array(high) - np.array(low)
        return Runner(
            route,
            self._row(),
            np.array(self.rows, dtype=SHAPER),
            self.names,
            lanes,
            targets,
            np.array(self.p),
            np.array(self.s),
            shared,
            turns,
            self.refers,
            self.fault,
        )

    def _targets(self) -> tuple[list[ParameterIndex], list[tuple[list[float], list[float]]]]:
        """Those that are there and fit, with the ends between which each is moved."""
        targets: list[ParameterIndex] = []
        ends: list[tuple[list[float], list[float]]] = []
        single = [target for target in self.route.targets if target in self.by_target]
        self.stands: list[tuple[int, int]] = []
        for target in self.route.targets:
            row = single if target in self.by_target else self.groups(target)
            if not row:
                only = len(self.route.targets) == 1
                gone = FaultCode.TARGET_GONE if only else FaultCode.SOME_TARGET_GONE
                self.fault = self.fault or Fault.of(gone)
                continue
            for address in [target] if row is single else row:
                entry = self.by_target[address]
                found = _ends(self.route, entry.parameter, self.palette)
                if isinstance(found, FaultCode):
                    self.fault = self.fault or Fault.of(found)
                elif len(targets) < MOST_LANES:
                    ends.append(found)
                    targets.append(entry)
                    self.stands.append((row.index(address), len(row)))
        return targets, ends

    def _add(self, position: int, part: Part, target: str = "", stands: tuple[int, int] = (0, 1)) -> None:
        """One shaper's rows. position: among the route's shapers; target: of the lane that it is in, and
        where that stands in its row.
        """
        shaper: Shaper = part.model()
        memory = shaper.start(seed_of(self.seed, self.route.id, part.id, target))
        name = (f"{part.kind} {part.id}", target)
        if name in self.kept and len(self.kept[name]) == len(memory):
            memory = self.kept[name].tolist()
        if part.kind == "step":
            memory[2] = self.way_in_unit
        numbers = shaper.numbers(self.order)
        if _lanes(part) == "spread":
            numbers.append(place(part.values["way"], *stands))
        p, s = len(self.p), len(self.s)
        kind = running.KIND[part.kind]
        self.rows.append((kind, p, p + len(numbers), s, s + len(memory), position + 1))
        self.names.append(name)
        self.p.extend(numbers)
        self.s.extend(memory)
        for heard in shaper.refers_to():
            self.refers.add(self.order.get(heard, -1))
            if heard not in self.order:
                title = shaper.title or type(shaper).__name__
                self.fault = self.fault or Fault.of(FaultCode.SHAPER_SIGNAL_GONE, shaper=title)

    def _row(self) -> Array:
        row = np.zeros((), dtype=ROUTE)
        row["signal"] = self.order.get(self.route.signal, -1)
        row["low"], row["high"] = np.inf, -np.inf
        if self.old is not None:
            for name in ("peak", "low", "high", "moved", "clamped"):
                row[name] = self.old.row[name]
        return row

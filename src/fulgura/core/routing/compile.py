"""A route as rows of numbers, for the compiled loop of run.py."""

from dataclasses import dataclass
from zlib import crc32

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.colour import from_hex
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.shaper import Shaper
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

    def fits(self, other: "Runner") -> bool:
        """Whether another takes exactly this one's place: as many numbers, and the same signals and
        targets.
        """

        def sizes(one: "Runner") -> tuple[int, int, int]:
            return (len(one.p), len(one.s), len(one.route.shapers))

        return (
            sizes(self) == sizes(other)
            and self.names == other.names
            and self.targets == other.targets
            and self.refers == other.refers
            and self.row["signal"] == other.row["signal"]
        )


def _ends(route: Route, parameter: Parameter) -> tuple[list[float], list[float]] | FaultCode:
    """(low, high) of a route as floats of its slot, or what is wrong when they are of another kind than the
    parameter.
    """
    if parameter.type == "colour":
        if not (isinstance(route.low, str) and isinstance(route.high, str)):
            return FaultCode.NEEDS_COLOURS
        return list(from_hex(route.low)), list(from_hex(route.high))
    if isinstance(route.low, str) or isinstance(route.high, str):
        return FaultCode.NEEDS_NUMBERS
    return [float(route.low)], [float(route.high)]


def seed_of(show_seed: int, *names: str) -> int:
    return crc32("/".join(names).encode(), show_seed & 0xFFFFFFFF)


def compile_route(
    route: Route,
    order: dict[str, int],
    by_target: dict[str, ParameterIndex],
    seed: int,
    old: Runner | None = None,
) -> Runner:
    """One route as numbers. A shaper that stays keeps what it remembers, so that an edit while playing makes
    no jump.
    """
    kept = (
        {name: old.s[row["s"] : row["s_end"]] for name, row in zip(old.names, old.shapers)}
        if old is not None
        else {}
    )
    rows: list[tuple[int, ...]] = []
    names: list[tuple[str, str]] = []
    p: list[float] = []
    s: list[float] = []
    refers: set[int] = set()
    fault = None if route.signal in order else Fault.of(FaultCode.SIGNAL_GONE)
    way_in_unit = 1.0

    def add(place: int, part: Part, target: str = "") -> None:
        nonlocal fault
        shaper: Shaper = part.model()
        memory, name = (
            shaper.start(seed_of(seed, route.id, part.id, target)),
            (f"{part.kind} {part.id}", target),
        )
        if name in kept and len(kept[name]) == len(memory):
            memory = kept[name].tolist()
        if part.kind == "step":
            memory[2] = way_in_unit
        numbers = shaper.numbers(order)
        rows.append(
            (running.KIND[part.kind], len(p), len(p) + len(numbers), len(s), len(s) + len(memory), place + 1)
        )
        names.append(name)
        p.extend(numbers)
        s.extend(memory)
        for heard in shaper.refers_to():
            refers.add(order.get(heard, -1))
            if heard not in order:
                title = shaper.title or type(shaper).__name__
                fault = fault or Fault.of(FaultCode.SHAPER_SIGNAL_GONE, shaper=title)

    targets, ends = [], []
    for target in route.targets:
        entry = by_target.get(target)
        if entry is None:
            only = len(route.targets) == 1
            fault = fault or Fault.of(FaultCode.TARGET_GONE if only else FaultCode.SOME_TARGET_GONE)
            continue
        found = _ends(route, entry.parameter)
        if isinstance(found, FaultCode):
            fault = fault or Fault.of(found)
        else:
            ends.append(found)
            targets.append(entry)
    if ends:
        way_in_unit = abs(ends[0][1][0] - ends[0][0][0])
    on = [(place, part) for place, part in enumerate(route.shapers) if part.on]
    split = next((i for i, (_, part) in enumerate(on) if part.kind == "cycle"), len(on))
    for place, part in on[:split]:
        add(place, part)
    shared = len(rows)
    for place, part in on[split : split + 1]:
        add(place, part)
    lanes = np.zeros(len(targets), dtype=LANE)
    for lane, entry, (low, high) in zip(lanes, targets, ends):
        lane["first"] = len(rows)
        for place, part in on[split + 1 :]:
            add(place, part, entry.target)
        lane["last"], lane["size"] = len(rows), len(low)
        lane["low"][: len(low)] = lane["out"][: len(low)] = low
        lane["way"][: len(low)] = np.array(high) - np.array(low)
    row = np.zeros((), dtype=ROUTE)
    row["signal"], row["low"], row["high"] = order.get(route.signal, -1), np.inf, -np.inf
    if old is not None:
        for name in ("peak", "low", "high", "moved", "clamped"):
            row[name] = old.row[name]
    return Runner(
        route,
        row,
        np.array(rows, dtype=SHAPER),
        names,
        lanes,
        targets,
        np.array(p),
        np.array(s),
        shared,
        split < len(on),
        refers,
        fault,
    )

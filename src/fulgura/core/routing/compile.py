"""A route as rows of numbers, for the compiled loop of run.py."""

from dataclasses import dataclass
from zlib import crc32

import numpy as np
from numpy.typing import NDArray

from fulgura.core.kinds.colour import from_hex
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.routing import run as running
from fulgura.core.routing.run import LANE, ROUTE, SHAPER
from fulgura.core.routing.slots import Slot
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route

TOO_LARGE = "Its shapers made a number too large to use."


@dataclass
class Runner:
    """One route as rows of numbers, and where they stand among those of all routes.

    shapers, lanes count from 0, and so do p and s; names: of what each shaper remembers, in the order of the
    rows; shared: how many shapers stand before a cycle; cycles: whether there is one; refers: signals that
    shapers look at.
    """

    route: Route
    row: NDArray
    shapers: NDArray
    names: list[tuple[str, str]]
    lanes: NDArray
    targets: list[Slot]
    p: NDArray
    s: NDArray
    shared: int
    cycles: bool
    refers: set[int]
    trouble: str = ""
    ring: str = ""
    at: tuple[int, int, int, int] = (0, 0, 0, 0)
    """Where its shapers, lanes, p and s begin."""

    def fits(self, other: "Runner") -> bool:
        """Whether another takes exactly this one's place: as many numbers, and the same signals and
        targets.
        """

        def sizes(one):
            return (len(one.p), len(one.s), len(one.route.shapers))

        return (
            sizes(self) == sizes(other)
            and self.names == other.names
            and self.targets == other.targets
            and self.refers == other.refers
            and self.row["signal"] == other.row["signal"]
        )


def _ends(route: Route, parameter: Parameter) -> tuple[list[float], list[float]]:
    """(low, high) of a route as floats of its slot. Raises ValueError when they are of another kind than the
    parameter.
    """
    if parameter.type == "colour":
        if not (isinstance(route.low, str) and isinstance(route.high, str)):
            raise ValueError("It needs two colours, not numbers.")
        return list(from_hex(route.low)), list(from_hex(route.high))
    if isinstance(route.low, str) or isinstance(route.high, str):
        raise ValueError("It needs two numbers, not colours.")
    return [float(route.low)], [float(route.high)]


def seed_of(show_seed: int, *names: str) -> int:
    return crc32("/".join(names).encode(), show_seed & 0xFFFFFFFF)


def compile_route(
    route: Route, order: dict[str, int], by_target: dict[str, Slot], seed: int, old: Runner | None = None
) -> Runner:
    """One route as numbers. A shaper that stays keeps what it remembers, so that an edit while playing makes
    no jump.
    """
    kept = (
        {name: old.s[row["s"] : row["s_end"]] for name, row in zip(old.names, old.shapers)}
        if old is not None
        else {}
    )
    rows: list[tuple] = []
    names: list[tuple[str, str]] = []
    p: list[float] = []
    s: list[float] = []
    refers: set[int] = set()
    trouble = "" if route.signal in order else "Its signal is gone."
    way_in_unit = 1.0

    def add(place: int, part: Part, target: str = "") -> None:
        nonlocal trouble
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
                trouble = (
                    trouble or f"{shaper.title or type(shaper).__name__} listens to a signal that is gone."
                )

    targets, ends = [], []
    for target in route.targets:
        slot = by_target.get(target)
        if slot is None:
            trouble = trouble or (
                "What it moved is gone." if len(route.targets) == 1 else "One of those that it moved is gone."
            )
            continue
        try:
            ends.append(_ends(route, slot.parameter))
            targets.append(slot)
        except ValueError as error:
            trouble = trouble or str(error)
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
    for lane, slot, (low, high) in zip(lanes, targets, ends):
        lane["first"] = len(rows)
        for place, part in on[split + 1 :]:
            add(place, part, slot.target)
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
        trouble,
    )

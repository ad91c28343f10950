"""The compiled loops of a tick: all routes through their shapers, then what several of them make of each
parameter.

Routes are rows of numbers here. What they mean, and how they are made, is router.py's.
"""

import warnings
from functools import lru_cache
from typing import Any

import numpy as np
from numba import njit, types
from numba.core.errors import NumbaExperimentalFeatureWarning
from numba.core.typing.templates import Signature
from numba.typed import List

from fulgura.core.arrays import Array
from fulgura.core.kinds.registry import load
from fulgura.core.kinds.shaper import SIGNATURE, Shaper
from fulgura.core.kinds.shapers.cycle import next_turn
from fulgura.core.kinds.shapers.pick import picked

SHAPER = np.dtype(
    [("kind", "i8"), ("p", "i8"), ("p_end", "i8"), ("s", "i8"), ("s_end", "i8"), ("stage", "i8")]
)
"""kind: place in KIND; p to p_end: its parameters; s to s_end: what it remembers; stage: where its output is
shown, -1 nowhere.
"""
ROUTE = np.dtype(
    [
        ("signal", "i8"),
        ("first", "i8"),
        ("last", "i8"),
        ("cycle", "i8"),
        ("lane", "i8"),
        ("lane_end", "i8"),
        ("stage", "i8"),
        ("out_stage", "i8"),
        ("amount", "f8"),
        ("acts", "b1"),
        ("large", "b1"),
        ("peak", "f8"),
        ("low", "f8"),
        ("high", "f8"),
        ("moved", "f8"),
        ("clamped", "f8"),
    ]
)
"""first to last: its shapers before a cycle; cycle: that, or -1; lane to lane_end: the way to each target.
peak: of what came in lately; low, high: of what goes out in this bar; moved: in the last one, as a share of
the way; clamped: share of the time.
"""
LANE = np.dtype(
    [
        ("first", "i8"),
        ("last", "i8"),
        ("size", "i8"),
        ("picks", "b1"),
        ("low", "f8", (3,)),
        ("way", "f8", (3,)),
        ("out", "f8", (3,)),
    ]
)
"""first to last: its shapers behind a cycle; size: floats of its slot; picks: a palette's colours; low,
way, out: in the parameter's own
unit.
"""
TARGET = np.dtype(
    [
        ("index", "i8"),
        ("size", "i8"),
        ("how", "i8"),
        ("form", "i8"),
        ("low", "f8"),
        ("high", "f8"),
        ("way", "i8"),
        ("way_end", "i8"),
        ("free", "b1"),
    ]
)
"""A parameter that is moved: its place, how its ways (rows of route and lane) are mixed, and its range; free:
the sound amount does not count, as for itself.
"""
SUM, LARGEST, SMALLEST, PRODUCT, MEAN = range(5)
NUMBER, CHOICE, TOGGLE = range(3)

load()
# All of them are there before any has its place, whoever imports this first.
KIND = {name: number for number, name in enumerate(Shaper.kinds)}


class _Step(types.WrapperAddressProtocol):
    """A compiled step by its address. As such all steps are of one type: appended as they are, each is of its
    own, for which numba compiles the list's append anew, a quarter of a second each in every process that
    starts.
    """

    def __init__(self, step: Any) -> None:
        step.compile(SIGNATURE)
        self.compiled: Any = step.get_compile_result(SIGNATURE)

    def __wrapper_address__(self) -> int:
        address: int = self.compiled.library.get_pointer_to_function(
            self.compiled.fndesc.llvm_cfunc_wrapper_name
        )
        return address

    def signature(self) -> Signature:
        found: Signature = SIGNATURE
        return found


@lru_cache
def steps() -> List:
    """The compiled step of each kind, in the order of KIND. A typed list: a tuple would be taken apart at
    every call.
    """
    found = List.empty_list(types.FunctionType(SIGNATURE))
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", NumbaExperimentalFeatureWarning)
        for kind in Shaper.kinds.values():
            found.append(_Step(kind.step))
    return found


LIMIT = 1e6
"""What is larger is no use to any parameter."""
CLAMP_S = 4.0
MOST_LANES = 4096
"""Parameters that one route can move, those of groups' lamps counted each."""


@njit(cache=True)
def _through(
    steps: Any,
    shapers: Array,
    first: int,
    last: int,
    value: float,
    hits: int,
    p: Array,
    s: Array,
    now: Array,
    values: Array,
    fallen: Array,
    stages: Array,
    shown: bool,
) -> tuple[float, int]:
    """One value and its hits through some shapers."""
    for k in range(first, last):
        shaper = shapers[k]
        value, hits = steps[shaper.kind](
            value, hits, p[shaper.p : shaper.p_end], s[shaper.s : shaper.s_end], now, values, fallen
        )
        if shown:
            stages[shaper.stage] = value
    return value, hits


@njit(cache=True)
def _give_out(route: Any, lane: Any, value: float, now: Array) -> None:
    """A value on the scale of what a lane leads to, or a colour; one that is no use is nought, and told."""
    if not -LIMIT < value < LIMIT:
        value, route.large = 0.0, True
    for i in range(lane.size):
        lane.out[i] = picked(now, value, i) if lane.picks else lane.low[i] + value * lane.way[i]


@njit(cache=True)
def _take_turns(
    steps: Any,
    route: Any,
    lanes: Array,
    shapers: Array,
    shares: Array,
    value: float,
    hits: int,
    p: Array,
    s: Array,
    now: Array,
    values: Array,
    fallen: Array,
    stages: Array,
) -> None:
    """Several targets, one after the other: each hit goes to the next, what comes between to the last."""
    count = route.lane_end - route.lane
    shaper = shapers[route.cycle]
    own, memory = p[shaper.p : shaper.p_end], s[shaper.s : shaper.s_end]
    value, hits = steps[shaper.kind](value, hits, own, memory, now, values, fallen)
    stages[shaper.stage] = value
    shares[:count] = 0
    for _ in range(hits):
        shares[next_turn(own, memory, count)] += 1
    turn = max(0, int(memory[1]))
    for k in range(count):
        lane = lanes[route.lane + k]
        now_here = k == turn
        mine = value if shares[k] > 0 or (hits == 0 and now_here) else 0.0
        out, _ = _through(
            steps,
            shapers,
            lane.first,
            lane.last,
            mine,
            shares[k],
            p,
            s,
            now,
            values,
            fallen,
            stages,
            k == turn,
        )
        _give_out(route, lane, out, now)


@njit(cache=True)
def _all_at_once(
    steps: Any,
    route: Any,
    lanes: Array,
    shapers: Array,
    value: float,
    hits: int,
    p: Array,
    s: Array,
    now: Array,
    values: Array,
    fallen: Array,
    stages: Array,
) -> None:
    """Several targets, each through shapers of its own where the way was parted."""
    for k in range(route.lane, route.lane_end):
        lane, own = lanes[k], value
        if lane.first < lane.last:
            own, _ = _through(
                steps,
                shapers,
                lane.first,
                lane.last,
                value,
                hits,
                p,
                s,
                now,
                values,
                fallen,
                stages,
                k == route.lane,
            )
        _give_out(route, lane, own, now)


@njit(cache=True)
def run(
    steps: Any,
    which: Array,
    routes: Array,
    lanes: Array,
    shapers: Array,
    p: Array,
    s: Array,
    now: Array,
    values: Array,
    fallen: Array,
    stages: Array,
    fade: float,
    bar: bool,
) -> None:
    """One tick of the routes that are named; everything in place.

    fade: what is left of a remembered peak; bar: whether a bar ends with this tick.
    """
    shares = np.zeros(MOST_LANES, dtype=np.int64)
    for r in which:
        route = routes[r]
        value, hits = values[route.signal], fallen[route.signal]
        stages[route.stage] = value
        route.peak = max(value, route.peak * fade)
        value, hits = _through(
            steps, shapers, route.first, route.last, value, hits, p, s, now, values, fallen, stages, True
        )
        count = route.lane_end - route.lane
        if route.cycle < 0:
            _all_at_once(steps, route, lanes, shapers, value, hits, p, s, now, values, fallen, stages)
        elif count > 0:
            _take_turns(steps, route, lanes, shapers, shares, value, hits, p, s, now, values, fallen, stages)
        if count > 0:
            lane = lanes[route.lane]
            out, way = lane.out[0], abs(lane.way[0])
            stages[route.out_stage] = out
            route.low, route.high = min(route.low, out), max(route.high, out)
            if bar:
                route.moved = (route.high - route.low) / way if way > 0.0 else 0.0
                route.low = route.high = out


@njit(cache=True)
def mix(
    targets: Array,
    ways: Array,
    routes: Array,
    lanes: Array,
    hand: Array,
    live: Array,
    sound_amount: float,
    dt: float,
) -> None:
    """What the routes make of these parameters, into live (floats,); hand (floats,) is where they rest.

    Each route pulls from the hand value toward its own by its amount; several are mixed, and the result is
    kept within the parameter's range. A mix of the share that is wanted of nothing leaves the hand value.
    """
    for t in range(targets.shape[0]):
        target = targets[t]
        for i in range(target.size):
            at = target.index + i
            rest, count, mixed, share = hand[at], 0, 0.0, 1.0
            for w in range(target.way, target.way_end):
                route, lane = routes[ways[w, 0]], lanes[ways[w, 1]]
                if not route.acts:
                    continue
                wanted = route.amount * (lane.out[i] - rest)
                if target.how == LARGEST:
                    mixed = wanted if count == 0 else max(mixed, wanted)
                elif target.how == SMALLEST:
                    mixed = wanted if count == 0 else min(mixed, wanted)
                else:
                    mixed += wanted
                    if target.high > target.low:
                        share *= (rest + wanted - target.low) / (target.high - target.low)
                count += 1
            if count == 0:
                continue
            if target.how == MEAN:
                mixed /= count
            elif target.how == PRODUCT:
                mixed = target.low + share * (target.high - target.low) - rest
            value = rest + (1.0 if target.free else sound_amount) * mixed
            over = value < target.low - 1e-9 or value > target.high + 1e-9
            value = min(target.high, max(target.low, value))
            if target.form == CHOICE:
                value = float(round(value))
            elif target.form == TOGGLE:
                value = 1.0 if value >= 0.5 else 0.0
            live[at] = value
            for w in range(target.way, target.way_end):
                route = routes[ways[w, 0]]
                route.clamped += dt / CLAMP_S * ((1.0 if over else 0.0) - route.clamped)

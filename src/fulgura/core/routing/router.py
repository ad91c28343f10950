"""The router: hand values, signals and routes in, live values out."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from functools import partial
from typing import Any

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.modulator import Modulator, State
from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.tick import TickContext
from fulgura.core.routing import run as running
from fulgura.core.routing.compile import Runner, compile_route, seed_of
from fulgura.core.routing.indices import ParameterIndex, as_floats, bounds, hand_values, indices
from fulgura.core.routing.overrides import Overrides
from fulgura.core.routing.run import LANE, ROUTE, SHAPER, TARGET
from fulgura.core.show.document import Show
from fulgura.core.show.part import Part, same
from fulgura.core.show.routes import MIXES
from fulgura.core.show.signals import SignalInfo, signals


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


@dataclass
class Group:
    """What is run in one go: routes, and the parameters that they move; then the modulator whose parameters
    those are, if any.
    """

    modulator: ModulatorRunner | None
    runners: list[Runner]
    which: Array = field(default_factory=lambda: np.zeros(0, dtype=np.int64))
    targets: Array = field(default_factory=lambda: np.zeros(0, dtype=TARGET))
    ways: Array = field(default_factory=lambda: np.zeros((0, 2), dtype=np.int64))


PEAK_FADE_S = 4.0
NO_BAR_S = 2.0
"""Without a beat, "the last bar" is so long."""
_MIXES = tuple(MIXES)
_FORMS = {"choice": running.CHOICE, "toggle": running.TOGGLE}


class Router:
    """All routes and modulators of a show. ``configure`` takes a show over, ``tick`` gives the live
    values.
    """

    def __init__(self) -> None:
        self.signals: list[SignalInfo] = []
        self.order: dict[str, int] = {}
        """Place of each signal, by its id and by its word."""
        self.indices: list[ParameterIndex] = []
        self.by_target: dict[str, ParameterIndex] = {}
        self.index_of: dict[str, int] = {}
        """Parameter address -> index of its first float in the live block."""
        self.hand = self.live = np.zeros(0)
        self._parts: list[Part] = []
        self._shape: list[tuple[str, list[Parameter]]] = []
        self._indices_of: dict[str, list[ParameterIndex]] = {}
        self.runners: list[Runner] = []
        self.modulators: list[ModulatorRunner] = []
        self.overrides = Overrides()
        self.sound_amount = 1.0
        self.compiled = 0
        """How many routes have been compiled so far: an edit of one compiles one."""
        self.stages = np.zeros(0)
        """For each route in turn: what came in, what came out of each shaper, and what it gives out in the
        parameter's unit.
        """
        self._routes, self._lanes, self._shapers, self._p, self._s = (
            np.zeros(0, ROUTE),
            np.zeros(0, LANE),
            np.zeros(0, SHAPER),
            np.zeros(0),
            np.zeros(0),
        )
        self._steps = running.steps()
        self._order_of: dict[str, int] = {}
        self._first_stage: list[int] = []
        self._groups: list[Group] = []
        self._show: Show | None = None
        self._since_bar = 0.0

    # -- taking a show over ---------------------------------------------------------------------------------

    def configure(self, show: Show, glide_s: float = 0.0) -> None:
        """Take over a show; what did not change keeps running as it is.

        glide_s: how long live values take to get to where they now belong.
        """
        before = self._show
        old_targets = self.by_target
        parts_changed = (
            before is None
            or not all(
                same(getattr(before, name), getattr(show, name)) for name in ("looks", "lamps", "modulators")
            )
            or before.crossfade is not show.crossfade
        )
        if parts_changed:
            self._take_parts(show)
        found = signals(show)
        moved = self.by_target is not old_targets
        if [(one.id, one.word) for one in found] != [(one.id, one.word) for one in self.signals]:
            self.order, moved = (
                {word: i for i, signal in enumerate(found) for word in (signal.word, signal.id)},
                True,
            )
        self.signals = found
        if moved or before is None or not same(before.modulators, show.modulators):
            self._take_modulators(show)
        self._take_routes(show, moved)
        self.sound_amount = show.sound_amount
        if glide_s > 0.0:
            self.overrides.glide_all(self.by_target, self.live, glide_s)
        self._show = show

    def _take_parts(self, show: Show) -> None:
        """Slots and hand values. As long as the parts and their parameters are the same, the slots are the
        very same objects, and only the hand values of parts that were edited are read anew.
        """
        parts = show.parts()
        shape = [(part.id, part.parameters()) for part in parts]
        if len(shape) == len(self._shape) and all(
            a[0] == b[0] and a[1] is b[1] for a, b in zip(shape, self._shape)
        ):
            self.hand = self.hand.copy()
            for part, was in zip(parts, self._parts):
                if part is not was:
                    for entry in self._indices_of[part.id]:
                        self.hand[entry.index : entry.index + entry.parameter.size] = as_floats(
                            entry.parameter, part.values[entry.parameter.name]
                        )
        else:
            old = self.by_target
            self.indices = indices(show)
            self.by_target = {entry.target: entry for entry in self.indices}
            self.index_of = {entry.target: entry.index for entry in self.indices}
            self._indices_of = {part.id: [] for part in parts}
            for entry in self.indices:
                self._indices_of[entry.part].append(entry)
            self.hand = hand_values(show, self.indices)
            live = self.hand.copy()
            for target, entry in self.by_target.items():
                if target in old and len(self.live):
                    live[entry.index : entry.index + entry.parameter.size] = self.live[
                        old[target].index : old[target].index + entry.parameter.size
                    ]
            self.live = live
            self.overrides.forget(self.by_target)
        self._parts, self._shape = parts, shape

    def _take_modulators(self, show: Show) -> None:
        old = {runner.part.id: runner for runner in self.modulators}
        self.modulators = []
        for modulator in show.modulators:
            part, was = modulator.part, old.get(modulator.part.id)
            kind = part.model()
            state = (
                was.state
                if was is not None and was.part.kind == part.kind
                else kind.start(seed_of(show.seed, part.id))
            )
            own = [entry for entry in self.indices if entry.part == part.id]
            self.modulators.append(
                ModulatorRunner(
                    part, kind, state, self.order[f"modulator-{modulator.id}"], own, kind.fault(self.order)
                )
            )

    def _take_routes(self, show: Show, moved: bool) -> None:
        """Compile what changed, and put everything in its place; when each fits where it was, only what
        changed is written.
        """
        old = {runner.route.id: runner for runner in self.runners}
        changed = [
            place
            for place, route in enumerate(show.routes)
            if moved or (kept := old.get(route.id)) is None or kept.route is not route
        ]
        fresh: dict[int, Runner] = {}
        for place in changed:
            route = show.routes[place]
            if (was := old.get(route.id)) is not None:
                self._recall(was)
            fresh[place] = compile_route(route, self.order, self.by_target, show.seed, was)
        self.compiled += len(fresh)
        fits = (
            not moved
            and len(show.routes) == len(self.runners)
            and all(
                self.runners[place].route.id == runner.route.id and self.runners[place].fits(runner)
                for place, runner in fresh.items()
            )
        )
        if fits:
            for place, runner in fresh.items():
                runner.at, runner.ring = self.runners[place].at, self.runners[place].ring
                self.runners[place] = runner
                self._write(place, runner)
        else:
            for runner in self.runners:
                self._recall(runner)
            self.runners = [
                fresh[place] if place in fresh else old[route.id] for place, route in enumerate(show.routes)
            ]
            self._assemble()
        if (
            not fits
            or self._show is None
            or not same(self._show.modulators, show.modulators)
            or self._show.mixes != show.mixes
        ):
            self._plan(show)
        if changed or not fits:
            solo = any(route.solo for route in show.routes)
            self._routes["acts"] = [
                not runner.ring and not runner.route.muted and (runner.route.solo or not solo)
                for runner in self.runners
            ]

    def _recall(self, runner: Runner) -> None:
        """Take a route's numbers back from where they stand among all."""
        _, lane, _, s = runner.at
        runner.s, runner.row = self._s[s : s + len(runner.s)].copy(), self._routes[self._place(runner)].copy()
        runner.lanes["out"] = self._lanes[lane : lane + len(runner.lanes)]["out"]

    def _place(self, runner: Runner) -> int:
        return self._order_of[runner.route.id]

    def _assemble(self) -> None:
        """Room for all routes, one behind the other."""
        shaper = lane = p = s = 0
        stage = 0
        self._order_of = {runner.route.id: i for i, runner in enumerate(self.runners)}
        for runner in self.runners:
            runner.at = (shaper, lane, p, s)
            shaper, lane, p, s = (
                shaper + len(runner.shapers),
                lane + len(runner.lanes),
                p + len(runner.p),
                s + len(runner.s),
            )
        self._routes, self._lanes, self._shapers = (
            np.zeros(len(self.runners), ROUTE),
            np.zeros(lane, LANE),
            np.zeros(shaper, SHAPER),
        )
        self._p, self._s = np.zeros(p), np.zeros(s)
        self._first_stage = []
        for runner in self.runners:
            self._first_stage.append(stage)
            stage += len(runner.route.shapers) + 2
        self.stages = np.zeros(stage)
        for place, runner in enumerate(self.runners):
            self._write(place, runner)

    def _write(self, place: int, runner: Runner) -> None:
        """Put one route's numbers where they belong."""
        shaper, lane, p, s = runner.at
        stage = self._first_stage[place]
        rows = runner.shapers.copy()
        for name, offset in (("p", p), ("p_end", p), ("s", s), ("s_end", s), ("stage", stage)):
            rows[name] += offset
        self._shapers[shaper : shaper + len(rows)] = rows
        lanes = runner.lanes.copy()
        lanes["first"] += shaper
        lanes["last"] += shaper
        self._lanes[lane : lane + len(lanes)] = lanes
        self._p[p : p + len(runner.p)] = runner.p
        self._s[s : s + len(runner.s)] = runner.s
        row = runner.row.copy()
        row["first"], row["last"], row["lane"], row["lane_end"], row["large"] = (
            shaper,
            shaper + runner.shared,
            lane,
            lane + len(lanes),
            False,
        )
        row["cycle"] = shaper + runner.shared if runner.cycles else -1
        row["stage"], row["out_stage"], row["amount"] = (
            stage,
            stage + len(runner.route.shapers) + 1,
            runner.route.amount,
        )
        self._routes[place] = row

    # -- order ----------------------------------------------------------------------------------------------

    def _plan(self, show: Show) -> None:
        """Put routes and modulators in an order in which each comes after what it hears; what goes round in a
        ring is named and left out.
        """
        modulators = {runner.signal: runner for runner in self.modulators}
        owner = {entry.target: runner.signal for runner in self.modulators for entry in runner.indices}
        feeding: dict[int, list[Runner]] = {signal: [] for signal in modulators}
        rest: list[Runner] = []
        for runner in self.runners:
            runner.ring = None
            fed = {owner[entry.target] for entry in runner.targets if entry.target in owner}
            for signal in fed:
                feeding[signal].append(runner)
            if not fed or len(fed) < len({entry.part for entry in runner.targets}):
                rest.append(runner)
        for modulator in self.modulators:
            modulator.fault = modulator.kind.fault(self.order)
        groups: list[Group] = []
        done: set[int] = set()
        path: list[int] = []

        def follow(heard: int, complain: Callable[[Fault], None]) -> None:
            if heard in path:
                names = (self.signals[one].name for one in (*path[path.index(heard) :], heard))
                complain(Fault.of(FaultCode.RING, names=" → ".join(names)))
            else:
                visit(heard)

        def visit(signal: int) -> None:
            if signal in done or signal not in modulators:
                return
            modulator = modulators[signal]
            path.append(signal)
            for name in modulator.kind.refers_to():
                follow(self.order.get(name, -1), partial(setattr, modulator, "fault"))
            for runner in feeding[signal]:
                for heard in sorted({int(runner.row["signal"]), *runner.refers}):
                    follow(heard, partial(setattr, runner, "ring"))
            path.pop()
            done.add(signal)
            modulator.routed = bool(feeding[signal])
            groups.append(Group(modulator, feeding[signal]))

        for modulator in self.modulators:
            visit(modulator.signal)
        # A route to several modulators is run with the first of them that needs it; one to modulators and
        # others likewise.
        told: set[str] = set()
        for group in (*groups, Group(None, rest)):
            mine = [runner for runner in group.runners if runner.route.id not in told]
            told |= {runner.route.id for runner in mine}
            group.which = np.array(
                [self._place(runner) for runner in mine if runner.row["signal"] >= 0 and not runner.ring],
                dtype=np.int64,
            )
            wanted = (
                (lambda target, modulator=group.modulator: owner.get(target) == modulator.signal)
                if group.modulator is not None
                else (lambda target: target not in owner)
            )
            group.targets, group.ways = self._ways(show, group.runners, wanted)
            if group.modulator is None:
                groups.append(group)
                break
        self._groups = groups

    def _ways(
        self, show: Show, runners: Iterable[Runner], wanted: Callable[[str], bool]
    ) -> tuple[Array, Array]:
        """Rows of the parameters that these routes move, and the ways that lead to each."""
        found: dict[str, list[tuple[int, int]]] = {}
        for runner in runners:
            if runner.row["signal"] >= 0 and not runner.ring:
                for number, entry in enumerate(runner.targets):
                    if wanted(entry.target):
                        found.setdefault(entry.target, []).append(
                            (self._place(runner), runner.at[1] + number)
                        )
        rows: list[tuple[Any, ...]] = []
        ways: list[tuple[int, int]] = []
        for target, own in found.items():
            entry = self.by_target[target]
            how = _MIXES.index(show.mixes.get(target, "sum"))
            rows.append(
                (
                    entry.index,
                    entry.parameter.size,
                    how,
                    _FORMS.get(entry.parameter.type, running.NUMBER),
                    *bounds(entry.parameter),
                    len(ways),
                    len(ways) + len(own),
                )
            )
            ways += own
        return np.array(rows, dtype=TARGET), np.array(ways, dtype=np.int64).reshape(-1, 2)

    # -- the tick -------------------------------------------------------------------------------------------

    def tick(self, values: Array, hits: Array, now: TickContext) -> Array:
        """One tick: values (signals,) float and counts of hits (signals,) int of what is heard, to live
        values, shape (floats,).

        Values and hits of modulators are filled in, in place. Each route pulls its parameter from the hand
        value toward its own; several on one parameter are mixed as the show says, and the result is kept
        within its range.
        """
        now.values, now.hits, now.order = values, hits, self.order
        numbers, live = now.numbers(), self.hand.copy()
        self._since_bar += now.dt
        bar = bool(now.bars) or self._since_bar >= max(NO_BAR_S, 8.0 * now.beat_s)
        if bar:
            self._since_bar = 0.0
        fade = max(0.0, 1.0 - now.dt / PEAK_FADE_S)
        for group in self._groups:
            if len(group.which):
                running.run(
                    self._steps,
                    group.which,
                    self._routes,
                    self._lanes,
                    self._shapers,
                    self._p,
                    self._s,
                    numbers,
                    values,
                    hits,
                    self.stages,
                    fade,
                    bar,
                )
            if len(group.targets):
                running.mix(
                    group.targets,
                    group.ways,
                    self._routes,
                    self._lanes,
                    self.hand,
                    live,
                    self.sound_amount,
                    now.dt,
                )
            if group.modulator is not None:
                values[group.modulator.signal], hits[group.modulator.signal] = self._make(
                    group.modulator, live, now
                )
        self.overrides.act(live, self.by_target, now.dt)
        self.live = live
        return live

    @staticmethod
    def _make(modulator: ModulatorRunner, live: Array, now: TickContext) -> tuple[float, int]:
        modulator.passing = None
        if modulator.fault:
            return 0.0, 0
        kind = modulator.kind
        if modulator.routed:
            kind = kind.model_copy(
                update={
                    entry.parameter.name: float(live[entry.index])
                    for entry in modulator.indices
                    if entry.parameter.type == "number"
                }
            )
        try:
            value, fell = kind.step(modulator.state, now)
        except ZeroDivisionError:
            modulator.passing = Fault.of(FaultCode.DIVIDES_BY_ZERO)
            return 0.0, 0
        except (OverflowError, ValueError):
            modulator.passing = Fault.of(FaultCode.ENDLESS)
            return 0.0, 0
        return value, fell

    def telemetry(self) -> Array:
        """For each route in turn: recent peak of what came in, how far it moved in the last bar (share of its
        way), and for which share of the time its target was clamped; shape (routes, 3).
        """
        return (
            np.stack([self._routes["peak"], self._routes["moved"], self._routes["clamped"]], axis=1)
            if len(self._routes)
            else np.zeros((0, 3))
        )

    def faults(self) -> dict[str, Fault]:
        """Route id -> what is wrong with it, of those with which something is."""
        too_large = Fault.of(FaultCode.TOO_LARGE)
        large = {self.runners[place].route.id: too_large for place in np.flatnonzero(self._routes["large"])}
        return large | {
            runner.route.id: fault for runner in self.runners if (fault := runner.fault or runner.ring)
        }

    def modulator_faults(self) -> dict[str, Fault]:
        """The same of modulators, by the id of their part."""
        return {
            modulator.part.id: fault
            for modulator in self.modulators
            if (fault := modulator.fault or modulator.passing)
        }

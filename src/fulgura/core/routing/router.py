"""The router: hand values, signals and routes in, live values out."""

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.tick import TickContext
from fulgura.core.routing import run as running
from fulgura.core.routing.compile import Runner, compile_route, seed_of
from fulgura.core.routing.groups import GroupTargets
from fulgura.core.routing.hands import Hands
from fulgura.core.routing.indices import ParameterIndex
from fulgura.core.routing.made import ModulatorRunner
from fulgura.core.routing.order import Orderer, RunGroup
from fulgura.core.routing.overrides import Overrides
from fulgura.core.routing.painted import Painted
from fulgura.core.routing.room import Room
from fulgura.core.show.document import Show
from fulgura.core.show.part import same
from fulgura.core.show.settings import MARK, moved_settings
from fulgura.core.show.signals import SignalInfo, signals

PEAK_FADE_S = 4.0
NO_BAR_S = 2.0
"""Without a beat, "the last bar" is so long."""


class Router:
    """All routes and modulators of a show. ``configure`` takes a show over, ``tick`` gives the live
    values.
    """

    def __init__(self) -> None:
        self.signals: list[SignalInfo] = []
        self.painted = Painted()
        self.order: dict[str, int] = {}
        """Place of each signal, by its id and by its word."""
        self.live = np.zeros(0)
        self.runners: list[Runner] = []
        self.modulators: list[ModulatorRunner] = []
        self.overrides = Overrides()
        self.sound_amount = 1.0
        self.compiled = 0
        """How many routes have been compiled so far: an edit of one compiles one."""
        self._hands = Hands()
        self._room = Room()
        self._steps = running.steps()
        self._groups: list[RunGroup] = []
        self._show: Show | None = None
        self._since_bar = 0.0
        self.group_targets = GroupTargets()
        """What routes to groups move; the same object as long as it is the same."""

    @property
    def hand(self) -> Array:
        """The hand values, shape (floats,)."""
        return self._hands.values

    @property
    def indices(self) -> list[ParameterIndex]:
        """Where each parameter stands in the live block."""
        return self._hands.entries

    @property
    def by_target(self) -> dict[str, ParameterIndex]:
        """The same by the parameter's address."""
        return self._hands.by_target

    @property
    def index_of(self) -> dict[str, int]:
        """Parameter address -> index of its first float in the live block."""
        return self._hands.index_of

    def addresses(self, target: str) -> list[str]:
        """Of a parameter its own address, of one of a group's those of its lamps; none for what is gone."""
        return [target] if target in self.by_target else self.group_targets(target)

    def group_indices(self) -> list[ParameterIndex]:
        """Parameters of groups: each stands where that of its first lamp does."""
        return self.group_targets.entries(self.by_target)

    @property
    def stages(self) -> Array:
        """For each route in turn: what came in, what came out of each shaper, and what it gives out in the
        parameter's unit; shape (floats,).
        """
        return self._room.stages

    # -- taking a show over ---------------------------------------------------------------------------------

    def configure(self, show: Show, glide_s: float = 0.0, over: Mapping[str, float] | None = None) -> None:
        """Take over a show; what did not change keeps running as it is.

        glide_s: how long live values take to get to where they now belong; over: those that take another
        time, by their address.
        """
        before = self._show
        moved, repainted = False, self.painted.take(show, glide_s)
        if before is None or repainted or _parts_changed(before, show):
            old = self._hands.by_target
            moved = self._hands.take(show)
            if moved:
                self.live = self._hands.carried(self.live, old)
                self.overrides.forget(self.by_target)
        # Only other members make other targets: a master that is dragged costs nothing here.
        if before is None or moved or _members(before) != _members(show):
            self.group_targets = GroupTargets(show, self.by_target)
            moved = True
        found = signals(show)
        if [(signal.id, signal.word) for signal in found] != [
            (signal.id, signal.word) for signal in self.signals
        ]:
            self.order = {word: i for i, signal in enumerate(found) for word in (signal.word, signal.id)}
            moved = True
        self.signals = found
        if moved or before is None or not same(before.modulators, show.modulators):
            self._take_modulators(show)
        self._take_routes(show, moved, repainted)
        self.sound_amount = show.sound_amount
        if glide_s > 0.0:
            self.overrides.glide_all(self.by_target, self.live, glide_s)
        for target, seconds in (over or {}).items():
            if target in self.by_target:
                self.overrides.glide(target, self.by_target[target], self.live, seconds)
        self._show = show

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
            signal = self.order[f"modulator-{modulator.id}"]
            self.modulators.append(ModulatorRunner(part, kind, state, signal, own, kind.fault(self.order)))

    def _take_routes(self, show: Show, moved: bool, repainted: bool) -> None:
        """Compile what changed, and put everything in its place; when each fits where it was, only what
        changed is written.
        """
        old = {runner.route.id: runner for runner in self.runners}
        fresh = self._compile_changed(show, old, moved, repainted)
        fits = (
            not moved
            and len(show.routes) == len(self.runners)
            and all(
                self.runners[index].route.id == runner.route.id and self.runners[index].fits(runner)
                for index, runner in fresh.items()
            )
        )
        if fits:
            for index, runner in fresh.items():
                runner.at, runner.ring = self.runners[index].at, self.runners[index].ring
                self.runners[index] = runner
                self._room.write(index, runner)
        else:
            for runner in self.runners:
                self._room.recall(runner)
            self.runners = [
                fresh[index] if index in fresh else old[route.id] for index, route in enumerate(show.routes)
            ]
            self._room.assemble(self.runners)
        before = self._show
        if (
            not fits
            or before is None
            or not same(before.modulators, show.modulators)
            or before.mixes != show.mixes
        ):
            ordering = Orderer(
                self.runners, self.modulators, self.signals, self.order, self.by_target, self._room.index_of
            )
            self._groups = ordering.run(show.mixes)
        if fresh or not fits:
            self._room.act(self.runners, any(route.solo for route in show.routes))

    def _compile_changed(
        self, show: Show, old: dict[str, Runner], moved: bool, repainted: bool
    ) -> dict[int, Runner]:
        """Routes that are others than before, compiled, by their place."""
        fresh: dict[int, Runner] = {}
        for index, route in enumerate(show.routes):
            was = old.get(route.id)
            points = repainted and "@" in f"{route.low}{route.high}"
            if was is not None and was.route is route and not moved and not points:
                continue
            if was is not None:
                self._room.recall(was)
            fresh[index] = compile_route(
                route, self.order, self.by_target, self.group_targets, show.seed, was, self.painted.palette
            )
            if was is None and fresh[index].cycles:
                others = [fresh[i] for i in fresh if i != index and fresh[i].cycles]
                _join_turns(fresh[index], [*self._recalled(old.values()), *others])
        self.compiled += len(fresh)
        return fresh

    def _recalled(self, runners: Iterable[Runner]) -> list[Runner]:
        """Those whose targets take turns, with what they remember now."""
        found = [runner for runner in runners if runner.cycles]
        for runner in found:
            self._room.recall(runner)
        return found

    # -- the tick -------------------------------------------------------------------------------------------

    def heard(self, closed: Mapping[str, Any]) -> tuple[Array, Array]:
        """(values, hits) of all signals; those of modulators are still to be made. closed: of each input, the
        values and counts that it heard in this tick.
        """
        heard = [signal for signal in self.signals if signal.input]
        values, hits = np.zeros(len(self.signals)), np.zeros(len(self.signals), dtype=int)
        values[: len(heard)] = [closed[signal.input].values[signal.heard] for signal in heard]
        hits[: len(heard)] = [closed[signal.input].counts.get(signal.heard, 0) for signal in heard]
        return values, hits

    def tick(self, values: Array, hits: Array, now: TickContext) -> Array:
        """One tick: values (signals,) float and counts of hits (signals,) int of what is heard, to live
        values, shape (floats,).

        Values and hits of modulators are filled in, in place. Each route pulls its parameter from the hand
        value toward its own; several on one parameter are mixed as the show says, and the result is kept
        within its range.
        """
        now.values, now.hits, now.order = values, hits, self.order
        now.palette = self.painted.step(now.dt)
        numbers, live, room = now.numbers(), self.hand.copy(), self._room
        bar = self._bar_ends(now)
        fade = max(0.0, 1.0 - now.dt / PEAK_FADE_S)
        for group in self._groups:
            if len(group.which):
                rows = (room.routes, room.lanes, room.shapers, room.p, room.s)
                running.run(self._steps, group.which, *rows, numbers, values, hits, room.stages, fade, bar)
            if len(group.targets):
                ways = (group.targets, group.ways, room.routes, room.lanes)
                running.mix(*ways, self.hand, live, self.sound_amount, now.dt)
            if group.modulator is not None:
                at = group.modulator.signal
                values[at], hits[at] = group.modulator.step(live, now)
        self.overrides.act(live, self.by_target, now.dt)
        self.live = live
        return live

    def tune(self, id: str, name: str, value: float) -> None:
        """Give a route's amount (“route@r1”) or a number of one of its shapers (“step@r1@smooth”) a live
        value: it acts from the next tick on. What is gone is passed over.
        """
        _, route, *shaper = id.split(MARK)
        at = self._room.place_of(route)
        if at is None:
            return
        if not shaper:
            self._room.routes["amount"][at] = value
            return
        runner = self.runners[at]
        part = next((part for part in runner.route.shapers if part.id == shaper[0]), None)
        if part is None:
            return
        numbers = [parameter.name for parameter in part.parameters() if parameter.type != "points"]
        for (own, _), row in zip(runner.names, runner.shapers):
            if own == f"{part.kind} {part.id}":
                self._room.p[runner.at[2] + row["p"] + numbers.index(name)] = value

    def _bar_ends(self, now: TickContext) -> bool:
        self._since_bar += now.dt
        ends = bool(now.bars) or self._since_bar >= max(NO_BAR_S, 8.0 * now.beat_s)
        if ends:
            self._since_bar = 0.0
        return ends

    def telemetry(self) -> Array:
        """For each route in turn: recent peak of what came in, how far it moved in the last bar (share of its
        way), and for which share of the time its target was clamped; shape (routes, 3).
        """
        rows = self._room.routes
        return np.stack([rows["peak"], rows["moved"], rows["clamped"]], axis=1)

    def faults(self) -> dict[str, Fault]:
        """Route id -> what is wrong with it, of those with which something is."""
        too_large = Fault.of(FaultCode.TOO_LARGE)
        large = np.flatnonzero(self._room.routes["large"])
        return {self.runners[index].route.id: too_large for index in large} | {
            runner.route.id: fault for runner in self.runners if (fault := runner.fault or runner.ring)
        }

    def modulator_faults(self) -> dict[str, Fault]:
        """The same of modulators, by the id of their part."""
        return {
            modulator.part.id: fault
            for modulator in self.modulators
            if (fault := modulator.fault or modulator.passing)
        }


def _parts_changed(before: Show, show: Show) -> bool:
    lists = ("looks", "lamps", "modulators", "groups", "chases", "ramps", "inputs", "bands", "hits")
    single = (
        before.crossfade is not show.crossfade
        or before.lights is not show.lights
        or before.sound_amount != show.sound_amount
        or (not same(before.routes, show.routes) and _moved_steps(before) != _moved_steps(show))
    )
    return single or not all(same(getattr(before, name), getattr(show, name)) for name in lists)


def _join_turns(runner: Runner, others: Sequence[Runner]) -> None:
    """Have a new route's targets take turns in step with another's that hears the same and takes turns alike:
    the width of a ring then goes with its radius.
    """
    for other in others:
        if (
            other.route.signal == runner.route.signal
            and len(other.targets) == len(runner.targets)
            and (other.turns_by == runner.turns_by).all()
        ):
            runner.turns[:] = other.turns
            return


def _moved_steps(show: Show) -> list[dict[str, Any]]:
    """What of routes is moved itself, with its values."""
    return [setting.values for setting in moved_settings(show) if setting.kind in ("route", "step")]


def _members(show: Show) -> list[tuple[str, list[str]]]:
    return [(group.id, group.members) for group in show.groups]

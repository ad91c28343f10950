"""Where the numbers of all routes stand, one route behind the other: what a tick runs over in one go."""

from collections.abc import Iterable

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.routing.compile import Runner
from fulgura.core.routing.run import LANE, ROUTE, SHAPER


class Room:
    """The numbers of compiled routes in shared arrays.

    routes, lanes, shapers: rows of ROUTE, LANE and SHAPER; p, s: shape (floats,), parameters and memory of
    the shapers; stages: shape (floats,), for each route in turn what came in, what came out of each shaper,
    and what it gives out in the parameter's unit.
    """

    def __init__(self) -> None:
        self.routes: Array = np.zeros(0, ROUTE)
        self.lanes: Array = np.zeros(0, LANE)
        self.shapers: Array = np.zeros(0, SHAPER)
        self.p: Array = np.zeros(0)
        self.s: Array = np.zeros(0)
        self.stages: Array = np.zeros(0)
        self._place_of: dict[str, int] = {}
        self._first_stage: list[int] = []

    def index_of(self, runner: Runner) -> int:
        """A route's place among all."""
        return self._place_of[runner.route.id]

    def place_of(self, route: str) -> int | None:
        """A route's place among all, by its id; None for what is gone."""
        return self._place_of.get(route)

    def recall(self, runner: Runner) -> None:
        """Take a route's numbers back from where they stand among all."""
        _, lane, _, s = runner.at
        runner.s, runner.row = self.s[s : s + len(runner.s)].copy(), self.routes[self.index_of(runner)].copy()
        runner.lanes["out"] = self.lanes[lane : lane + len(runner.lanes)]["out"]

    def assemble(self, runners: list[Runner]) -> None:
        """Room for all routes, one behind the other."""
        shaper = lane = p = s = 0
        stage = 0
        self._place_of = {runner.route.id: i for i, runner in enumerate(runners)}
        for runner in runners:
            runner.at = (shaper, lane, p, s)
            shaper, lane, p, s = (
                shaper + len(runner.shapers),
                lane + len(runner.lanes),
                p + len(runner.p),
                s + len(runner.s),
            )
        self.routes, self.lanes, self.shapers = (
            np.zeros(len(runners), ROUTE),
            np.zeros(lane, LANE),
            np.zeros(shaper, SHAPER),
        )
        self.p, self.s = np.zeros(p), np.zeros(s)
        self._first_stage = []
        for runner in runners:
            self._first_stage.append(stage)
            stage += len(runner.route.shapers) + 2
        self.stages = np.zeros(stage)
        for index, runner in enumerate(runners):
            self.write(index, runner)

    def write(self, index: int, runner: Runner) -> None:
        """Put one route's numbers where they belong."""
        shaper, lane, p, s = runner.at
        stage = self._first_stage[index]
        rows = runner.shapers.copy()
        for name, offset in (("p", p), ("p_end", p), ("s", s), ("s_end", s), ("stage", stage)):
            rows[name] += offset
        self.shapers[shaper : shaper + len(rows)] = rows
        lanes = runner.lanes.copy()
        lanes["first"] += shaper
        lanes["last"] += shaper
        self.lanes[lane : lane + len(lanes)] = lanes
        self.p[p : p + len(runner.p)] = runner.p
        self.s[s : s + len(runner.s)] = runner.s
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
        self.routes[index] = row

    def act(self, runners: Iterable[Runner], solo: bool) -> None:
        """Mark which routes act; solo: only those that are solo do."""
        self.routes["acts"] = [
            not runner.ring and not runner.route.muted and (runner.route.solo or not solo)
            for runner in runners
        ]

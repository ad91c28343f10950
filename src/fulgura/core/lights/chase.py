"""Chases while they run: how far each is on each group, and what it makes of the lamps' light."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import floor

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.kinds.colour import from_hex
from fulgura.core.kinds.lighting import DRIVES, HOWS
from fulgura.core.kinds.tick import TickContext
from fulgura.core.lights.chase_shape import brightness, steps_of
from fulgura.core.show.lights import Chase, Run

TIME, BEATS, HITS, VALUE = range(len(DRIVES))
INSTEAD, HIGHEST, TIMES = range(len(HOWS))
NUMBERS = ("shape", "way", "width", "driven", "seconds", "beats", "fade_in", "fade_out", "how")


@dataclass
class Progress:
    """How far a chase is on one group. at: steps since its start, below 0 before the first; beats: of the
    clock at the last tick; since: the last hit, in seconds; between: the last two.
    """

    at: float = -1.0
    beats: float = 0.0
    since: float = 0.0
    between: float = 0.5
    begun: bool = False

    def step(self, driven: int, steps: int, across: float, hits: int, now: TickContext) -> float:
        """One tick; returns where it is, in steps. across: seconds or beats from the first lamp to
        the last.
        """
        if not self.begun:
            self.begun, self.beats, self.since = True, now.beats, 0.0
            self.at = -1.0 if driven == HITS else 0.0
            if driven != HITS:
                return self.at
        if driven == HITS:
            self.since += now.dt
            if hits:
                self.at = floor(self.at) + hits
                self.between, self.since = max(now.dt, self.since), 0.0
            # Within a step it goes on as far as the last two hits lie apart, so that lamps can fade.
            return self.at + min(0.999, self.since / self.between) if self.at >= 0.0 else -1.0
        gone = now.beats - self.beats if driven == BEATS else now.dt
        self.beats = now.beats
        self.at += gone / across * steps
        return self.at


class ChaseRunner:
    """One chase on one group.

    units: for each of its lamps the first and last cell, shape (lamps, 2); index_of: addresses to places in
    the live values.
    """

    def __init__(
        self, chase: Chase, run: Run, units: Array, index_of: Mapping[str, int], seed: int, progress: Progress
    ) -> None:
        self.id = f"{chase.id} {run.id}"
        self.units, self.seed, self.progress = units, float(seed), progress
        self.signal = str(chase.part.values["signal"])
        self._numbers = np.array([index_of[f"{chase.part.id}.{name}"] for name in NUMBERS])
        self._run = np.array(
            [index_of[f"{run.part.id}.{name}"] for name in ("running", "amount", "progress")]
        )
        self._levels = np.zeros(len(units))
        self._places = np.array([(i + 0.5) / len(units) for i in range(len(units))])
        laid = sorted(chase.colours, key=lambda laid: laid.at)
        self._colours = np.array([from_hex(laid.colour) for laid in laid]).reshape(-1, 3)
        self._borders = np.array([laid.at for laid in laid])

    def step(self, live: Array, now: TickContext, level: Array, colour: Array) -> None:
        """One tick: changes level (cells,) and colour (cells, 3) of its lamps' cells in place."""
        running, amount, progress = live[self._run]
        if running < 0.5 or not len(self.units):
            self.progress.begun = False
            return
        shape, way, width, driven, seconds, beats, fade_in, fade_out, how = live[self._numbers]
        by_value = int(driven) == VALUE
        if by_value:
            at = float(min(1.0, max(0.0, progress)))
        else:
            steps = steps_of(int(shape), int(way), len(self.units))
            across = beats if int(driven) == BEATS else seconds
            at = self.progress.step(int(driven), steps, across, now.hits_of(self.signal), now)
        brightness(int(shape), int(way), by_value, at, width, fade_in, fade_out, self.seed, self._levels)
        lay_on(
            self.units,
            self._levels,
            self._places,
            amount,
            int(how),
            self._borders,
            self._colours,
            level,
            colour,
        )


@njit(cache=True)
def lay_on(
    units: Array,
    levels: Array,
    places: Array,
    amount: float,
    how: int,
    borders: Array,
    colours: Array,
    level: Array,
    colour: Array,
) -> None:
    """A chase's brightness (lamps,) and its colours onto the cells of its lamps, in place.

    Highest: the brighter of both takes precedence. A colour goes from its border to the next one.
    """
    for u in range(units.shape[0]):
        value = levels[u]
        laid = -1
        for b in range(borders.shape[0]):
            if places[u] >= borders[b]:
                laid = b
        for cell in range(units[u, 0], units[u, 1]):
            if how == INSTEAD:
                level[cell] += (value - level[cell]) * amount
            elif how == HIGHEST:
                level[cell] = max(level[cell], value * amount)
            else:
                level[cell] *= 1.0 - amount * (1.0 - value)
            if laid >= 0:
                for c in range(3):
                    colour[cell, c] += (colours[laid, c] - colour[cell, c]) * amount

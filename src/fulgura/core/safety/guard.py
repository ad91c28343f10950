"""The guard: holds back what would flash more often than WCAG 2.2, SC 2.3.1, allows, with as little change as
does.

The picture is watched in cells. A cell remembers its last extreme of luminance, the way it went, its colour
at the last change of red, and when its last six changes were. Where too much of a field of ten degrees has
made as many changes as it may, or changes as one for the seventh time in a second, its cells keep as much of
the last picture as makes no further change of the coming one: what alternates loses contrast, and goes on.
What was held back lately changes only once the picture has stayed where it went for the sixth of a second, so
that a strobe becomes calm, and is not cut into bursts.

The executors run this as the last passes of a plan, by the shaders beside this file; ``CellGuard`` is the
same in numpy, for tests.
"""

from dataclasses import dataclass

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.safety import rules

CELLS = (256, 144)
TILES = (64, 36)
"""Pieces that are drawn with or without the last picture."""
FIELDS = (32, 18)
FIELD = (11, 6)
"""How many of FIELDS ten degrees of what is seen cover."""
SECOND = 59
"""Ticks that a change is remembered: three flashes a second may come a picture early."""
STEADY = 10
"""Ticks: half a period of three flashes a second."""
HELD = 60
"""Ticks for which what was held back is watched more closely."""
SPREAD = 3
"""Ticks within which changes of a field are one."""
MARGIN = 0.95
"""Of what counts as a change: cells are averages, and pictures are rounded."""
CONSTANTS = {
    "u_step": rules.STEP * MARGIN,
    "u_darker_below": rules.DARKER_BELOW,
    "u_red_share": rules.RED_SHARE,
    "u_red_step": rules.RED_STEP * MARGIN,
    "u_glow_step": rules.GLOW_STEP * MARGIN,
    "u_dark": rules.DARK,
    "u_most_changes": float(rules.MOST_CHANGES),
    "u_second": float(SECOND),
    "u_steady": float(STEADY),
    "u_held": float(HELD),
    "u_area": rules.AREA * 0.8,
    "u_spread": float(SPREAD),
    "u_across": float(FIELD[0]),
    "u_down": float(FIELD[1]),
}


@dataclass
class Past:
    """What is known of cells, each array of their shape; times: (..., 6), ticks that the newest six changes
    are still remembered.
    """

    extreme: Array
    rising: Array
    fresh: Array
    """Those that have not changed yet may go either way first."""
    begun: Array
    """How bright it was where the way began that it goes now."""
    counted: Array
    """Whether that way was counted as a change."""
    colour: Array
    red: Array
    glow: Array
    kindling: Array
    times: Array
    waits: Array
    calm: Array

    @classmethod
    def of(cls, light: Array) -> "Past":
        """Of cells that are seen for the first time: linear light, shape (..., 3)."""
        shape = light.shape[:-1]
        return cls(
            _rounded(rules.luminance(light), 1023),
            np.ones(shape, dtype=bool),
            np.ones(shape, dtype=bool),
            _rounded(rules.luminance(light), 1023),
            np.zeros(shape, dtype=bool),
            _rounded(rules.chromaticity(light)),
            rules.saturated_red(light),
            _rounded(rules.red_glow(light)),
            np.ones(shape, dtype=bool),
            np.zeros((*shape, rules.MOST_CHANGES), dtype=np.int64),
            np.zeros(shape),
            np.zeros(shape),
        )

    @property
    def changes(self) -> Array:
        """How many of the last second are remembered, up to six."""
        found: Array = (self.times > 0).sum(axis=-1)
        return found

    def brightness_moves(self, light: Array) -> Array:
        """Whether this light would be an opposing change of luminance."""
        now, step = rules.luminance(light), CONSTANTS["u_step"]
        falls = (self.extreme - now >= step) & (now < rules.DARKER_BELOW)
        rises = (now - self.extreme >= step) & (self.extreme < rules.DARKER_BELOW)
        found: Array = (falls & (self.rising | self.fresh)) | (rises & (~self.rising | self.fresh))
        return found

    def goes_on(self, now: Array, last: Array) -> Array:
        """Whether luminance goes on the way that it went in the last picture, when it was last."""
        found: Array = (now - last) * (last - self.begun) >= 0.0
        return found

    def way_moves(self, now: Array, last: Array) -> Array:
        """Whether one way becomes a step, also after another step that way with a turn between them: strictly
        that is no pair of opposing changes, but others count it.
        """
        on = self.goes_on(now, last)
        begun = np.where(on, self.begun, last)
        step = np.abs(now - begun) >= CONSTANTS["u_step"]
        found: Array = ~(on & self.counted) & step & (np.minimum(now, begun) < rules.DARKER_BELOW)
        return found

    def hue_moves(self, light: Array) -> Array:
        """Whether this light would be a change to or from a saturated red."""
        far = np.hypot(*np.moveaxis(rules.chromaticity(light) - self.colour, -1, 0)) > CONSTANTS["u_red_step"]
        found: Array = far & (self.red | rules.saturated_red(light))
        return found

    def glow_moves(self, light: Array) -> Array:
        """Whether this light would be an opposing change of a saturated red."""
        now, step = rules.red_glow(light), CONSTANTS["u_glow_step"]
        return np.where(self.kindling, self.glow - now >= step, now - self.glow >= step)

    def moves(self, light: Array, shown: Array) -> Array:
        """Whether this light would be a change of any kind. shown: that of the last picture."""
        way = self.way_moves(rules.luminance(light), rules.luminance(shown))
        found: Array = self.brightness_moves(light) | way | self.hue_moves(light) | self.glow_moves(light)
        return found


class CellGuard:
    """Guards pictures that are as large as the cells are many. share: how much of the last picture
    each kept.
    """

    def __init__(
        self, cells: tuple[int, int] = CELLS, tiles: tuple[int, int] = TILES, fields: tuple[int, int] = FIELDS
    ) -> None:
        self.shape, self.tiles, self.fields = cells[::-1], tiles[::-1], fields[::-1]
        self.shown: Array | None = None
        self.before: Array | None = None
        self.past: Past | None = None
        self.share: Array = np.zeros(self.shape)
        self.field_times: Array = np.zeros((*self.fields, rules.MOST_CHANGES), dtype=np.int64)
        self.tally: Array = np.zeros((*self.fields, 4))

    def step(self, coming: Array, steps: int = 1, light: float = 1.0) -> Array:
        """The picture that is shown in place of the coming one: linear light, shape (height, width, 3).

        steps: ticks since the last; light: of the whole picture, 0 in a blackout.
        """
        coming = np.clip(coming, 0.0, 1.0) * light
        if self.past is None or self.shown is None:
            self.past = Past.of(coming)
        else:
            before = self.before if self.before is not None else np.zeros_like(coming)
            self._take_down(self.past, self.shown, before, coming, steps)
            self.before = self.shown
        gates = self._gates(self.past, steps)
        if self.shown is None:
            self.shown = coming
            return coming
        self.share = self._shares(self.past, gates, coming, self.shown, light)
        spread = self._spread()[..., None]
        self.shown = coming * (1.0 - spread) + self.shown * spread
        return self.shown

    def _spread(self) -> Array:
        """The share of every cell's middle, between the corners of its tile: two flat triangles."""
        rows, columns = self.tiles
        down, across = self.shape[0] // rows, self.shape[1] // columns
        tiles = self.share.reshape(rows, down, columns, across).max(axis=(1, 3))
        wide = np.pad(tiles, 1, mode="edge")
        corners = np.maximum(
            np.maximum(wide[:-1, :-1], wide[1:, :-1]), np.maximum(wide[:-1, 1:], wide[1:, 1:])
        )
        first, right = (
            np.kron(corners[:-1, :-1], np.ones((down, across))),
            np.kron(corners[:-1, 1:], np.ones((down, across))),
        )
        below, last = (
            np.kron(corners[1:, :-1], np.ones((down, across))),
            np.kron(corners[1:, 1:], np.ones((down, across))),
        )
        x = np.tile((np.arange(across) + 0.5) / across, columns)[None, :]
        y = np.tile((np.arange(down) + 0.5) / down, rows)[:, None]
        # Rows of pictures run down here, and up where they are drawn: so does the edge between the triangles.
        upper = x <= y
        left = first * (1.0 - y) + below * (y - x) + last * x
        found: Array = np.where(upper, left, first * (1.0 - x) + right * (x - y) + last * y)
        return found

    def _take_down(self, past: Past, shown: Array, before: Array, coming: Array, steps: int) -> None:
        now, last = rules.luminance(shown), rules.luminance(before)
        way, on = past.way_moves(now, last), past.goes_on(now, last)
        bright, hue, glows = past.brightness_moves(shown), past.hue_moves(shown), past.glow_moves(shown)
        # What the last picture did was done when it was shown.
        past.times = np.where((bright | way | hue | glows)[..., None], _put_first(past.times), past.times)
        past.times = np.maximum(past.times - steps, 0)
        past.begun = _rounded(np.where(on, past.begun, last), 1023)
        past.counted = bright | way | (on & past.counted)
        past.rising = np.where(bright, now > past.extreme, past.rising)
        still = past.fresh & ~bright
        further = np.where(past.rising, np.maximum(past.extreme, now), np.minimum(past.extreme, now))
        past.extreme = _rounded(np.where(still, past.extreme, np.where(bright, now, further)), 1023)
        past.fresh = still
        past.colour = np.where(hue[..., None], _rounded(rules.chromaticity(shown)), past.colour)
        past.red = np.where(hue, rules.saturated_red(shown), past.red)
        glow = rules.red_glow(shown)
        past.kindling = past.kindling ^ glows
        further = np.where(past.kindling, np.maximum(past.glow, glow), np.minimum(past.glow, glow))
        past.glow = _rounded(np.where(glows, glow, further))
        past.waits = np.where(past.moves(coming, shown), np.minimum(past.waits + steps, 15), 0)
        past.calm = np.where(self.share > 0.0, HELD, np.maximum(past.calm - steps, 0))

    def _gates(self, past: Past, steps: int) -> Array:
        """How strict each cell has to be: 0 not at all, 1 where too much flashes too often, 2 where much is
        about to change as one too often.
        """
        seen = [
            past.waits > 0,
            (past.changes >= rules.MOST_CHANGES) | (past.calm > 0),
            past.times[..., 0] == SECOND - steps,
            self.share > 0.0,
        ]
        rows, columns = self.fields
        blocks = [what.reshape(rows, self.shape[0] // rows, columns, -1).mean(axis=(1, 3)) for what in seen]
        self.tally = np.stack(blocks, axis=-1)
        wants, often, did = (_over_fields(block) for block in blocks[:3])
        area = CONSTANTS["u_area"]
        fresh = (did >= area) & (self.field_times[..., 0] <= SECOND - SPREAD)
        self.field_times = np.where(fresh[..., None], _put_first(self.field_times), self.field_times)
        self.field_times = np.maximum(self.field_times - steps, 0)
        together = (wants >= area) & ((self.field_times > 0).sum(axis=-1) >= rules.MOST_CHANGES)
        gates = np.where(together, 2.0, np.where(often >= area, 1.0, 0.0))
        gates = _greatest(gates, FIELD[1] // 2 + 1, FIELD[0] // 2 + 1)
        return np.kron(gates, np.ones((self.shape[0] // rows, self.shape[1] // columns)))

    def _shares(self, past: Past, gates: Array, coming: Array, shown: Array, light: float) -> Array:
        if light == 0.0:
            return np.zeros(self.shape)
        denied = (
            (gates >= 2.0) | (past.changes >= rules.MOST_CHANGES) | ((past.calm > 0) & (past.waits < STEADY))
        )
        held = (gates > 0.0) & (past.waits > 0) & denied
        low, high = np.zeros(self.shape), np.ones(self.shape)
        for _ in range(6):
            middle = 0.5 * (low + high)
            moves = past.moves(coming + (shown - coming) * middle[..., None], shown)
            low, high = np.where(moves, middle, low), np.where(moves, high, middle)
        return np.where(held, high, 0.0)


def _rounded(share: Array, steps: int = 127) -> Array:
    """As the shaders keep it: in seven bits, or in ten."""
    found: Array = np.floor(np.clip(share, 0.0, 1.0) * steps + 0.5) / steps
    return found


def _put_first(times: Array) -> Array:
    fresh = np.full((*times.shape[:-1], 1), SECOND)
    return np.concatenate([fresh, times[..., :-1]], axis=-1)


def _over_fields(blocks: Array) -> Array:
    """The mean of each field about its middle, within the picture."""
    rows, columns = blocks.shape
    sums = np.zeros((rows + 1, columns + 1))
    sums[1:, 1:] = blocks.cumsum(axis=0).cumsum(axis=1)
    top = np.clip(np.arange(rows) - FIELD[1] // 2, 0, rows - FIELD[1])
    left = np.clip(np.arange(columns) - FIELD[0] // 2, 0, columns - FIELD[0])
    whole = sums[np.ix_(top + FIELD[1], left + FIELD[0])] + sums[np.ix_(top, left)]
    whole = whole - sums[np.ix_(top, left + FIELD[0])] - sums[np.ix_(top + FIELD[1], left)]
    means: Array = whole / (FIELD[0] * FIELD[1])
    return means


def _greatest(what: Array, rows: int, columns: int) -> Array:
    """The greatest of each and its neighbours, so many to each side."""
    wide = np.pad(what, ((rows, rows), (columns, columns)), mode="edge")
    windows = np.lib.stride_tricks.sliding_window_view(wide, (2 * rows + 1, 2 * columns + 1))
    greatest: Array = windows.max(axis=(2, 3))
    return greatest

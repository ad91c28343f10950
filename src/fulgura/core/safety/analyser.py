"""Judges pictures that were really drawn: how often they flash, where, and over how much of what is seen.

It knows nothing of the guard. Every pixel is followed by itself, so that halves which flash against each
other do not cancel out, and every field of ten degrees of what is seen is looked at.
"""

from collections import deque
from dataclasses import dataclass, field

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.safety import rules

SPREAD_S = 0.04
"""Changes of a field that follow each other this closely are one: a flash takes a few pictures to rise."""


class Changes:
    """Opposing changes of one quantity of every pixel.

    Of luminance: a change is a step of a tenth from the last extreme, the other way than the last change.
    """

    def __init__(self, first: Array) -> None:
        self.rising = np.ones(first.shape, dtype=bool)
        self.low, self.high = first.copy(), first.copy()
        self.fresh = np.ones(first.shape, dtype=bool)
        """Of which the first change has not come yet: it may go either way."""

    def step(self, now: Array) -> Array:
        """Which pixels changed with this picture."""
        np.minimum(self.low, now, out=self.low)
        np.maximum(self.high, now, out=self.high)
        fallen = (self.high - now >= rules.STEP - 1e-9) & (now < rules.DARKER_BELOW)
        risen = (now - self.low >= rules.STEP - 1e-9) & (self.low < rules.DARKER_BELOW)
        falls = fallen & (self.rising | self.fresh)
        rises = risen & (~self.rising | self.fresh) & ~falls
        changed: Array = falls | rises
        self.rising[rises], self.rising[falls] = True, False
        self.fresh &= ~changed
        self.low[changed], self.high[changed] = now[changed], now[changed]
        return changed


class RedChanges:
    """Changes to, from and of a saturated red, of every pixel: by chromaticity, and by how much it glows."""

    def __init__(self, light: Array) -> None:
        self.colour, self.red = rules.chromaticity(light), rules.saturated_red(light)
        self.low, self.high = rules.red_glow(light), rules.red_glow(light)
        self.rising = np.ones(light.shape[:-1], dtype=bool)

    def step(self, light: Array) -> Array:
        """Which pixels changed with this picture."""
        red = rules.saturated_red(light)
        if not (red.any() or self.red.any()):
            return red
        colour = rules.chromaticity(light)
        far = np.hypot(*np.moveaxis(colour - self.colour, -1, 0)) > rules.RED_STEP
        hue = far & (red | self.red)
        self.colour[hue], self.red[hue] = colour[hue], red[hue]
        glow = rules.red_glow(light)
        np.minimum(self.low, glow, out=self.low)
        np.maximum(self.high, glow, out=self.high)
        turned = np.where(self.rising, self.high - glow, glow - self.low) > rules.GLOW_STEP
        self.rising ^= turned
        self.low[turned], self.high[turned] = glow[turned], glow[turned]
        changed: Array = hue | turned
        return changed


class LastSecond:
    """How many changes every pixel made in the last second, and how many whole fields did."""

    def __init__(self, shape: tuple[int, ...]) -> None:
        self.counts = np.zeros(shape, dtype=np.int16)
        self.maps: deque[tuple[float, Array]] = deque()
        self.fields: list[deque[float]] = []
        """Of each field when much of it changed."""
        self.together = 0
        """The most changes that a quarter of a field made at once."""
        self.alone = 0
        """The most changes that each pixel of a quarter of a field made by itself."""

    def add(self, changed: Array, at: float) -> None:
        """A picture's changes, at so many seconds."""
        while self.maps and at - self.maps[0][0] >= 1.0 - 1e-6:
            self.counts -= self.maps.popleft()[1]
        self.maps.append((at, changed))
        self.counts += changed
        shares = field_shares(changed)
        self.fields = self.fields or [deque() for _ in shares.flat]
        for times, share in zip(self.fields, shares.flat):
            while times and at - times[0] >= 1.0 - 1e-6:
                times.popleft()
            if share > rules.AREA and (not times or at - times[-1] > SPREAD_S):
                times.append(at)
        self.together = max(len(times) for times in self.fields)
        # From one picture to the next it is one more or one less, seldom more.
        while field_shares(self.counts > self.alone).max() > rules.AREA:
            self.alone += 1
        while self.alone and field_shares(self.counts >= self.alone).max() <= rules.AREA:
            self.alone -= 1

    @property
    def over(self) -> Array:
        """Pixels that flash more often than they may."""
        found: Array = self.counts // 2 > rules.MOST_FLASHES
        return found

    @property
    def area(self) -> float:
        """The greatest share of a field that flashes more often than it may."""
        return float(field_shares(self.over).max())

    @property
    def flashes(self) -> int:
        """The most flashes within the last second, of a field: those of a quarter of its pixels together, or
        those that a quarter of its pixels made each by itself.
        """
        return max(self.together, self.alone) // 2


WIDEST = 256
"""1024 pixels are 30 degrees of what is seen; WCAG 2.2 lets fine, balanced patterns of a tenth of a degree
be.
"""


def field_shares(what: Array) -> Array:
    """Of every field of ten degrees, a sixteenth of its size apart, the share of its pixels that is so.

    what: bool, shape (height, width). Shape (rows, columns) of fields.
    """
    height, width = what.shape
    down = max(1, min(height, round(height * rules.FIELD[1])))
    across = max(1, min(width, round(width * rules.FIELD[0])))
    sums = np.zeros((height + 1, width + 1), dtype=np.int64)
    sums[1:, 1:] = what.cumsum(axis=0).cumsum(axis=1)
    rows = _places(height - down, max(1, down // 16))
    columns = _places(width - across, max(1, across // 16))
    whole = sums[np.ix_(rows + down, columns + across)] + sums[np.ix_(rows, columns)]
    whole = whole - sums[np.ix_(rows, columns + across)] - sums[np.ix_(rows + down, columns)]
    shares: Array = whole / (down * across)
    return shares


def _places(last: int, step: int) -> Array:
    return np.unique([*range(0, last + 1, step), last])


def _coarse(light: Array) -> Array:
    """The mean of squares of pixels, so that no more than ``WIDEST`` are side by side."""
    square = max(1, round(light.shape[1] / WIDEST))
    rows, columns = light.shape[0] // square, light.shape[1] // square
    cut = light[: rows * square, : columns * square]
    coarse: Array = cut.reshape(rows, square, columns, square, 3).mean(axis=(1, 3))
    return coarse


@dataclass
class Moment:
    """What was seen up to a picture, over its last second.

    flashes: the most of any field, of either kind; area: the greatest share of a field that flashed more
    often than it may.
    """

    at: float
    general: int
    red: int
    area: float

    @property
    def flashes(self) -> int:
        return max(self.general, self.red)

    @property
    def safe(self) -> bool:
        """Whether WCAG 2.2, SC 2.3.1, allows it."""
        return self.flashes <= rules.MOST_FLASHES and self.area <= rules.AREA


@dataclass
class FlashAnalyser:
    """Takes pictures one after the other. moments: what it found."""

    moments: list[Moment] = field(default_factory=list)
    _general: Changes | None = None
    _red: RedChanges | None = None
    _seen: tuple[LastSecond, LastSecond] | None = None

    def add(self, picture: Array, at: float) -> Moment:
        """One picture, sRGB bytes, shape (height, width, 3), seen at so many seconds. It is judged no finer
        than an eighth of a degree is seen: what is finer blurs in the eye.
        """
        light = _coarse(rules.decoded(picture))
        bright = rules.luminance(light)
        if self._general is None or self._red is None or self._seen is None:
            self._general, self._red = Changes(bright), RedChanges(light)
            self._seen = LastSecond(bright.shape), LastSecond(bright.shape)
        general, red = self._seen
        general.add(self._general.step(bright), at)
        red.add(self._red.step(light), at)
        moment = Moment(at, general.flashes, red.flashes, max(general.area, red.area))
        self.moments.append(moment)
        return moment

    @property
    def over(self) -> Array:
        """Pixels of the last picture that flash more often than they may, shape (height, width)."""
        assert self._seen is not None, "it saw a picture"
        found: Array = self._seen[0].over | self._seen[1].over
        return found

    @property
    def worst(self) -> Moment:
        """The moment with the most flashes, and of those the one over the greatest area."""
        return max(self.moments, key=lambda moment: (moment.flashes, moment.area))

    @property
    def safe(self) -> bool:
        """Whether every moment is."""
        return all(moment.safe for moment in self.moments)

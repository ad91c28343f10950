"""Particles: born from a shape, moved by forces, packed for the wire. Positions are in units of half the
picture's height.
"""

from collections.abc import Mapping
from math import exp, pi, radians
from typing import Any

import numpy as np
from numba import njit

from fulgura.core.arrays import Array
from fulgura.core.kinds.providers import TickInput

MOST = 50_000
LINE = 256
"""Cells of a line of the block; the last line is filled up with cells of no size."""
SHAPES = ("point", "line", "disc", "ball", "soft ball", "cone", "box", "bright parts")
POINT, LINE_SHAPE, DISC, BALL, SOFT_BALL, CONE, BOX, BRIGHT = range(len(SHAPES))
STREAK = 4
"""Place of the sprite that looks where it goes."""
FIELD = 64
"""Cells a side of the swirling field, which repeats."""
FAR = 8.0
"""Places from -FAR to FAR go on the wire, as 16 bits."""
WIDE = 16.0 / 9.0
COLOURED = ("its life", "the palette by chance", "the palette by hit")
BY_CHANCE, BY_HIT = 1, 2
MOST_COLOURS = 8
"""So many colours of a palette can be told apart in a cell."""
X, Y, Z, VX, VY, VZ, AGE, LIFE, U, V, COLOUR = range(11)


def swirling_field(rng: np.random.Generator) -> Array:
    """Velocities without sources or sinks, shape (64, 64, 2), root mean square 1: the curl of a smooth random
    potential.

    R. Bridson, J. Hourihan, M. Nordenstam, "Curl-noise for procedural fluid flow", SIGGRAPH 2007.
    """
    frequency = np.fft.fftfreq(FIELD) * FIELD
    radius = np.hypot(*np.meshgrid(frequency, frequency))
    spectrum = np.fft.fft2(rng.standard_normal((FIELD, FIELD))) * np.exp(-((radius - 4.0) ** 2) / 8.0)
    potential = np.fft.ifft2(spectrum).real

    # Central differences on the ring: their divergence is zero, exactly.
    def along(axis: int) -> Array:
        return (np.roll(potential, -1, axis) - np.roll(potential, 1, axis)) / 2.0

    field = np.stack([along(0), -along(1)], axis=-1)
    found: Array = field / np.sqrt(np.mean(np.sum(field**2, axis=-1)))
    return found


@njit(cache=True)
def swirl_at(field: Array, x: float, y: float) -> tuple[float, float]:
    """The field between its cells (bilinear); it repeats every 64."""
    i, j = int(np.floor(x)), int(np.floor(y))
    fx, fy = x - i, y - j
    i0, j0, i1, j1 = i & (FIELD - 1), j & (FIELD - 1), (i + 1) & (FIELD - 1), (j + 1) & (FIELD - 1)
    a, b, c, d = (1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy
    return (
        a * field[j0, i0, 0] + b * field[j0, i1, 0] + c * field[j1, i0, 0] + d * field[j1, i1, 0],
        a * field[j0, i0, 1] + b * field[j0, i1, 1] + c * field[j1, i0, 1] + d * field[j1, i1, 1],
    )


@njit(cache=True, fastmath={"contract", "arcp", "reassoc"})
def move(
    s: Array,
    count: int,
    dt: float,
    gravity: float,
    drag: float,
    swirl: float,
    swirl_scale: float,
    drift: float,
    field: Array,
    pull: float,
    pull_x: float,
    pull_y: float,
) -> int:
    """All particles on by dt seconds, in place; the dead are taken out, keeping the others' order. Returns
    how many are left.

    Under constant acceleration a step is exact: x + v dt + a dt^2 / 2. Drag slows by exp(-drag dt).
    """
    slows, kept = exp(-drag * dt), 0
    for i in range(count):
        age = s[i, AGE] + dt
        if age >= s[i, LIFE]:
            continue
        ax, ay = 0.0, -gravity
        if pull != 0.0:
            dx, dy = pull_x - s[i, X], pull_y - s[i, Y]
            near = 1.0 / (0.05 + dx * dx + dy * dy)
            ax += pull * dx * near
            ay += pull * dy * near
        if swirl != 0.0:
            wx, wy = swirl_at(field, s[i, X] * swirl_scale + drift, s[i, Y] * swirl_scale - 0.7 * drift)
            ax += swirl * wx
            ay += swirl * wy
        x = s[i, X] + s[i, VX] * dt + 0.5 * ax * dt * dt
        y = s[i, Y] + s[i, VY] * dt + 0.5 * ay * dt * dt
        z = s[i, Z] + s[i, VZ] * dt
        vx, vy, vz = (s[i, VX] + ax * dt) * slows, (s[i, VY] + ay * dt) * slows, s[i, VZ] * slows
        life, u, v, colour = s[i, LIFE], s[i, U], s[i, V], s[i, COLOUR]
        s[kept, X], s[kept, Y], s[kept, Z], s[kept, VX], s[kept, VY], s[kept, VZ] = x, y, z, vx, vy, vz
        s[kept, AGE], s[kept, LIFE], s[kept, U], s[kept, V], s[kept, COLOUR] = age, life, u, v, colour
        kept += 1
    return kept


@njit(cache=True)
def pack(s: Array, count: int, cells: Array, depth: float, last: int) -> None:
    """Cells (n, 4) of 16 bits: across, up, size and share of life (8 bits each), and which colour of the
    palette it has (3 bits), with, by ``last``, nothing (0), where in the picture it began (1), or its
    direction and speed (2; 7 and 6 bits). What is farther away (z) is smaller and nearer the middle.
    """
    cells[count:] = 0
    for i in range(count):
        nearness = 1.0 / max(0.15, 1.0 + depth * s[i, Z])
        x, y = s[i, X] * nearness, s[i, Y] * nearness
        if not (-FAR < x < FAR and -FAR < y < FAR):
            cells[i] = 0
            continue
        cells[i, 0] = int((x + FAR) * (65535.0 / (2.0 * FAR)) + 0.5)
        cells[i, 1] = int((y + FAR) * (65535.0 / (2.0 * FAR)) + 0.5)
        share = s[i, AGE] / s[i, LIFE]
        cells[i, 2] = int(min(255.0, nearness * 40.0 + 1.0)) * 256 + int(min(255.0, share * 255.0))
        first = second = 0.0
        if last == 1:
            first, second = s[i, U], s[i, V]
        elif last == 2:
            first = (np.arctan2(s[i, VY], s[i, VX]) / (2.0 * pi)) % 1.0
            second = min(1.0, np.sqrt(s[i, VX] ** 2 + s[i, VY] ** 2) * 0.25)
        cells[i, 3] = int(s[i, COLOUR]) * 8192 + int(first * 127.0 + 0.5) * 64 + int(second * 63.0 + 0.5)


class Swarm:
    """The particles of one part."""

    def __init__(self, seed: int) -> None:
        self.rng = np.random.default_rng(seed)
        self.field = swirling_field(self.rng)
        self.state = np.zeros((MOST, 11))
        self.count = 0
        self.due = 0.0
        self.seconds = 0.0
        self.bursts = 0

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        """One tick; cells as uint16, whole lines of 256, flat."""
        dt = heard.context.dt
        self.seconds += dt
        self.count = move(
            self.state,
            self.count,
            dt,
            values["gravity"],
            values["drag"],
            values["swirl"],
            6.0 / max(values["swirl_size"], 0.05),
            self.seconds * 0.4,
            self.field,
            values["pull"],
            values["pull_x"],
            values["pull_y"],
        )
        bursts = heard.context.hits_of(values["burst_by"])
        self.bursts += bursts
        self.due += values["rate"] * dt + values["burst"] * bursts
        wanted = int(self.due)
        self.due -= wanted
        most = min(MOST, int(values["most"]))
        self.count = min(self.count, most)
        colours = min(MOST_COLOURS, max(1, len(heard.context.palette)))
        self._bear(min(wanted, most - self.count), values, colours)
        cells = np.empty((-(-max(self.count, 1) // LINE) * LINE, 4), dtype=np.uint16)
        streaks = 2 if int(values["sprite"]) == STREAK else 0
        form = 1 if int(values["begins"]) == BRIGHT else streaks
        pack(self.state, self.count, cells, values["depth"], form)
        return cells.reshape(-1)

    def _bear(self, born: int, values: Mapping[str, Any], colours: int) -> None:
        """colours: how many the palette has."""
        if born <= 0:
            return
        which = "_2" if values["second"] > 0.5 else ""
        rng, shape, size = self.rng, int(values[f"begins{which}"]), values[f"extent{which}"]
        points = np.zeros((born, 3))
        way = radians(values["aim"]) + np.radians(values["spread"]) * rng.uniform(-1.0, 1.0, born)
        if shape == LINE_SHAPE:
            points[:, 0] = rng.uniform(-size, size, born)
        elif shape == DISC:
            angle, radius = rng.uniform(0, 2 * pi, born), size * np.sqrt(rng.random(born))
            points[:, 0], points[:, 1] = radius * np.cos(angle), radius * np.sin(angle)
        elif shape in (BALL, SOFT_BALL):
            towards = rng.standard_normal((born, 3))
            radius = (
                size * np.cbrt(rng.random((born, 1)))
                if shape == BALL
                else size * 0.5 * np.abs(rng.standard_normal((born, 1)))
            )
            points = towards / np.linalg.norm(towards, axis=1, keepdims=True) * radius
        elif shape == CONE:
            # From a tip at its place, wider along the aim.
            along = size * np.sqrt(rng.random(born))
            points[:, 0], points[:, 1] = along * np.cos(way), along * np.sin(way)
        elif shape == BOX:
            points = rng.uniform(-size, size, (born, 3))
        elif shape == BRIGHT:
            points[:, 0], points[:, 1] = rng.uniform(-WIDE, WIDE, born), rng.uniform(-1.0, 1.0, born)
        u, v = points[:, 0] / WIDE * 0.5 + 0.5, points[:, 1] * 0.5 + 0.5
        if shape != BRIGHT:
            points[:, 0] += values[f"x{which}"]
            points[:, 1] += values[f"y{which}"]
        speed = values["speed"] * rng.uniform(0.6, 1.0, born)
        fresh = self.state[self.count : self.count + born]
        fresh[:, X : Z + 1] = points
        fresh[:, VX], fresh[:, VY], fresh[:, VZ] = (
            speed * np.cos(way),
            speed * np.sin(way),
            speed * rng.uniform(-0.5, 0.5, born),
        )
        fresh[:, AGE], fresh[:, LIFE] = 0.0, np.maximum(0.05, values["life"] * rng.uniform(0.6, 1.0, born))
        fresh[:, U], fresh[:, V] = np.clip(u, 0.0, 1.0), np.clip(v, 0.0, 1.0)
        by = int(values["coloured_by"])
        fresh[:, COLOUR] = self.bursts % colours if by == BY_HIT else 0
        if by == BY_CHANCE:
            fresh[:, COLOUR] = rng.integers(0, colours, born)
        self.count += born

"""The geometry of walls: four corners, and a grid that bends what lies between them.

Shares of a width and a height, from the top left corner, throughout. The projective map of the unit square
onto four corners has a closed form (Heckbert, "Fundamentals of Texture Mapping and Image Warping", 1989,
section 2.2.3).
"""

from collections.abc import Sequence
from math import floor

import numpy as np

from fulgura.core.arrays import Array

Pair = tuple[float, float]
TOO_FLAT = 1e-4
"""Twice the area of the smallest triangle of corners."""
BETWEEN = 6
"""A grid is looked at in so many steps between two points."""


def homography(corners: Sequence[Pair]) -> Array:
    """The 3x3 matrix that takes (0,0), (1,0), (1,1), (0,1) to four corners, its last element 1.

    Raises ValueError for corners that cross.
    """
    if crossing(corners):
        raise ValueError("the corners cross")
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = corners
    dx1, dx2, dx3 = x1 - x2, x3 - x2, x0 - x1 + x2 - x3
    dy1, dy2, dy3 = y1 - y2, y3 - y2, y0 - y1 + y2 - y3
    under = dx1 * dy2 - dx2 * dy1
    g = (dx3 * dy2 - dx2 * dy3) / under
    h = (dx1 * dy3 - dx3 * dy1) / under
    return np.array(
        [[x1 - x0 + g * x1, x3 - x0 + h * x3, x0], [y1 - y0 + g * y1, y3 - y0 + h * y3, y0], [g, h, 1.0]]
    )


def placed(matrix: Array, points: Array) -> Array:
    """Points, shape (n, 2), through a projective map.

    >>> placed(homography([(0, 0), (2, 0), (2, 2), (0, 2)]), np.array([[0.5, 0.25]])).tolist()
    [[1.0, 0.5]]
    """
    found = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    whole: Array = found[:, :2] / found[:, 2:]
    return whole


def crossing(corners: Sequence[Pair]) -> bool:
    """Whether four corners are no convex shape with its corners in order, clockwise as seen on a screen."""
    for at in range(4):
        (ax, ay), (bx, by), (cx, cy) = (corners[(at + k) % 4] for k in range(3))
        if (bx - ax) * (cy - by) - (by - ay) * (cx - bx) < TOO_FLAT:
            return True
    return False


def weights(share: float, points: int) -> tuple[int, Array]:
    """(the first of four points, their weights) of a smooth line through so many evenly spaced points.

    A cubic that goes through every point and turns evenly there (Catmull and Rom, 1974); beyond an end it
    goes on straight. Points that are evenly spaced give evenly spaced places. The first may be -1 and the
    last one past the end: those are the ends mirrored, see ``at``.
    """
    along = min(max(share, 0.0), 1.0) * (points - 1)
    first = min(floor(along), points - 2)
    t = along - first
    return first - 1, np.array(
        [
            ((-0.5 * t + 1.0) * t - 0.5) * t,
            (1.5 * t - 2.5) * t * t + 1.0,
            ((-1.5 * t + 2.0) * t + 0.5) * t,
            (0.5 * t - 0.5) * t * t,
        ]
    )


def bent(columns: int, rows: int, points: Sequence[Pair], u: float, v: float) -> Pair:
    """Where a place of the straight wall lies in the bent one."""
    table = np.asarray(points, dtype=float).reshape(rows, columns, 2)
    first_column, across = weights(u, columns)
    first_row, down = weights(v, rows)
    lines = [_mixed(table[row], first_column, across) for row in range(rows)]
    x, y = _mixed(np.array(lines), first_row, down)
    return float(x), float(y)


def _mixed(line: Array, first: int, shares: Array) -> Array:
    """Points of a line, by weights; a point before the first is as far from it as the second is."""
    ends = np.concatenate([2.0 * line[:1] - line[1:2], line, 2.0 * line[-1:] - line[-2:-1]])
    found: Array = shares @ ends[first + 1 : first + 5]
    return found


def folded(columns: int, rows: int, points: Sequence[Pair]) -> bool:
    """Whether a bent wall lies over itself, or is turned over, anywhere."""
    us = np.linspace(0.0, 1.0, (columns - 1) * BETWEEN + 1)
    vs = np.linspace(0.0, 1.0, (rows - 1) * BETWEEN + 1)
    table = np.asarray(points, dtype=float).reshape(rows, columns, 2)
    across, down = spread(us, columns), spread(vs, rows)
    net = np.einsum("vr,rck,uc->vuk", down, table, across)
    right, below = np.diff(net, axis=1)[:-1], np.diff(net, axis=0)[:, :-1]
    return bool((right[..., 0] * below[..., 1] - right[..., 1] * below[..., 0] <= 0.0).any())


def spread(shares: Array, points: int) -> Array:
    """How much each of the points weighs at each share, shape (shares, points): ends already taken in."""
    found = np.zeros((len(shares), points))
    for row, share in zip(found, shares):
        first, four = weights(float(share), points)
        for weight, at in zip(four, range(first, first + 4)):
            if at < 0:
                row[0] += 2.0 * weight
                row[1] -= weight
            elif at >= points:
                row[-1] += 2.0 * weight
                row[-2] -= weight
            else:
                row[at] += weight
    return found


def blend_weight(x: Array, power: float) -> Array:
    """How much light of a place in the zone where two outputs overlap comes from the one that rises there.

    x: 0 at its edge to 1 where it shines alone. With its mirror image it adds up to 1 (common practice).
    """
    low = np.minimum(x, 1.0 - x) * 2.0
    rise = 0.5 * low**power
    found: Array = np.where(x < 0.5, rise, 1.0 - rise)
    return found

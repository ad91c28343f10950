"""Lamps are aligned and spread in the room."""

from collections.abc import Sequence
from math import ceil, pi, sin, sqrt
from typing import Literal

from fulgura.core.show.commands.lamps import lamps_of
from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, SetValue, Together
from fulgura.core.show.lights import Lamp

Arrangement = Literal["line", "arc", "grid", "in a column", "in a row"]
View = Literal["front", "top"]
UPRIGHT: dict[View, Literal["z", "y"]] = {"front": "z", "top": "y"}
"""Which of a place's numbers goes up on the drawing."""
BULGE = 0.25
"""An arc is so high for its width."""

Point = tuple[float, float]


def arrange(show: Show, ids: Sequence[str], how: Arrangement, view: View = "front") -> Edit:
    """The edit that puts lamps in order, as they are seen from the front or from the top, in the order that
    they are named.

    line, arc: evenly from the first to the last; grid: as square as can be, within the room that they take
    now; in a column, in a row: on the middle of where they are. Raises EditError.
    """
    lamps = lamps_of(show, ids)
    up = UPRIGHT[view]
    now = [(lamp.place.x, getattr(lamp.place, up)) for lamp in lamps]
    return placed(lamps, _POINTS[how](now), view)


def placed(lamps: Sequence[Lamp], points: Sequence[Point], view: View) -> Edit:
    """The edit that puts lamps at points of the drawing, in metres."""
    up = UPRIGHT[view]
    edits: list[Edit] = [
        SetValue(path=f"/lamps/{lamp.id}/place/{name}", value=round(value, 3))
        for lamp, point in zip(lamps, points)
        for name, value in zip(("x", up), point)
    ]
    return Together(edits=edits)


def _line(now: Sequence[Point]) -> list[Point]:
    (x, y), (to_x, to_y) = now[0], now[-1]
    shares = [i / max(1, len(now) - 1) for i in range(len(now))]
    return [(x + share * (to_x - x), y + share * (to_y - y)) for share in shares]


def _arc(now: Sequence[Point]) -> list[Point]:
    (x, y), (to_x, to_y) = now[0], now[-1]
    height = BULGE * sqrt((to_x - x) ** 2 + (to_y - y) ** 2)
    shares = [i / max(1, len(now) - 1) for i in range(len(now))]
    return [(px, py + height * sin(pi * share)) for (px, py), share in zip(_line(now), shares)]


def _grid(now: Sequence[Point]) -> list[Point]:
    columns = ceil(sqrt(len(now)))
    rows = ceil(len(now) / columns)
    xs, ys = [x for x, _ in now], [y for _, y in now]
    width, height = max(max(xs) - min(xs), 1.0), max(max(ys) - min(ys), 1.0)
    return [
        (
            min(xs) + width * (i % columns) / max(1, columns - 1),
            max(ys) - height * (i // columns) / max(1, rows - 1),
        )
        for i in range(len(now))
    ]


def _column(now: Sequence[Point]) -> list[Point]:
    middle = sum(x for x, _ in now) / len(now)
    return [(middle, y) for _, y in now]


def _row(now: Sequence[Point]) -> list[Point]:
    middle = sum(y for _, y in now) / len(now)
    return [(x, middle) for x, _ in now]


_POINTS = {"line": _line, "arc": _arc, "grid": _grid, "in a column": _column, "in a row": _row}

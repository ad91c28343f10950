"""Where the picture goes: outputs, and the walls that they fit."""

import re
from typing import Annotated, Literal, Self

from pydantic import AfterValidator, Field, model_validator

from fulgura.core.show.part import Id, Name, Strict, check_unique
from fulgura.core.show.walls import crossing, folded

MOST_OUTPUTS, MOST_WALLS, MOST_MASKS, MOST_POINTS = 32, 16, 16, 32
LEAST_SIDE, MOST_SIDE = 16, 8192
GRID = 9
"""A grid has at most so many points each way."""


def _an_address(value: str) -> str:
    if not re.fullmatch(r"[a-z0-9][a-z0-9-]{0,47}", value):
        raise ValueError("an address is made of lower-case letters, digits and dashes")
    return value


def _a_side(value: int) -> int:
    if not LEAST_SIDE <= value <= MOST_SIDE:
        raise ValueError(f"an output is from {LEAST_SIDE} to {MOST_SIDE} pixels wide and high, not {value}")
    return value


Address = Annotated[str, AfterValidator(_an_address)]
Side = Annotated[int, AfterValidator(_a_side)]
Share = Annotated[float, Field(ge=0.0, le=1.0)]
Point = tuple[Annotated[float, Field(ge=-2.0, le=3.0)], Annotated[float, Field(ge=-2.0, le=3.0)]]
"""Shares of the output's width and height, from its top left corner."""


class Cut(Strict):
    """A piece of a picture: its left and upper edge, width and height, as shares of the whole."""

    x: Share = 0.0
    y: Share = 0.0
    width: float = Field(1.0, ge=0.01, le=1.0)
    height: float = Field(1.0, ge=0.01, le=1.0)

    @model_validator(mode="after")
    def _inside(self) -> Self:
        if self.x + self.width > 1.0 + 1e-9 or self.y + self.height > 1.0 + 1e-9:
            raise ValueError("a piece of a picture has to lie within it")
        return self


class Grid(Strict):
    """Points by which a wall is bent: in rows from its top left, each where it lies within the straight wall,
    as shares of its width and height.
    """

    columns: int = Field(2, ge=2, le=GRID)
    rows: int = Field(2, ge=2, le=GRID)
    points: list[Point] = Field(default_factory=lambda: regular(2, 2), max_length=GRID * GRID)

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if len(self.points) != self.columns * self.rows:
            raise ValueError(f"a grid of {self.columns} by {self.rows} has {self.columns * self.rows} points")
        if folded(self.columns, self.rows, self.points):
            raise ValueError("the grid would fold over itself: move the point less far")
        return self


def regular(columns: int, rows: int) -> list[Point]:
    """The points of a grid that bends nothing.

    >>> regular(2, 2)
    [(0.0, 0.0), (1.0, 0.0), (0.0, 1.0), (1.0, 1.0)]
    """
    return [(c / (columns - 1), r / (rows - 1)) for r in range(rows) for c in range(columns)]


CORNERS: list[Point] = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)]


class Wall(Strict):
    """A surface that an output throws light on, and the piece of the picture that it shows.

    corners: on the output, from the top left on, clockwise.
    """

    id: Id
    name: Name
    on: bool = True
    cut: Cut = Cut()
    corners: list[Point] = Field(default_factory=lambda: list(CORNERS), min_length=4, max_length=4)
    grid: Grid = Field(default_factory=Grid)

    @model_validator(mode="after")
    def _right(self) -> Self:
        if crossing(self.corners):
            raise ValueError(f"the corners of “{self.name}” would cross: keep each on its own side")
        return self


class Mask(Strict):
    """A shape, a polygon, that is left dark, or that alone shines.

    soft: how wide its edge is, as a share of the output's height.
    """

    id: Id
    name: Name
    on: bool = True
    keeps: Literal["outside", "inside"] = "inside"
    """Which side of its edge is shown."""
    points: list[Point] = Field(min_length=3, max_length=MOST_POINTS)
    soft: float = Field(0.02, ge=0.0, le=0.5)


class Blend(Strict):
    """How an output fades at its edges into its neighbours: widths as shares of the output, the curve's
    power, and the gamma of what throws the light.
    """

    left: float = Field(0.0, ge=0.0, le=0.5)
    right: float = Field(0.0, ge=0.0, le=0.5)
    top: float = Field(0.0, ge=0.0, le=0.5)
    bottom: float = Field(0.0, ge=0.0, le=0.5)
    power: float = Field(2.0, ge=1.0, le=5.0)
    gamma: float = Field(2.2, ge=1.0, le=3.0)


class Output(Strict):
    """A page that shows the picture. look: a fixed one by its id, empty for what plays; input: by whose sound
    the look's waves and bars are drawn, empty for the main one; rate: pictures a second at most; card: a test
    card in place of the picture; delay_ms: how much later it comes, for what is slower than the rest.
    """

    id: Id
    name: Name
    address: Address
    look: str = Field("", max_length=60)
    input: str = Field("", max_length=60)
    cut: Cut = Cut()
    width: Side = 1280
    height: Side = 720
    rate: int = Field(60, ge=1, le=60)
    ground: Literal["black", "transparent"] = "black"
    level: Share = 1.0
    gamma: float = Field(1.0, ge=0.3, le=3.0)
    walls: list[Wall] = Field([], max_length=MOST_WALLS)
    masks: list[Mask] = Field([], max_length=MOST_MASKS)
    blend: Blend = Blend()
    card: Literal["off", "grid", "circle", "colours"] = "off"
    frozen: bool = False
    black: bool = False

    @model_validator(mode="after")
    def _whole(self) -> Self:
        check_unique([wall.id for wall in self.walls], "wall")
        check_unique([mask.id for mask in self.masks], "mask")
        return self


LEAST_WORDS = 3
"""Of a sentence that says why."""


class GuardSettings(Strict):
    """The guard against flashing. why_off: the sentence with which it was switched off for this show."""

    on: bool = True
    why_off: str = Field("", max_length=300)

    @model_validator(mode="after")
    def _said(self) -> Self:
        if not self.on and len(self.why_off.split()) < LEAST_WORDS:
            raise ValueError("the guard goes off only with a sentence that says why")
        return self

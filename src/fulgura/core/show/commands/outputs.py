"""Outputs are made, named, copied and taken away; their walls and masks are made and fitted."""

import math
import re
from typing import Literal

from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.outputs import (
    CORNERS,
    GRID,
    MOST_MASKS,
    MOST_OUTPUTS,
    MOST_WALLS,
    Cut,
    Grid,
    Mask,
    Output,
    Point,
    Wall,
)
from fulgura.core.show.walls import bent

Shape = Literal["rectangle", "triangle", "round"]
FITTING = ("cut", "width", "height", "level", "gamma", "walls", "masks", "blend")
"""What of an output is its fitting."""
ROUND_POINTS = 24


def output_of(show: Show, id: str) -> Output:
    """Raises EditError for an output that is gone."""
    found = next((output for output in show.outputs if output.id == id), None)
    if found is None:
        raise EditError("That output is not there any more.", "/outputs")
    return found


def address_for(show: Show, name: str, but: str = "") -> str:
    """An address that no output has yet, by a name. but: the id of one that may have it.

    >>> address_for(Show(name="Night"), "Tower, north side")
    'tower-north-side'
    """
    taken = {output.address for output in show.outputs if output.id != but}
    plain = re.sub("[^a-z0-9]+", "-", name.lower()).strip("-")[:40] or "output"
    found, number = plain, 2
    while found in taken:
        found, number = f"{plain}-{number}", number + 1
    return found


def new_output(show: Show, name: str = "", transparent: bool = False) -> tuple[Edit, str]:
    """(the edit that adds an output, its id). transparent: an overlay. Raises EditError."""
    if len(show.outputs) == MOST_OUTPUTS:
        raise EditError(f"A show has at most {MOST_OUTPUTS} outputs.", "/outputs")
    name = _free_name(show, name.strip() or ("Overlay" if transparent else "Output"))
    id = free_id([output.id for output in show.outputs], "output-")
    output = Output(
        id=id, name=name, address=address_for(show, name), ground="transparent" if transparent else "black"
    )
    return AddItem(path="/outputs", item=output.model_dump()), id


def _free_name(show: Show, name: str) -> str:
    taken = {output.name.lower() for output in show.outputs}
    found, number = name, 2
    while found.lower() in taken:
        found, number = f"{name} {number}", number + 1
    return found


def rename_output(show: Show, id: str, name: str) -> Edit:
    """The edit that names an output anew. Its address stays: pages stand open on it. Raises EditError."""
    output = output_of(show, id)
    if any(other.name.lower() == name.lower() and other.id != id for other in show.outputs):
        raise EditError(
            f"There is an output called “{name}” already: give this one another name.", "/outputs"
        )
    return SetValue(path=f"/outputs/{output.id}/name", value=name)


def move_address(show: Show, id: str, address: str) -> Edit:
    """The edit that gives an output another address. Raises EditError for one that is taken."""
    output = output_of(show, id)
    if any(other.address == address and other.id != id for other in show.outputs):
        raise EditError(f"Another output has the address “{address}” already.", "/outputs")
    return SetValue(path=f"/outputs/{output.id}/address", value=address)


def copy_output(show: Show, id: str) -> tuple[Edit, str]:
    """(the edit that adds the same output once more, its id). Raises EditError."""
    output = output_of(show, id)
    if len(show.outputs) == MOST_OUTPUTS:
        raise EditError(f"A show has at most {MOST_OUTPUTS} outputs.", "/outputs")
    name = _free_name(show, f"{output.name} copy")
    made = free_id([other.id for other in show.outputs], "output-")
    item = output.model_dump() | {"id": made, "name": name, "address": address_for(show, name)}
    at = show.outputs.index(output) + 1
    return AddItem(path="/outputs", item=item, index=at), made


def fit_like(show: Show, id: str, other: str) -> Edit:
    """The edit that fits an output as another is fitted. Raises EditError."""
    output, like = output_of(show, id), output_of(show, other)
    values = like.model_dump()
    return Together(
        edits=[SetValue(path=f"/outputs/{output.id}/{name}", value=values[name]) for name in FITTING]
    )


def straighten(show: Show, id: str) -> Edit:
    """The edit that takes every fitting off an output. Raises EditError."""
    output = output_of(show, id)
    plain = Output(id=output.id, name=output.name, address=output.address).model_dump()
    kept = {"width", "height"}
    return Together(
        edits=[
            SetValue(path=f"/outputs/{output.id}/{name}", value=plain[name])
            for name in FITTING
            if name not in kept
        ]
    )


def new_wall(show: Show, id: str, name: str = "") -> tuple[Edit, str]:
    """(the edit that adds a wall, its id). The first covers the whole output; each further one begins
    smaller, in the middle. Raises EditError.
    """
    output = output_of(show, id)
    if len(output.walls) == MOST_WALLS:
        raise EditError(f"An output has at most {MOST_WALLS} walls.", f"/outputs/{id}/walls")
    made = free_id([wall.id for wall in output.walls], "wall-")
    corners = CORNERS if not output.walls else [(0.3, 0.3), (0.7, 0.3), (0.7, 0.7), (0.3, 0.7)]
    wall = Wall(id=made, name=name.strip() or f"Wall {len(output.walls) + 1}", cut=Cut(), corners=corners)
    return AddItem(path=f"/outputs/{id}/walls", item=wall.model_dump()), made


def wall_of(show: Show, id: str, wall: str) -> Wall:
    """Raises EditError for a wall that is gone."""
    found = next((each for each in output_of(show, id).walls if each.id == wall), None)
    if found is None:
        raise EditError("That wall is not there any more.", f"/outputs/{id}/walls")
    return found


def regrid(show: Show, id: str, wall: str, columns: int, rows: int) -> Edit:
    """The edit that gives a wall a grid of so many points, which bends it as before. Raises EditError."""
    if not (2 <= columns <= GRID and 2 <= rows <= GRID):
        raise EditError(f"A grid has from 2 to {GRID} points each way.", f"/outputs/{id}/walls/{wall}/grid")
    before = wall_of(show, id, wall).grid
    points: list[Point] = [
        bent(before.columns, before.rows, before.points, c / (columns - 1), r / (rows - 1))
        for r in range(rows)
        for c in range(columns)
    ]
    # What was regular stays so to the last bit: a straight wall is drawn more cheaply.
    points = [(round(x, 9), round(y, 9)) for x, y in points]
    regular = [(c / (columns - 1), r / (rows - 1)) for r in range(rows) for c in range(columns)]
    if all(math.dist(a, b) < 1e-6 for a, b in zip(points, regular)):
        points = regular
    grid = Grid(columns=columns, rows=rows, points=points)
    return SetValue(path=f"/outputs/{id}/walls/{wall}/grid", value=grid.model_dump())


def new_mask(show: Show, id: str, shape: Shape = "rectangle") -> tuple[Edit, str]:
    """(the edit that adds a mask in the middle of an output, its id). Raises EditError."""
    output = output_of(show, id)
    if len(output.masks) == MOST_MASKS:
        raise EditError(f"An output has at most {MOST_MASKS} masks.", f"/outputs/{id}/masks")
    made = free_id([mask.id for mask in output.masks], "mask-")
    mask = Mask(id=made, name=f"Mask {len(output.masks) + 1}", points=_shape(shape, output))
    return AddItem(path=f"/outputs/{id}/masks", item=mask.model_dump()), made


def _shape(shape: Shape, output: Output) -> list[Point]:
    high, wide = 0.35, 0.35 * output.height / output.width
    if shape == "rectangle":
        return [(0.15, 0.15), (0.85, 0.15), (0.85, 0.85), (0.15, 0.85)]
    if shape == "triangle":
        return [(0.5, 0.15), (0.85, 0.85), (0.15, 0.85)]
    turns = [2.0 * math.pi * at / ROUND_POINTS for at in range(ROUND_POINTS)]
    return [(round(0.5 + wide * math.sin(t), 6), round(0.5 - high * math.cos(t), 6)) for t in turns]


def remove_output(show: Show, id: str) -> Edit:
    """Raises EditError for one that is gone."""
    return RemoveItem(path=f"/outputs/{output_of(show, id).id}")

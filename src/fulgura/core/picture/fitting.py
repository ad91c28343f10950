"""An output's own passes: the picture cut, laid on walls, masked, blended into its neighbours, encoded.

What is dragged is told in a block of numbers with every frame, so that a plan is made anew only when a wall
or a mask comes or goes. Its texels, four numbers each: 0 whether it stands still, how often feedback was
cleared, beats, and its light; 1 level and gamma; 2 the cut; 3 and 4 the blend; then of each wall the three
rows of its projective map, its cut and its grid's points; then of each mask its number of points, how soft it
is and whether it keeps its inside, and its points.
"""

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.drawn import Mesh
from fulgura.core.picture.data import FIRST_FIT
from fulgura.core.picture.plan import PICTURE, Data, End, PassInput
from fulgura.core.picture.plan_builder import NOTHING, PlanBuilder
from fulgura.core.show.outputs import Cut, Mask, Output, Wall, regular
from fulgura.core.show.walls import homography

WIDTH = 64
WALLS_FROM = 5
BETWEEN = 8
"""Pieces between two points of a bent grid."""
CARDS = ("off", "grid", "circle", "colours")
MOST_PICTURE = 2.0
"""Where an output shows a piece of the picture, the whole has at most so many times its pixels."""


def end_of(output: Output, at: int, picture: int) -> End:
    """The end of an output. at: its place among the outputs; picture: the number of the one that it shows."""
    builder = PlanBuilder([], {}, (), (), ())
    data = Data(name="fit", block=FIRST_FIT + at, form="rows", width=WIDTH)
    fit = PassInput(uniform="u_fit", data=data.name)
    source = PICTURE
    if output.card != "off":
        card = {"u_card": float(CARDS.index(output.card))}
        source = builder.add("card.frag", None, [], builder.target("card"), fixed=card)
    walls, masks = shown_walls(output), shown_masks(output)
    first = WALLS_FROM
    for number, wall in enumerate(walls):
        place = _place(wall, first)
        vertices = 6 * round((place["u_columns"] - 1) * (place["u_rows"] - 1) * place["u_between"] ** 2)
        builder.add(
            "wall.frag",
            None,
            [PassInput(uniform="u_source", target=source), fit],
            builder.target("walls", of="screen"),
            mesh=Mesh(vertex="wall.vert", vertices=vertices, blend="over"),
            clear=number == 0,
            fixed=place,
        )
        first += _texels(wall)
    if output.walls:
        source = builder.target("walls", of="screen") if walls else NOTHING
    fixed = {
        "u_whole": float(output.cut == Cut()),
        "u_walls": float(bool(output.walls)),
        "u_masks": float(len(masks)),
        "u_first": float(first),
        "u_clear_ground": float(output.ground == "transparent"),
        "u_blends": float(
            any((output.blend.left, output.blend.right, output.blend.top, output.blend.bottom))
        ),
    }
    builder.add("send.frag", None, [PassInput(uniform="u_source", target=source), fit], "screen", fixed=fixed)
    return End(
        output=output.id,
        picture=picture,
        texts=builder.texts,
        targets=[target for name, target in builder.targets.items() if name != NOTHING],
        data=[data],
        passes=builder.passes,
        standing=data.block,
        scale=_scale(output.cut),
        clear_ground=output.ground == "transparent",
    )


def fit_of(output: Output) -> Array:
    """The output's block, float, shape (4 * WIDTH * rows,), but for its first texel, which is a frame's: see
    ``now_of``.
    """
    blend, cut = output.blend, output.cut
    rows: list[tuple[float, ...]] = [
        (0.0, 0.0, 0.0, 0.0),
        (output.level, output.gamma, 0.0, 0.0),
        (cut.x, cut.y, cut.width, cut.height),
        (blend.left, blend.right, blend.top, blend.bottom),
        (blend.power, blend.gamma, 0.0, 0.0),
    ]
    for wall in shown_walls(output):
        rows += [(*row, 0.0) for row in homography(wall.corners).tolist()]
        rows.append((wall.cut.x, wall.cut.y, wall.cut.width, wall.cut.height))
        rows += [(x, y, 0.0, 0.0) for x, y in wall.grid.points]
    for mask in shown_masks(output):
        rows.append((float(len(mask.points)), mask.soft, float(mask.keeps == "inside"), 0.0))
        rows += [(x, y, 0.0, 0.0) for x, y in mask.points]
    block = np.zeros((-(-len(rows) // WIDTH) * WIDTH, 4))
    block[: len(rows)] = rows
    return block.ravel()


def now_of(output: Output, picture: Array) -> tuple[float, ...]:
    """The first texel of the output's block. picture: the frame's block of that name."""
    still = float(picture[0] or output.frozen)
    return still, float(picture[1]), float(picture[2]), 0.0 if output.black else 1.0


def shown_walls(output: Output) -> list[Wall]:
    """Its walls that are on."""
    return [wall for wall in output.walls if wall.on]


def shown_masks(output: Output) -> list[Mask]:
    """Its masks that are on."""
    return [mask for mask in output.masks if mask.on]


def _place(wall: Wall, first: int) -> dict[str, float]:
    grid = wall.grid
    straight = grid.points == regular(grid.columns, grid.rows)
    return {
        "u_first": float(first),
        "u_columns": 2.0 if straight else float(grid.columns),
        "u_rows": 2.0 if straight else float(grid.rows),
        "u_between": 1.0 if straight else float(BETWEEN),
        "u_straight": float(straight),
    }


def _texels(wall: Wall) -> int:
    return 4 + len(wall.grid.points)


def _scale(cut: Cut) -> tuple[float, float]:
    """How many times the output's width and height the whole picture has, so that the cut is not
    stretched.
    """
    less = min(1.0, (MOST_PICTURE * cut.width * cut.height) ** 0.5)
    return less / cut.width, less / cut.height

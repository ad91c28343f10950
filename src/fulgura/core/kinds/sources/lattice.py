"""Solids in rows."""

from typing import Literal

from fulgura.core.kinds.drawn import Mesh
from fulgura.core.kinds.framed import Framed
from fulgura.core.kinds.parameters import Angle, Count, LayerRef, Length, Ratio, param

COLUMNS, ROWS = 24, 14


class Lattice(Framed):
    """Many solids in rows; a picture or the bands make each grow, rise, turn and shine."""

    shader = "solid.frag"
    data = ("spectrum",)
    mesh = Mesh("lattice.vert", vertices=288, instances=COLUMNS * ROWS, blend="none", depth=True)

    solid: Literal["box", "ball", "tetrahedron", "plane"] = param(
        "box", help="What stands at each place", group="Form"
    )
    form: Literal["grid", "ring"] = param("grid", help="How the places lie", group="Form")
    columns: Count = param(16.0, 1.0, float(COLUMNS), "Places in a row", group="Form")
    rows: Count = param(9.0, 1.0, float(ROWS), "Rows", group="Form")
    solid_size: Length = param(0.075, 0.005, 0.6, "Size of one", group="Form", title="Size")
    by: Literal["bands", "picture"] = param(
        "bands",
        help="What moves them: the spectrum from left to right, or a layer's picture",
        group="Form",
        title="Moved by",
    )
    picture: LayerRef = param(
        "", help="The layer whose picture moves them", group="Form", when=("by", "picture")
    )
    grow: Ratio = param(0.6, help="How much smaller they are where it is dark", group="Form")
    lift: Length = param(0.5, -2.0, 2.0, "How far they come forward where it is bright", group="Form")
    twirl: Angle = param(90.0, -360.0, 360.0, "How far they turn where it is bright", group="Form")
    skin: Ratio = param(0.6, help="How much of the picture's own colour they take", group="Light")
    glow: Ratio = param(0.5, help="How much they shine by themselves where it is bright", group="Light")

"""Solids in rows."""

from collections.abc import Collection, Mapping
from dataclasses import replace
from typing import Any, Literal

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds.drawn import Mesh, Own
from fulgura.core.kinds.framed import Framed
from fulgura.core.kinds.parameters import Angle, Count, Decibels, LayerRef, Length, Ratio, Seconds, param
from fulgura.core.kinds.providers import TickInput
from fulgura.core.kinds.solids import SOLIDS, VERTICES
from fulgura.core.kinds.sounded import SpectrumDrawn
from fulgura.core.kinds.spectra import FollowedSpectrum, as_bytes

COLUMNS, ROWS = 24, 14


class Columns:
    """A level for each column, bytes, shape (COLUMNS,)."""

    def __init__(self, seed: int) -> None:
        self.spectrum = FollowedSpectrum()

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        count = int(np.clip(round(values["columns"]), 1, COLUMNS))
        levels = self.spectrum.step(values, heard, count)
        return as_bytes(levels, COLUMNS)


class Lattice(SpectrumDrawn, Framed):
    """Many solids in rows; a picture or the bands make each grow, rise, turn and shine."""

    shader = "solid.frag"
    own = Own("level", COLUMNS, Columns)
    mesh = Mesh("lattice.vert", vertices=max(VERTICES), instances=COLUMNS * ROWS, blend="none", depth=True)

    solid: Literal[*SOLIDS] = param("box", help="What stands at each place", group="Form")  # type: ignore[valid-type]
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
    floor: Decibels = param(-90.0, -100.0, -6.0, "What is softer is not shown", group="Sound")
    fall: Seconds = param(0.0, 0.0, 8.0, "How long all takes to fall to nothing; 0 at once", group="Sound")
    grow: Ratio = param(0.6, help="How much smaller they are where it is dark", group="Form")
    lift: Length = param(0.5, -2.0, 2.0, "How far they come forward where it is bright", group="Form")
    twirl: Angle = param(90.0, -360.0, 360.0, "How far they turn where it is bright", group="Form")
    skin: Ratio = param(0.6, help="How much of the picture's own colour they take", group="Light")
    glow: Ratio = param(0.5, help="How much they shine by themselves where it is bright", group="Light")

    @classmethod
    def mesh_of(cls, values: dict[str, Any], moved: Collection[str]) -> Mesh:
        vertices = max(VERTICES) if "solid" in moved else VERTICES[SOLIDS.index(values["solid"])]
        return replace(cls.mesh, vertices=vertices)

"""Solids that a picture places."""

from collections.abc import Collection, Mapping
from dataclasses import replace
from typing import Any, Literal

from fulgura.core.kinds.drawn import Mesh
from fulgura.core.kinds.framed import Framed
from fulgura.core.kinds.parameters import Angle, Count, LayerRef, Length, Ratio, param
from fulgura.core.kinds.ramps import Ramped
from fulgura.core.kinds.solids import SOLIDS, VERTICES

MOST_SOLIDS = 20_000
ECHOES = (2, 4, 6, 8)
"""How many pictures ago those places were that trail."""


class Placed(Ramped, Framed):
    """Many solids, each where a pixel of a picture says: its red, green and blue are across, up and near."""

    title = "Placed solids"
    shader = "placed.frag"
    mesh = Mesh("placed.vert", vertices=max(VERTICES), depth=True, blend="none", counted="count")
    counts = ("count", "echoes")

    places: LayerRef = param("", help="The layer whose picture says where they are", group="Places")
    by: Literal["red, green, blue", "brightness"] = param(
        "red, green, blue",
        help="What of it: its colours, as across, up and near; or its brightness, which lifts a flat field",
        group="Places",
    )
    count: Count = param(
        2_000.0, 1.0, float(MOST_SOLIDS), "How many there are", group="Places", useful=5_000.0
    )
    spread_x: Length = param(
        1.6, 0.0, 4.0, "How far they lie apart from left to right", group="Places", title="Across"
    )
    spread_y: Length = param(1.0, 0.0, 4.0, "How far from bottom to top", group="Places", title="Up")
    spread_z: Length = param(1.0, 0.0, 4.0, "How far from far to near", group="Places", title="Near")
    echoes: Count = param(
        0.0, 0.0, float(len(ECHOES)), "How often the last places are seen again, darker", group="Places"
    )
    solid: Literal[*SOLIDS] = param("box", help="What each is", group="Form")  # type: ignore[valid-type]
    solid_size: Length = param(0.03, 0.001, 0.6, "Size of one", group="Form", title="Size")
    sizes: LayerRef = param(
        "", help="A layer: where it is dark they are small", group="Form", empty="all alike"
    )
    twirl: Angle = param(0.0, -360.0, 360.0, "How they are turned", group="Form", title="Turn")
    turns: LayerRef = param(
        "", help="A layer: where it is dark they turn less", group="Form", empty="all alike", title="Turns by"
    )
    through: Literal["not at all", "light adds up"] = param(
        "not at all", help="Whether what is behind shines through them", group="Light", title="Seen through"
    )
    skins: LayerRef = param(
        "", help="A layer that lends each its colour", group="Light", empty="none", title="Colour of"
    )
    opacity: Ratio = param(1.0, help="How much of their light is seen", group="Light")
    glow: Ratio = param(0.3, help="How much they shine by themselves", group="Light")

    @classmethod
    def past_of(cls, values: dict[str, Any], moved: Collection[str]) -> Mapping[str, tuple[int, ...]]:
        echoes = len(ECHOES) if "echoes" in moved else int(values["echoes"] + 0.5)
        return {"places": ECHOES[:echoes]}

    @classmethod
    def mesh_of(cls, values: dict[str, Any], moved: Collection[str]) -> Mesh:
        vertices = max(VERTICES) if "solid" in moved else VERTICES[SOLIDS.index(values["solid"])]
        added = values["through"] == "light adds up"
        return replace(cls.mesh, vertices=vertices, blend="add" if added else "none", depth=not added)

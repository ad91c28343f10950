from typing import Literal

from fulgura.core.kinds.drawn import Mesh, Own, Source
from fulgura.core.kinds.parameters import (
    Angle,
    Colour,
    Count,
    Factor,
    LayerRef,
    Length,
    Number,
    PerSecond,
    Ratio,
    Seconds,
    SignalRef,
    param,
)
from fulgura.core.kinds.ramps import Ramped
from fulgura.core.kinds.swarm import COLOURED, LINE, MOST, SHAPES, Swarm


class Particles(Ramped, Source):
    """Many small lights: born from a shape, some all the time and some at each hit; forces move them until
    their life is over.
    """

    shader = "sprite.frag"
    own = Own("cells", LINE, Swarm)
    mesh = Mesh("sprite.vert", vertices=6, each=True)
    trails = True
    data = ("palette",)

    rate: PerSecond = param(400.0, 0.0, 20_000.0, "How many are born all the time", group="Birth")
    burst_by: SignalRef = param(
        "", help="Each hit of this gives birth to a burst; nothing here: none", group="Birth"
    )
    burst: Count = param(400.0, 0.0, 10_000.0, "How many a hit gives birth to", group="Birth")
    most: Count = param(6_000.0, 1.0, float(MOST), "Never more than these at once", group="Birth")
    begins: Literal[*SHAPES] = param(  # type: ignore[valid-type]
        "disc", help="The shape that they are born from", group="Birth", title="Born from"
    )
    picture: LayerRef = param(
        "", help="Born where this layer is bright", group="Birth", when=("begins", "bright parts")
    )
    extent: Length = param(0.25, 0.0, 2.0, "Size of that shape", group="Birth")
    x: Length = param(0.0, -2.0, 2.0, "Where it is, to the right", group="Birth", title="Across")
    y: Length = param(0.0, -1.0, 1.0, "Where it is, upward", group="Birth", title="Up")
    second: Ratio = param(
        0.0,
        help="Above a half they are born from the second shape: give it a signal",
        group="Second birth",
        title="Second shape",
    )
    begins_2: Literal[*SHAPES[:-1]] = param(  # type: ignore[valid-type]
        "ball", help="The second shape", group="Second birth", title="Born from"
    )
    extent_2: Length = param(0.6, 0.0, 2.0, "Size of it", group="Second birth", title="Extent")
    x_2: Length = param(0.0, -2.0, 2.0, "Where it is, to the right", group="Second birth", title="Across")
    y_2: Length = param(0.0, -1.0, 1.0, "Where it is, upward", group="Second birth", title="Up")
    life: Seconds = param(2.5, 0.05, 20.0, "How long one lives at most", group="Birth")
    aim: Angle = param(90.0, -180.0, 180.0, "Direction in which they leave; 90 is up", group="Motion")
    spread: Angle = param(180.0, 0.0, 180.0, "How far to both sides of it; 180 is all around", group="Motion")
    speed: Length = param(0.25, 0.0, 4.0, "Picture half-heights a second", group="Motion")
    gravity: Number = param(0.0, -4.0, 4.0, "Pull downward", group="Motion")
    drag: PerSecond = param(0.4, 0.0, 8.0, "How fast they slow down", group="Motion")
    swirl: Number = param(0.5, 0.0, 6.0, "How hard eddies carry them", group="Motion")
    swirl_size: Length = param(0.8, 0.1, 4.0, "How large the eddies are", group="Motion")
    pull: Number = param(0.0, -4.0, 4.0, "Pull to a point; below 0 it pushes away", group="Motion")
    pull_x: Length = param(
        0.0, -2.0, 2.0, "Where that point is, to the right", group="Motion", title="Pull across"
    )
    pull_y: Length = param(0.0, -1.0, 1.0, "Where that point is, upward", group="Motion", title="Pull up")
    depth: Ratio = param(0.4, help="How much farther ones are smaller", group="Motion")
    sprite: Literal["disc", "spark", "square", "ring", "streak"] = param(
        "disc", help="What one looks like", group="Light"
    )
    sprite_size: Length = param(0.02, 0.0, 0.5, "Size of one", group="Light")
    end_size: Factor = param(0.4, 0.0, 6.0, "Its size at the end of its life, of that", group="Light")
    coloured_by: Literal[*COLOURED] = param(  # type: ignore[valid-type]
        "its life",
        help="its life: as below; else a colour of the palette, by chance or another for each burst",
        group="Light",
    )
    tint: Colour = param("#ffd84d", help="Colour at birth", group="Light")
    end_tint: Colour = param("#c2416b", help="Colour at the end of life", group="Light")
    level: Number = param(0.8, 0.0, 4.0, "Brightness", group="Light")
    trail: Ratio = param(0.0, 0.0, 0.98, "How much of the last picture stays each frame", group="Light")

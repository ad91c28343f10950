"""Where the demo's picture goes: the wall of the hall, the lighthouse's tower, and three overlays for a
stream.
"""

from fulgura.core.show.outputs import Cut, Mask, Output, Wall
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route

HALL = Output(id="main", name="Hall", address="main")
TOWER = Output(
    id="tower",
    name="Tower",
    address="tower",
    width=1024,
    height=1024,
    walls=[
        Wall(
            id="wall-1",
            name="Seaward face",
            cut=Cut(x=0.0, width=0.5),
            corners=[(0.22, 0.16), (0.5, 0.06), (0.5, 0.94), (0.1, 0.86)],
        ),
        Wall(
            id="wall-2",
            name="Landward face",
            cut=Cut(x=0.5, width=0.5),
            corners=[(0.5, 0.06), (0.78, 0.16), (0.9, 0.86), (0.5, 0.94)],
        ),
    ],
    masks=[
        Mask(
            id="mask-1",
            name="Door",
            keeps="outside",
            soft=0.02,
            points=[(0.44, 0.72), (0.56, 0.72), (0.56, 1.0), (0.44, 1.0)],
        )
    ],
)


def _overlay(id: str, name: str, look: str) -> Output:
    return Output(id=id, name=name, address=id, look=look, ground="transparent")


def outputs() -> list[Output]:
    """All of them."""
    return [
        HALL,
        TOWER,
        _overlay("bars", "Stream: bars", "bar-frame"),
        _overlay("line", "Stream: line", "keepers-line"),
        _overlay("pulse", "Stream: pulse", "harbour-pulse"),
    ]


def routes() -> list[Route]:
    """What moves the overlays: the edge comes with the kick, and goes slowly enough to please the eye."""
    fades = Part(id="pulse", kind="pulse", values={"decay": 420.0})
    return [
        Route(
            id="pulse-comes",
            signal="hit-kick",
            targets=["pulse-ring-mix.opacity"],
            shapers=[fades],
            low=0.05,
            high=0.75,
        )
    ]

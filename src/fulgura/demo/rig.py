"""The rig of the demo: twelve lamps along the gallery rail, four washes at the foot, two bars at the door,
three ladders up the tower.
"""

from math import pi, sin
from typing import Any

from fulgura.core.show.lights import Chase, Group, LaidColour, Lamp, LightSettings, Palette, Place, Room, Run
from fulgura.core.show.part import Part
from fulgura.core.show.patch import pack
from fulgura.core.show.routes import Route

RAIL, FOOT, LADDER = 12, 4, 6
LADDERS = ("low", "mid", "high")
AMBER, EMBER, SEA, DEEP, PALE, ICE, KELP, ROSE = (
    "#ff9a3d",
    "#ff4a1c",
    "#1fb6c9",
    "#1b3fd6",
    "#cfe0ff",
    "#7cc4ff",
    "#2fbf5b",
    "#ff3f8e",
)


def _lamp(id: str, number: int, name: str, kind: str, place: Place, part: str, **more: Any) -> Lamp:
    values = more.pop("values", {})
    fixture = Part(id=part, family="fixture", kind=kind, values=values)
    return Lamp(id=id, number=number, name=name, place=place, fixture=fixture, **more)


def _rail() -> list[Lamp]:
    """On the gallery, in a bow round the lamp room, leaning down along the wall."""
    found = []
    for i in range(RAIL):
        share = i / (RAIL - 1)
        place = Place(
            x=round(-5.2 + 10.4 * share, 2), y=round(6.6 - 1.6 * sin(pi * share), 2), z=10.2, lean=14.0
        )
        name, values = f"Gallery rail {i + 1}", {"level": 0.1, "colour": AMBER}
        found.append(
            _lamp(f"gallery-{i + 1}", i + 1, name, "rgbw-lamp", place, f"lamp-{i + 1}", values=values)
        )
    return found


def _foot() -> list[Lamp]:
    """Washes on the ground that look up the tower."""
    found = []
    for i, x in enumerate((-6.4, -2.6, 2.6, 6.4)):
        aimed = {"level": 0.35, "colour": DEEP, "pan": 0.0, "tilt": round(-3.0 * x, 1), "zoom": 18.0}
        place = Place(x=x, y=3.0, z=0.4, lean=180.0)
        found.append(
            _lamp(
                f"foot-{i + 1}", 21 + i, f"Foot {i + 1}", "moving-wash", place, f"wash-{i + 1}", values=aimed
            )
        )
    return found


def _door() -> list[Lamp]:
    return [
        _lamp(
            f"door-{i + 1}",
            31 + i,
            f"Door {side}",
            "pixel-bar",
            Place(x=x, y=5.0, z=1.4, lean=90.0, roll=-90.0),
            f"bar-{i + 1}",
            values={"level": 0.25, "colour": SEA},
        )
        for i, (side, x) in enumerate((("left", -0.8), ("right", 0.8)))
    ]


def _ladders() -> list[Lamp]:
    found = []
    for column, (name, x) in enumerate(zip(LADDERS, (-3.3, 0.0, 3.3))):
        for rung in range(LADDER):
            number = 41 + column * LADDER + rung
            place = Place(x=x, y=5.6, z=round(3.6 + 0.95 * rung, 2), lean=90.0)
            label = f"Ladder {name} {rung + 1}"
            found.append(
                _lamp(
                    f"ladder-{name}-{rung + 1}", number, label, "rgb-lamp", place, f"rung-{name}-{rung + 1}"
                )
            )
    return found


def lamps() -> list[Lamp]:
    """All lamps, packed one behind the other."""
    hung = [*_rail(), *_foot(), *_door(), *_ladders()]
    return [
        lamp.model_copy(update={"universe": universe, "address": address})
        for lamp, (universe, address) in zip(hung, pack(hung, 1, 1))
    ]


def settings() -> LightSettings:
    """The room: the tower's wall in its middle."""
    wall = Place(x=0.0, y=6.0, z=3.2)
    return LightSettings(
        room=Room(width=16.0, depth=9.0, height=11.0, wall=wall, wall_width=9.0, wall_height=6.0)
    )


def _group(id: str, name: str, members: list[Lamp], **more: Any) -> Group:
    part = Part(id=id, family="group", kind="light-group")
    return Group(id=id, name=name, members=[lamp.id for lamp in members], part=part, **more)


def groups() -> list[Group]:
    """The rail, the foot, the door by its pixels, each ladder."""
    ladders = _ladders()
    lifted = {"shape": "points", "points": [(0.0, 0.0), (0.2, 0.45), (1.0, 1.0)]}
    return [
        _group("rail", "Rail", _rail()),
        _group(
            "foot", "Foot", _foot(), answer=Part(id="answer", family="answer", kind="answer", values=lifted)
        ),
        _group("door", "Door", _door(), pixels=True),
        *(
            _group(f"ladder-{name}", f"Ladder {name}", ladders[LADDER * i : LADDER * (i + 1)])
            for i, name in enumerate(LADDERS)
        ),
    ]


def _colours(id: str, name: str, *colours: str) -> Palette:
    return Palette(id=id, name=name, colours=list(colours))


def _aimed(id: str, name: str, *poses: tuple[float, float, float]) -> Palette:
    names = ("pan", "tilt", "zoom")
    held = {f"foot-{i + 1}": dict(zip(names, pose)) for i, pose in enumerate(poses)}
    return Palette(id=id, name=name, kind="position", lamps=held)


def palettes() -> list[Palette]:
    """Seven of colour, three of where the washes look."""
    return [
        _colours("lamplight", "Lamplight", AMBER, EMBER),
        _colours("deep-water", "Deep water", DEEP, SEA),
        _colours("fog", "Fog", PALE, ICE),
        _colours("storm", "Storm", "#ffffff", ICE, DEEP),
        _colours("kelp", "Kelp", KELP, SEA),
        _colours("signal-fire", "Signal fire", EMBER, ROSE),
        _colours("harbour", "Harbour", AMBER, ROSE, SEA),
        _aimed(
            "up-the-tower",
            "Up the tower",
            (0.0, 19.0, 18.0),
            (0.0, 8.0, 18.0),
            (0.0, -8.0, 18.0),
            (0.0, -19.0, 18.0),
        ),
        _aimed(
            "fanned", "Fanned", (0.0, -38.0, 12.0), (0.0, -14.0, 12.0), (0.0, 14.0, 12.0), (0.0, 38.0, 12.0)
        ),
        _aimed(
            "crossed", "Crossed", (0.0, 44.0, 24.0), (0.0, 30.0, 24.0), (0.0, -30.0, 24.0), (0.0, -44.0, 24.0)
        ),
    ]


def _chase(
    id: str, name: str, on: list[str], running: bool, values: dict[str, Any], colours: list[LaidColour]
) -> Chase:
    runs = [
        Run(
            id=f"{id}-{group}",
            group=group,
            part=Part(id=f"{id}-{group}", family="chase-run", kind="chase-run", values={"running": running}),
        )
        for group in on
    ]
    part = Part(id=id, family="chase", kind="chase", values=values)
    return Chase(id=id, name=name, part=part, colours=colours, runs=runs)


def chases() -> list[Chase]:
    """The ladders that fill, a wave along the rail, a beam that runs round the door, sparks."""
    meter = [
        LaidColour(at=0.0, colour=KELP),
        LaidColour(at=0.5, colour="#ffc400"),
        LaidColour(at=0.8, colour="#ff2a12"),
    ]
    rail = {
        "shape": "wave",
        "driven": "beats",
        "beats": 4.0,
        "width": 5.0,
        "how": "highest",
        "way": "from the middle",
    }
    door = {
        "shape": "pulse",
        "driven": "beats",
        "beats": 2.0,
        "width": 5.0,
        "fade_out": 7.0,
        "way": "there and back",
    }
    sparks = {
        "shape": "sparkle",
        "driven": "time",
        "seconds": 2.4,
        "width": 1.5,
        "fade_out": 3.0,
        "how": "highest",
    }
    return [
        _chase(
            "ladders",
            "Ladders",
            [f"ladder-{name}" for name in LADDERS],
            True,
            {"shape": "fill", "driven": "value"},
            meter,
        ),
        _chase("swell", "Swell", ["rail"], True, rail, []),
        _chase("door-light", "Door light", ["door"], True, door, []),
        _chase("sparks", "Sparks", ["rail"], False, sparks, [LaidColour(at=0.0, colour="#ffffff")]),
    ]


def routes() -> list[Route]:
    """Each band fills its ladder; low lifts the washes one after the other."""

    def smooth(attack: float, release: float) -> Part:
        return Part(id="smooth", kind="smooth", values={"attack": attack, "release": release})

    tops = {"low": 0.5, "mid": 0.28, "high": 0.16}
    filling = [
        Route(
            id=f"fill-{name}",
            signal=f"band-{name}",
            targets=[f"ladders-ladder-{name}.progress"],
            low=0.0,
            high=1.0,
            shapers=[Part(id="range", kind="range", values={"low": 0.01, "high": top}), smooth(5, 160)],
        )
        for name, top in tops.items()
    ]
    swelling = Route(
        id="foot-low",
        signal="band-low",
        targets=["foot.level"],
        low=0.12,
        high=0.9,
        shapers=[
            Part(id="range", kind="range", values={"low": 0.05, "high": 0.6}),
            smooth(20, 300),
            Part(id="spread", kind="spread", values={"by": "beats", "beats": 0.5, "way": "from the middle"}),
        ],
    )
    swaying = Route(
        id="foot-sway",
        signal="modulator-tide",
        targets=["foot.pan"],
        low=-24.0,
        high=24.0,
        shapers=[Part(id="spread", kind="spread", values={"by": "beats", "beats": 4.0})],
    )
    return [*filling, swelling, swaying]

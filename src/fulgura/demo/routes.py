"""What moves the looks of *Night at Vesper Point*."""

from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route

ORDER = [
    "quay-glows",
    "lamp-swells",
    "fog-drifts",
    "bells-ring",
    "rose-turns",
    "water-nears",
    "wick-burns",
    "moths-circle",
    "answer-turns",
    "stones-lift",
    "wall-turns",
    "wall-catches",
    "name-shakes",
    "tower-twists",
    "rim-breathes",
    "bolt-strikes",
    "storm-flashes",
    "cloud-stops",
    "swell-rises",
    "reef-sails",
    "reef-breathes",
    "globe-turns",
    "globe-swells",
]
"""In which they stand on the desk: by their looks."""


def routes() -> list[Route]:
    """What moves the demo's looks."""
    return sorted((*_of_low(), *_of_tide(), *_of_hits()), key=lambda route: ORDER.index(route.id))


def _pulse(decay: float) -> Part:
    return Part(id="pulse", kind="pulse", values={"decay": decay})


def _with_low(id: str, target: str, low: float, high: float) -> Route:
    fitted = Part(id="range", kind="range", values={"low": 0.04, "high": 0.62})
    soft = Part(id="smooth", kind="smooth", values={"attack": 20.0, "release": 260.0})
    return Route(id=id, signal="band-low", targets=[target], low=low, high=high, shapers=[fitted, soft])


def _of_low() -> list[Route]:
    return [
        _with_low("quay-glows", "quay-bloom.amount", 0.6, 2.4),
        _with_low("lamp-swells", "lamp-source.width", 0.1, 0.32),
        _with_low("wick-burns", "wick-source.width", 0.08, 0.3),
        _with_low("stones-lift", "stones-source.lift", 0.15, 1.1),
        _with_low("name-shakes", "name-push.amount", 0.015, 0.1),
        _with_low("rim-breathes", "rim-source.radius", 0.6, 0.95),
        _with_low("swell-rises", "swell-source.height", 0.2, 0.7),
        _with_low("reef-breathes", "shoal-source.solid_size", 0.009, 0.024),
        _with_low("globe-swells", "globe-source.height", 0.18, 0.5),
    ]


def _of_tide() -> list[Route]:
    return [
        Route(id="fog-drifts", signal="modulator-tide", targets=["mist-source.contrast"], low=1.2, high=2.2),
        Route(
            id="rose-turns", signal="modulator-tide", targets=["petal-fold.rotation"], low=-40.0, high=40.0
        ),
        Route(id="water-nears", signal="modulator-tide", targets=["water-source.framing"], low=0.0, high=0.6),
        Route(
            id="moths-circle", signal="modulator-tide", targets=["moths-source.pull_x"], low=-0.9, high=0.9
        ),
        Route(
            id="answer-turns", signal="modulator-tide", targets=["answer-mix.rotation"], low=-60.0, high=60.0
        ),
        Route(id="wall-turns", signal="modulator-tide", targets=["stones-source.framing"], low=0.0, high=1.0),
        Route(id="tower-twists", signal="modulator-tide", targets=["tower-bend.amount"], low=-0.5, high=0.5),
        Route(id="reef-sails", signal="modulator-tide", targets=["shoal-source.framing"], low=0.0, high=1.0),
        Route(id="globe-turns", signal="modulator-tide", targets=["globe-source.framing"], low=0.0, high=1.0),
    ]


def _of_hits() -> list[Route]:
    return [
        Route(
            id="bells-ring",
            signal="hit-kick",
            targets=[f"bells-source.level_{n}" for n in range(1, 6)],
            low=0.0,
            high=1.0,
            shapers=[Part(id="cycle", kind="cycle"), _pulse(700.0)],
        ),
        Route(
            id="wall-catches",
            signal="hit-snare",
            targets=["wall-stutter.hold"],
            low=0.0,
            high=0.8,
            shapers=[_pulse(600.0)],
        ),
        Route(
            id="bolt-strikes",
            signal="hit-snare",
            targets=["bolt-source.level"],
            low=0.0,
            high=0.9,
            shapers=[_pulse(420.0)],
        ),
        Route(
            id="storm-flashes",
            signal="hit-kick",
            targets=["storm-flash.amount"],
            low=0.0,
            high=0.3,
            shapers=[_pulse(380.0)],
        ),
        Route(
            id="cloud-stops",
            signal="hit-kick",
            targets=["cloud-freeze.hold"],
            low=0.0,
            high=0.9,
            shapers=[_pulse(500.0)],
        ),
    ]

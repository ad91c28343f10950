"""The demo show *Night at Vesper Point*, and the small show that a new one starts from."""

from fulgura.core.show.commands.band_sets import BAND_PRESETS, USUAL, usual_drums
from fulgura.core.show.document import Show
from fulgura.core.show.inputs import Input, TrackInput
from fulgura.core.show.lights import Lamp
from fulgura.core.show.looks import Cue, Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Made, Route
from fulgura.demo.looks import looks, routes
from fulgura.demo.media import BEAM, TOWER

BANDS = BAND_PRESETS[USUAL]
HITS = usual_drums(BANDS)


def _smooth(attack: float, release: float) -> Part:
    return Part(id="smooth", kind="smooth", values={"attack": attack, "release": release})


def _range(low: float, high: float) -> Part:
    return Part(id="range", kind="range", values={"low": low, "high": high})


def _lantern() -> Look:
    return Look(
        id="lantern-tunnel",
        name="Lantern tunnel",
        layers=[
            Layer(
                id="lantern",
                name="Lantern ring",
                source=Part(
                    id="ring",
                    kind="ring",
                    values={
                        "radius": 0.3,
                        "width": 0.02,
                        "sides": 8.0,
                        "tint": "#ffb057",
                        "glow": 0.06,
                        "level": 0.62,
                        "ripple": 0.05,
                    },
                ),
                effects=[
                    Part(
                        id="feedback",
                        kind="feedback",
                        values={"scale": 1.03, "turn": 1.4, "fade": 0.9, "hue": -1.0, "up": 0.1},
                    )
                ],
                mix=Part(id="lantern-mix", kind="over"),
            )
        ],
        finish=[
            Part(
                id="finish",
                kind="grade",
                values={"exposure": 0.2, "contrast": 1.15, "saturation": 0.95, "vignette": 0.4},
            )
        ],
    )


def demo_show() -> Show:
    """*Night at Vesper Point* as it opens for a newcomer."""
    return Show(
        name="Night at Vesper Point",
        inputs=[Input(use="track", track=TrackInput(track="lamp-room"))],
        bands=BANDS,
        hits=HITS,
        looks=[_lantern()],
        look="lantern-tunnel",
        routes=[
            Route(
                id="r1",
                signal="band-low",
                targets=["ring.radius"],
                low=0.22,
                high=0.62,
                shapers=[_range(0.04, 0.62), _smooth(10, 180)],
            ),
            Route(
                id="r2",
                signal="hit-kick",
                targets=["lamp-1.level"],
                low=0.06,
                high=1.0,
                shapers=[Part(id="pulse", kind="pulse", values={"decay": 420.0})],
            ),
            Route(
                id="r3",
                signal="band-high",
                targets=["feedback.hue"],
                low=-1.0,
                high=-7.0,
                shapers=[_range(0.01, 0.16), _smooth(5, 240)],
            ),
            Route(id="r4", signal="mover-tide", targets=["feedback.turn"], low=0.4, high=2.4),
        ],
        movers=[Made(id="tide", name="Tide", part=Part(id="mover-tide", kind="lfo", values={"beats": 16.0}))],
        lamps=[
            Lamp(
                id="gallery-1",
                name="Gallery rail 1",
                universe=1,
                address=1,
                fixture=Part(id="lamp-1", kind="rgb-lamp", values={"level": 0.1, "colour": "#ff8a3d"}),
            )
        ],
    )


def gallery_show() -> Show:
    """The same with every look of the night: what the demo is written with."""
    show = demo_show()
    return show.model_copy(
        update={
            "looks": [*show.looks, *looks()],
            "cues": CUES,
            "routes": [*show.routes, *routes()],
            "pictures": [TOWER],
            "clips": [BEAM],
        }
    )


CUES = [
    Cue(id=f"cue-{number}", name=name, look=look, over_beats=beats)
    for number, (name, look, beats) in enumerate(
        (
            ("Doors", "fog-bank", 0.0),
            ("Lamp lit", "lantern-tunnel", 16.0),
            ("The clerks", "name-board", 4.0),
            ("First swell", "open-sea", 8.0),
            ("Storm", "storm-glass", 1.0),
            ("Slack water", "slack-figures", 16.0),
            ("Last light", "harbour-lights", 8.0),
        ),
        start=1,
    )
]
"""The course of the night."""


def starter_show(name: str) -> Show:
    """What a new show starts from: the usual three bands, one look, one lamp, and the house band playing."""
    show = demo_show()
    return show.model_copy(
        update={"name": name, "inputs": [Input(use="house")], "routes": show.routes[:1], "movers": []}
    )

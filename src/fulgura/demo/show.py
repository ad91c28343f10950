"""The demo show *Night at Vesper Point*."""

from fulgura.core.show.commands.band_sets import BAND_PRESETS, USUAL, usual_drums
from fulgura.core.show.document import Show
from fulgura.core.show.inputs import Input, TrackSettings
from fulgura.core.show.part import Part
from fulgura.core.show.routes import NamedModulator, Route
from fulgura.core.show.starter import gallery_lamp, lantern_look, low_on_ring, shipped_palettes
from fulgura.demo import night, rig, sending
from fulgura.demo.looks import looks
from fulgura.demo.looks.matter import ramps
from fulgura.demo.media import BEAM, TOWER
from fulgura.demo.routes import routes

BANDS = BAND_PRESETS[USUAL]
HITS = usual_drums(BANDS)


def _smooth(attack: float, release: float) -> Part:
    return Part(id="smooth", kind="smooth", values={"attack": attack, "release": release})


def _range(low: float, high: float) -> Part:
    return Part(id="range", kind="range", values={"low": low, "high": high})


def demo_show() -> Show:
    """*Night at Vesper Point* as it opens for a newcomer."""
    return Show(
        name="Night at Vesper Point",
        inputs=[Input(use="track", track=TrackSettings(track="lamp-room"))],
        bands=BANDS,
        hits=HITS,
        looks=[lantern_look()],
        look="lantern-tunnel",
        routes=[
            low_on_ring(),
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
            Route(id="r4", signal="modulator-tide", targets=["feedback.rotation"], low=0.4, high=2.4),
        ],
        modulators=[
            NamedModulator(
                id="tide", name="Tide", part=Part(id="modulator-tide", kind="lfo", values={"beats": 16.0})
            )
        ],
        lamps=[gallery_lamp()],
    )


def gallery_show() -> Show:
    """The same with every look of the night: what the demo is written with."""
    show = demo_show()
    return show.model_copy(
        update={
            "looks": [*show.looks, *looks()],
            "cues": night.CUES,
            "songs": night.SONGS,
            "night": night.NIGHT,
            "pages": night.PAGES,
            "modulators": [*show.modulators, night.THUNDER],
            "routes": [*show.routes, *routes(), *rig.routes(), night.thunder_route(), *sending.routes()],
            "lamps": rig.lamps(),
            "groups": rig.groups(),
            "palettes": [*shipped_palettes(), *rig.palettes()],
            "palette": "palette-2",
            "ramps": ramps(),
            "chases": rig.chases(),
            "lights": rig.settings(),
            "outputs": sending.outputs(),
            "pictures": [TOWER],
            "clips": [BEAM],
        }
    )

"""What a new show starts from."""

from fulgura.core.kinds.palettes import SHIPPED
from fulgura.core.show.commands.band_sets import BAND_PRESETS, USUAL, usual_drums
from fulgura.core.show.document import Show
from fulgura.core.show.inputs import Input
from fulgura.core.show.lights import Lamp, Palette
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route


def starter_show(name: str) -> Show:
    """The usual three bands, one look that one route moves, one lamp, and the house band playing."""
    bands = BAND_PRESETS[USUAL]
    return Show(
        name=name,
        inputs=[Input(use="house")],
        bands=bands,
        hits=usual_drums(bands),
        looks=[lantern_look()],
        look="lantern-tunnel",
        routes=[low_on_ring()],
        lamps=[gallery_lamp()],
        palettes=shipped_palettes(),
    )


def shipped_palettes() -> list[Palette]:
    """The palettes that every new show has."""
    return [
        Palette(id=f"palette-{number}", name=name, colours=list(colours))
        for number, (name, colours) in enumerate(SHIPPED.items(), 1)
    ]


def lantern_look() -> Look:
    """A ring of light whose past comes toward you."""
    ring = {
        "radius": 0.3,
        "width": 0.02,
        "sides": 8.0,
        "tint": "#ffb057",
        "glow": 0.06,
        "level": 0.62,
        "ripple": 0.05,
    }
    feedback = {"scale": 1.03, "rotation": 1.4, "fade": 0.9, "hue": -1.0, "y": 0.1, "how": "light adds up"}
    finish = {"exposure": 0.2, "contrast": 1.15, "saturation": 0.95, "vignette": 0.4}
    layer = Layer(
        id="lantern",
        name="Lantern ring",
        source=Part(id="ring", kind="ring", values=ring),
        effects=[Part(id="feedback", kind="feedback", values=feedback)],
        mix=Part(id="lantern-mix", kind="over"),
    )
    return Look(
        id="lantern-tunnel",
        name="Lantern tunnel",
        layers=[layer],
        finish=[Part(id="finish", kind="grade", values=finish)],
    )


def low_on_ring() -> Route:
    """Low sounds widen the ring."""
    shapers = [
        Part(id="range", kind="range", values={"low": 0.04, "high": 0.62}),
        Part(id="smooth", kind="smooth", values={"attack": 10, "release": 180}),
    ]
    return Route(id="r1", signal="band-low", targets=["ring.radius"], low=0.22, high=0.62, shapers=shapers)


def gallery_lamp() -> Lamp:
    """One RGB lamp at the first address."""
    return Lamp(
        id="gallery-1",
        name="Gallery rail 1",
        universe=1,
        address=1,
        fixture=Part(id="lamp-1", kind="rgb-lamp", values={"level": 0.1, "colour": "#ff8a3d"}),
    )

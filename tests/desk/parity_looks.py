"""Looks that show every shader: what both executors are compared by, and what is pinned."""

from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.demo.show import demo_show


def ring(**values) -> Part:
    return Part(id="ring", kind="ring", values={"radius": 0.5, "width": 0.1, **values})


def look(source: Part, effects=(), finish=()) -> Look:
    return Look(
        id="test",
        name="Test",
        layers=[
            Layer(
                id="layer",
                name="Layer",
                source=source,
                effects=list(effects),
                mix=Part(id="mix", kind="over", values={"opacity": 0.8}),
            )
        ],
        finish=list(finish),
    )


def source(kind: str, **values) -> Look:
    return look(Part(id="source", kind=kind, values=values))


def effect(kind: str, **values) -> Look:
    """An effect over something with edges, colours and soft places."""
    below = Layer(
        id="below",
        name="Below",
        source=Part(id="mist", kind="gradient", values={"to_colour": "#c06020"}),
        mix=Part(id="below-mix", kind="over"),
    )
    above = Layer(
        id="above",
        name="Above",
        source=Part(id="ring", kind="ring", values={"radius": 0.5, "width": 0.2, "sides": 5.0, "level": 0.9}),
        mix=Part(id="above-mix", kind="over", values={"blend": "screen"}),
    )
    return Look(
        id="test", name="Test", layers=[below, above], finish=[Part(id="effect", kind=kind, values=values)]
    )


def placed(**values) -> Look:
    """A layer that is moved, turned and cut, on another."""
    edge = effect("edge")
    below, above = edge.layers
    return edge.model_copy(
        update={
            "finish": [],
            "layers": [
                below,
                above.model_copy(update={"mix": Part(id="above-mix", kind="over", values=values)}),
            ],
        }
    )


def masked(*effects: Part) -> Look:
    """A picture that another layer, hidden and drawn later, masks, and another, drawn before, pushes
    about.
    """
    hidden = Layer(
        id="ring-layer",
        name="Ring",
        visible=False,
        source=Part(id="ring", kind="ring", values={"radius": 0.4, "width": 0.4}),
        mix=Part(id="ring-mix", kind="over"),
    )
    shown = Layer(
        id="noise-layer",
        name="Noise",
        source=Part(id="noise", kind="noise", values={"level": 4.0}),
        effects=list(effects),
        mix=Part(id="noise-mix", kind="over", values={"mask": "ring-layer"}),
    )
    return Look(id="test", name="Masked", layers=[hidden, shown])


def with_noise(kind: str, parameter: str, **values: object) -> Look:
    """A source that reads a noise which is not shown itself."""
    noise = Part(id="noise", kind="noise", values={"level": 2.0, "dark": "#203040", "bright": "#ffc080"})
    hidden = Layer(
        id="noise-layer", name="Noise", visible=False, source=noise, mix=Part(id="noise-mix", kind="over")
    )
    shown = Layer(
        id="shown-layer",
        name="Shown",
        source=Part(id="shown", kind=kind, values={parameter: "noise-layer"} | values),
        mix=Part(id="shown-mix", kind="over"),
    )
    return Look(id="test", name="With noise", layers=[hidden, shown])


LOOKS = {
    "shape.frag": source("shape"),
    "gradient.frag": source("gradient", level=4.0),
    "rings.frag": source("rings"),
    "colour.frag": source("solid", tint="#40a0ff"),
    "shape.frag star": source("shape", sides=5.0, star=0.5, filled=False, rotation=10.0),
    "spectrum.frag": source("spectrum", floor=-90.0),
    "spectrum.frag round dots": source("spectrum", style="dots", form="round", floor=-81.0, mirrored=False),
    "spectrum.frag round ends": source(
        "spectrum", floor=-90.0, rounded=True, count=12.0, scale="evenly in Hz"
    ),
    "spectrum.frag line": source("spectrum", style="line", floor=-81.0),
    "waveform.frag": source("waveform", height=2.0),
    "waveform.frag round area": source("waveform", style="mirrored area", form="round", height=2.0),
    "noise.frag": source("noise", level=3.0),
    "noise.frag cells": source("noise", style="cellular", level=3.0),
    "blur.frag": effect("blur"),
    "blur.frag outward": effect("blur", form="outward", radius=0.3),
    "bloom.frag": effect("bloom", threshold=0.2),
    "edge.frag": effect("edge"),
    "gradient_map.frag": effect("gradient-map"),
    "key.frag": effect("key"),
    "channels.frag": effect("channels", outward=0.5),
    "bend.frag": effect("bend"),
    "bend.frag twist": effect("bend", form="twist"),
    "fold.frag": effect("fold", rotation=20.0),
    "repeat.frag": effect("repeat", x=0.2),
    "mosaic.frag": effect("mosaic", cells=30.0, tones=5.0),
    "film.frag": effect("film", grain=0.0),
    "freeze.frag": effect("freeze", hold=0.5),
    "flash.frag": effect("flash", amount=0.4),
    "ring.frag circle": look(ring()),
    "ring.frag polygon bent by the sound": look(ring(sides=5.0, ripple=0.6, rotation=20.0, glow=1.0)),
    "feedback.frag": look(
        ring(width=0.02),
        [
            Part(
                id="feedback",
                kind="feedback",
                values={"rotation": 3.0, "x": 1.0, "hue": 20.0, "how": "light adds up"},
            )
        ],
    ),
    "grade.frag": look(
        ring(level=4.0, glow=1.0),
        finish=[
            Part(
                id="grade",
                kind="grade",
                values={
                    "exposure": 1.0,
                    "contrast": 1.6,
                    "saturation": 0.4,
                    "hue": 90.0,
                    "tint": "#80c0ff",
                    "vignette": 1.0,
                },
            )
        ],
    ),
    "layer.frag and screen.frag": look(ring(tint="#40ff80")),
    "layer.frag placed": placed(
        x=0.3,
        y=-0.2,
        scale=0.7,
        rotation=25.0,
        anchor_x=0.4,
        anchor_y=0.1,
        flip="both",
        wrap="mirror images",
        left=0.1,
        opacity=0.9,
    ),
    "copy.frag": Look(id="test", name="Nothing to show"),
    "the demo look": demo_show().looks[0],
    "beam.frag": source("scope", glow=1.0),
    "beam.frag against time": source("scope", shows="against time", swing=4.0),
    "history.frag": source("history", speed=8.0),
    "history.frag outwards": source("history", speed=8.0, goes="outwards"),
    "sprite.frag": source("particles", rate=20_000.0, sprite_size=0.05),
    "sprite.frag streaks": source(
        "particles", rate=8_000.0, sprite="streak", sprite_size=0.1, speed=2.0, trail=0.8
    ),
    "text.frag": source("text", words="VESPER/POINT 9", spacing=0.2),
    "text.frag outline": source("text", face="even", outline=1.0, wave=0.2, fit=True),
    "solid.frag boxes": source("lattice", azimuth=25.0, elevation=20.0),
    "solid.frag balls": source("lattice", solid="ball", form="ring", parallel=True),
    "focus.frag": source("lattice", azimuth=25.0, elevation=20.0, aperture=0.5, focus=2.6),
    "solid.frag relief": source("relief", form="ball", waves=1.0),
    "camera.frag": source("camera"),
    "mask.frag": masked(),
    "displace.frag": masked(
        Part(id="push", kind="displace", values={"by": "ring-layer", "form": "by its slopes"})
    ),
    "lag.frag": effect("lag"),
    "copy.frag an own shader": source("own-shader"),
    "copy.frag an own effect": effect("own-effect"),
    "stutter.frag": effect("stutter", hold=0.3),
    "voices.frag": source("voices", by="hit-kick", fades=0.0, level=2.0, coloured_by="the palette by hit"),
    "voices.frag filled squares": source(
        "voices",
        by="hit-kick",
        shows="filled",
        sides=4.0,
        end_rotation=90.0,
        scatter=0.4,
        ramp="glass",
        fades=0.0,
        level=2.0,
        radius=0.3,
    ),
    "ramp.frag gradient": source("gradient", rotation=0.0, ramp="deep"),
    "gradient_map.frag by a ramp": effect("gradient-map", ramp="glass"),
    "spectrum.frag tilted, upward, by a ramp": source(
        "spectrum", grows="upward", mirrored=False, count=60.0, tilt=3.0, scale="as heard", ramp="glass"
    ),
    "history.frag fine, by a ramp": source("history", bins=1024.0, span=60.0, speed=8.0, ramp="deep"),
    "waveform.frag of a tenth of a second": source("waveform", height=2.0, window=100.0, gain=6.0),
    "sprite.frag of the palette": source(
        "particles", rate=20_000.0, sprite_size=0.05, coloured_by="the palette by chance"
    ),
    "relief.frag twisted": with_noise(
        "relief", "picture", form="ball", twist=120.0, twist_2=90.0, hollows=0.6, columns=200.0, ramp="glass"
    ),
    "placed.frag": with_noise("placed", "places", count=600.0, by="brightness", solid_size=0.05, glow=1.0),
    "placed.frag light through echoes": with_noise(
        "placed", "places", count=900.0, through="light adds up", echoes=3.0, solid="ball", ramp="deep"
    ),
    "displace.frag in levels": masked(
        Part(id="push", kind="displace", values={"by": "ring-layer", "levels": 4.0, "centre": 0.2})
    ),
    "feedback.frag dark is clear": look(
        ring(width=0.02), [Part(id="feedback", kind="feedback", values={"rotation": 3.0, "see_through": 0.1})]
    ),
}


def how_many(name: str) -> int:
    """Frames to draw: what feeds on its own last picture shows its differences after a while; all else in the
    first.
    """
    return 40 if any(each in name for each in ("feedback", "demo", "voices")) else 8

"""More looks of *Night at Vesper Point*, and what moves them."""

from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.demo.media import BEAM, TOWER

STARS = """// Stars: points on a grid, each where and when it likes.
uniform float many;     // 4 .. 40 = 14  How close they stand
uniform float twinkle;  // 0 .. 1 = 0.7  How much they twinkle
uniform vec3 light;     // #dfe8ff  Their colour

void main() {
  vec2 p = place() * many, cell = floor(p);
  float n = hash(cell);
  vec2 at = fract(p) - 0.5 - 0.35 * (vec2(hash(cell + 7.0), hash(cell + 13.0)) * 2.0 - 1.0);
  float pulse = 1.0 - twinkle * (0.5 + 0.5 * sin(u_time * (1.0 + 3.0 * n) + 40.0 * n));
  float star = smoothstep(0.08, 0.0, length(at)) * step(0.7, n) * pulse * smoothstep(0.3, 0.7, v_uv.y);
  o_colour = vec4(light * star, star);
}
"""
WATER = """// Below a line everything is seen once more, broken in waves.
uniform float line;   // 0 .. 1 = 0.3  Where the water begins
uniform float waves;  // 0 .. 1 = 0.4  How broken it is
uniform float light;  // 0 .. 1 = 0.5  How much comes back

void main() {
  float deep = line - v_uv.y;
  vec2 at = v_uv;
  if (deep > 0.0) {
    at.y = line + deep * 1.6;
    at.x += waves * 0.25 * deep * sin(70.0 * pow(deep + 0.02, 0.6) - u_time * 1.6);
  }
  o_colour = texture(u_source, at) * (deep > 0.0 ? light : 1.0);
}
"""


def _layer(
    id: str,
    name: str,
    source: str,
    values: dict,
    effects: tuple[Part, ...] = (),
    visible: bool = True,
    inside: str = "",
    **mix: object,
) -> Layer:
    return Layer(
        id=id,
        name=name,
        visible=visible,
        inside=inside,
        source=Part(id=f"{id}-source", kind=source, values=values),
        effects=list(effects),
        mix=Part(id=f"{id}-mix", kind="over", values=mix),
    )


def _part(id: str, kind: str, **values: object) -> Part:
    return Part(id=id, kind=kind, values=values)


def looks() -> list[Look]:
    """Eleven of them; with the lantern tunnel they use every source and every effect."""
    return [
        Look(
            id="harbour-lights",
            name="Harbour lights",
            layers=[
                _layer(
                    "dusk",
                    "Dusk",
                    "gradient",
                    {
                        "rotation": 90.0,
                        "from_colour": "#020308",
                        "middle_colour": "#0a1030",
                        "to_colour": "#5a2418",
                        "curve": 1.6,
                        "level": 0.8,
                    },
                ),
                _layer(
                    "haze",
                    "Haze",
                    "noise",
                    {
                        "scale": 1.4,
                        "drift": 0.15,
                        "rotation": 0.0,
                        "dark": "#000000",
                        "bright": "#27345e",
                        "contrast": 2.0,
                    },
                    blend="soft add",
                    opacity=0.6,
                ),
                _layer(
                    "tower-drawn",
                    "Tower",
                    "picture",
                    {"file": TOWER.id, "fit": "whole", "level": 0.75},
                    x=1.15,
                    y=0.17,
                    scale=0.62,
                ),
                _layer(
                    "quay",
                    "Quay",
                    "spectrum",
                    {"count": 40.0, "gap": 0.45, "height": 0.9, "floor": 0.35, "low_colour": "#ffb057"},
                    (_part("quay-bloom", "bloom", threshold=0.2, radius=0.25, amount=1.2),),
                    blend="add",
                    y=-0.02,
                ),
            ],
            finish=[_part("harbour-water", "own-effect", code=WATER, knob_1=0.3, knob_2=0.4, knob_3=0.5)],
        ),
        Look(
            id="fog-bank",
            name="Fog bank",
            layers=[
                _layer(
                    "mist",
                    "Mist",
                    "noise",
                    {
                        "scale": 1.1,
                        "drift": 0.35,
                        "rotation": 20.0,
                        "contrast": 1.5,
                        "dark": "#05060c",
                        "bright": "#6f79a0",
                        "detail": 5.0,
                    },
                ),
                _layer(
                    "sweep",
                    "Sweep",
                    "clip",
                    {"file": BEAM.id, "beats": 8.0, "level": 1.1},
                    blend="screen",
                    x=-0.45,
                    scale=1.5,
                ),
                _layer(
                    "lamp",
                    "Lamp",
                    "ring",
                    {
                        "radius": 0.0,
                        "width": 0.16,
                        "softness": 0.9,
                        "glow": 0.5,
                        "tint": "#fff0c8",
                        "level": 1.6,
                    },
                    blend="add",
                    x=-0.45,
                    y=0.24,
                ),
            ],
            finish=[
                _part(
                    "fog-map", "gradient-map", dark="#060714", middle="#35426e", bright="#ffe9c0", amount=0.7
                ),
                _part("fog-film", "film", lines=200.0, depth=0.08, grain=0.2, corners=0.5),
            ],
        ),
        Look(
            id="signal-rose",
            name="Signal rose",
            layers=[
                _layer(
                    "petals",
                    "Petals",
                    "spectrum",
                    {
                        "form": "round",
                        "gap": 0.15,
                        "height": 1.1,
                        "radius": 0.2,
                        "floor": 0.15,
                        "low_colour": "#ff5c7a",
                        "high_colour": "#ffd84d",
                        "level": 0.8,
                    },
                    (_part("petal-fold", "fold", count=5.0),),
                ),
                _layer(
                    "bells",
                    "Bells",
                    "rings",
                    {
                        "radius": 0.12,
                        "spacing": 0.13,
                        "width": 0.02,
                        "rest": 0.12,
                        "outer": "#c2416b",
                        "glow": 0.25,
                        "sides": 10.0,
                        "twist": 9.0,
                    },
                    blend="screen",
                ),
            ],
            finish=[
                _part("rose-bloom", "bloom", threshold=0.3, radius=0.3),
                _part("rose-channels", "channels", apart=0.012, outward=1.0),
            ],
        ),
        Look(
            id="tide-table",
            name="Tide table",
            layers=[
                _layer(
                    "swell",
                    "Swell",
                    "waveform",
                    {"height": 0.45, "width": 0.01, "tint": "#7fd4c1", "glow": 0.1, "level": 0.9},
                    (
                        _part(
                            "swell-feedback",
                            "feedback",
                            scale=1.0,
                            rotation=0.0,
                            y=0.9,
                            x=0.15,
                            fade=0.955,
                            hue=1.6,
                        ),
                    ),
                    y=-0.2,
                    scale=1.6,
                ),
                _layer(
                    "stars",
                    "Stars",
                    "own-shader",
                    {"code": STARS, "knob_1": 14.0, "knob_2": 0.7, "colour_1": "#dfe8ff"},
                    blend="screen",
                ),
                _layer(
                    "moon",
                    "Moon",
                    "shape",
                    {
                        "sides": 12.0,
                        "radius": 0.22,
                        "softness": 0.25,
                        "tint": "#f4efe0",
                        "glow": 0.35,
                        "level": 0.7,
                    },
                    blend="screen",
                    x=0.9,
                    y=0.45,
                ),
            ],
            finish=[_part("tide-grade", "grade", exposure=0.2, contrast=1.1, vignette=0.5)],
        ),
        Look(
            id="open-sea",
            name="Open sea",
            layers=[
                _layer(
                    "echo",
                    "Echo",
                    "history",
                    {
                        "goes": "up",
                        "speed": 1.0,
                        "span": 110.0,
                        "floor": 0.4,
                        "curve": 1.1,
                        "quiet": "#06202e",
                        "middle": "#2fa0a8",
                        "loud": "#fff0c4",
                    },
                    (_part("echo-soft", "blur", radius=0.03),),
                    visible=False,
                ),
                _layer(
                    "night",
                    "Night",
                    "gradient",
                    {
                        "rotation": 90.0,
                        "from_colour": "#02050b",
                        "middle_colour": "#0b1930",
                        "to_colour": "#060912",
                        "repeats": 0.5,
                        "level": 0.9,
                    },
                ),
                _layer(
                    "water",
                    "Water",
                    "relief",
                    {
                        "picture": "echo",
                        "height": 0.55,
                        "waves": 0.5,
                        "pace": 0.5,
                        "elevation": 52.0,
                        "distance": 1.75,
                        "field_of_view": 62.0,
                        "elevation_2": 30.0,
                        "distance_2": 1.35,
                        "azimuth_2": -24.0,
                        "roughness": 0.3,
                        "metallic": 0.4,
                        "skin": 0.75,
                        "glow": 0.8,
                        "tint": "#1d5a78",
                        "sky": "#2c5a86",
                        "key_azimuth": 35.0,
                        "key_elevation": 40.0,
                        "haze": 0.5,
                    },
                ),
            ],
            finish=[_part("sea-bloom", "bloom", threshold=0.35, radius=0.16, amount=0.9)],
        ),
        Look(
            id="lamp-swarm",
            name="Lamp swarm",
            layers=[
                _layer(
                    "moths",
                    "Moths",
                    "particles",
                    {
                        "rate": 260.0,
                        "burst_by": "hit-kick",
                        "burst": 420.0,
                        "most": 5000.0,
                        "begins": "soft ball",
                        "extent": 0.22,
                        "life": 3.2,
                        "speed": 0.9,
                        "drag": 1.1,
                        "swirl": 1.3,
                        "swirl_size": 0.9,
                        "pull": 0.28,
                        "sprite": "streak",
                        "sprite_size": 0.022,
                        "tint": "#ffe2a0",
                        "end_tint": "#b8441c",
                        "level": 0.7,
                        "trail": 0.8,
                        "depth": 0.5,
                    },
                ),
                _layer(
                    "wick",
                    "Wick",
                    "ring",
                    {
                        "radius": 0.0,
                        "width": 0.1,
                        "softness": 1.0,
                        "glow": 0.5,
                        "tint": "#ffcf7a",
                        "level": 1.3,
                    },
                    blend="add",
                ),
                _layer(
                    "panes",
                    "Panes",
                    "so-far",
                    {},
                    (
                        _part("panes-key", "key", threshold=0.3, softness=0.25),
                        _part("panes-mosaic", "mosaic", cells=36.0, tones=32.0),
                    ),
                    blend="add",
                    opacity=0.4,
                ),
            ],
            finish=[
                _part("swarm-bloom", "bloom", threshold=0.3, radius=0.2, amount=1.0),
                _part("swarm-grade", "grade", gamma=1.05, vignette=0.5),
            ],
        ),
        Look(
            id="slack-figures",
            name="Slack figures",
            layers=[
                _layer("slack", "Slack water", "solid", {"tint": "#04070d"}),
                _layer(
                    "figure",
                    "Figure",
                    "scope",
                    {
                        "swing": 2.6,
                        "width": 0.01,
                        "glow": 0.25,
                        "tint": "#9fe8d2",
                        "level": 0.7,
                        "trail": 0.8,
                    },
                    (
                        _part(
                            "figure-feedback",
                            "feedback",
                            scale=1.012,
                            rotation=0.5,
                            fade=0.9,
                            hue=2.2,
                            soften=0.35,
                            how="the brighter wins",
                        ),
                    ),
                    blend="add",
                ),
                _layer(
                    "answer",
                    "Answer",
                    "again",
                    {"source": "figure"},
                    (_part("answer-fold", "fold", form="kaleidoscope", count=6.0),),
                    blend="screen",
                    opacity=0.55,
                    scale=1.5,
                ),
            ],
            finish=[_part("slack-lag", "lag", red=0.0, green=2.0, blue=5.0, amount=0.7)],
        ),
        Look(
            id="gallery-wall",
            name="Gallery wall",
            layers=[
                _layer(
                    "weather",
                    "Weather",
                    "noise",
                    {
                        "style": "cellular",
                        "scale": 2.6,
                        "drift": 0.9,
                        "contrast": 2.2,
                        "dark": "#180c20",
                        "bright": "#ff9a4d",
                        "level": 1.6,
                    },
                    visible=False,
                ),
                _layer(
                    "stones",
                    "Stones",
                    "lattice",
                    {
                        "by": "picture",
                        "picture": "weather",
                        "columns": 22.0,
                        "rows": 13.0,
                        "solid_size": 0.062,
                        "grow": 0.55,
                        "lift": 0.7,
                        "twirl": 140.0,
                        "azimuth": -24.0,
                        "elevation": 14.0,
                        "distance": 2.5,
                        "field_of_view": 46.0,
                        "azimuth_2": 34.0,
                        "elevation_2": 42.0,
                        "distance_2": 1.9,
                        "tint": "#6d4a8f",
                        "sky": "#2b1d4a",
                        "skin": 0.85,
                        "glow": 0.7,
                        "roughness": 0.6,
                        "haze": 0.55,
                    },
                ),
            ],
            finish=[
                _part("wall-stutter", "stutter", every="1/2 beat", hold=0.0),
                _part("wall-channels", "channels", apart=0.006, outward=1.0),
            ],
        ),
        Look(
            id="name-board",
            name="Name board",
            layers=[
                _layer(
                    "ripple",
                    "Ripple",
                    "noise",
                    {
                        "style": "gradient",
                        "scale": 3.0,
                        "drift": 1.4,
                        "contrast": 2.0,
                        "dark": "#000000",
                        "bright": "#ffffff",
                    },
                    visible=False,
                ),
                _layer(
                    "name",
                    "Name",
                    "text",
                    {
                        "shows": "track",
                        "fit": True,
                        "face": "heavy",
                        "spacing": 0.06,
                        "tint": "#ffd9a0",
                        "glow": 0.25,
                        "level": 0.9,
                    },
                    (
                        _part("name-push", "displace", by="ripple", form="by its slopes", amount=0.12),
                        _part("name-lines", "edge", width=0.004, strength=3.0, keep=0.55, tint="#ff7d5c"),
                    ),
                ),
                _layer(
                    "below",
                    "Reflection",
                    "again",
                    {"source": "name"},
                    (
                        _part(
                            "below-bend", "displace", by="ripple", form="along", amount=0.25, rotation=90.0
                        ),
                        _part("below-blur", "blur", form="along", rotation=90.0, radius=0.05),
                    ),
                    blend="add",
                    opacity=0.35,
                    flip="top and bottom",
                    y=-0.42,
                ),
            ],
        ),
        Look(
            id="spyglass",
            name="Spyglass",
            layers=[
                _layer(
                    "tower",
                    "Tower",
                    "group",
                    {},
                    (
                        _part("tower-bend", "bend", form="twist", amount=0.35, radius=1.6),
                        _part("tower-repeat", "repeat", count=4.0, scale=0.72, rotation=11.0, fade=0.72),
                    ),
                ),
                _layer(
                    "lens",
                    "Lens",
                    "shape",
                    {
                        "sides": 12.0,
                        "radius": 0.8,
                        "softness": 0.6,
                        "glow": 0.0,
                        "tint": "#ffffff",
                        "level": 1.0,
                    },
                    visible=False,
                ),
                _layer(
                    "past",
                    "Past",
                    "history",
                    {
                        "goes": "outwards",
                        "speed": 0.8,
                        "span": 90.0,
                        "floor": 0.35,
                        "quiet": "#10162e",
                        "middle": "#5a62c8",
                        "loud": "#ffd9f0",
                        "level": 0.9,
                    },
                    inside="tower",
                ),
                _layer(
                    "rim",
                    "Rim",
                    "ring",
                    {
                        "radius": 0.86,
                        "width": 0.03,
                        "glow": 0.1,
                        "ripple": 0.25,
                        "tint": "#ffb9d8",
                        "level": 0.7,
                    },
                    inside="tower",
                    blend="add",
                ),
                _layer(
                    "eye",
                    "Eye",
                    "camera",
                    {"fit": "fill", "mirrored": True, "level": 0.7},
                    inside="tower",
                    blend="soft light",
                    opacity=0.55,
                    mask="lens",
                ),
            ],
            finish=[
                _part(
                    "glass-map",
                    "gradient-map",
                    dark="#05040f",
                    middle="#4a3f9e",
                    bright="#ffe6c9",
                    amount=0.45,
                )
            ],
        ),
        Look(
            id="storm-glass",
            name="Storm glass",
            layers=[
                _layer(
                    "cloud",
                    "Cloud",
                    "noise",
                    {
                        "style": "fractal",
                        "scale": 1.7,
                        "drift": 0.6,
                        "rotation": -20.0,
                        "contrast": 2.4,
                        "dark": "#030409",
                        "bright": "#3c4a6b",
                    },
                    (_part("cloud-freeze", "freeze", hold=0.0),),
                ),
                _layer(
                    "rain",
                    "Rain",
                    "particles",
                    {
                        "rate": 900.0,
                        "most": 3000.0,
                        "begins": "line",
                        "extent": 2.0,
                        "y": 1.0,
                        "life": 1.6,
                        "speed": 1.2,
                        "aim": -80.0,
                        "spread": 4.0,
                        "gravity": 1.4,
                        "drag": 0.0,
                        "swirl": 0.2,
                        "sprite": "streak",
                        "sprite_size": 0.012,
                        "end_size": 1.0,
                        "tint": "#a9c4ff",
                        "end_tint": "#5d74b8",
                        "level": 0.5,
                        "depth": 0.6,
                    },
                    blend="add",
                ),
                _layer(
                    "bolt",
                    "Bolt",
                    "shape",
                    {
                        "sides": 3.0,
                        "radius": 0.5,
                        "star": 0.7,
                        "softness": 0.15,
                        "tint": "#fff6da",
                        "glow": 0.5,
                        "level": 0.0,
                    },
                    (_part("bolt-push", "displace", by="cloud", form="along", amount=0.6),),
                    blend="screen",
                    y=0.35,
                    scale=1.4,
                ),
            ],
            finish=[
                _part("storm-flash", "flash", amount=0.0, where="where there is light", tint="#dfe8ff"),
                _part("storm-grade", "grade", contrast=1.2, saturation=0.8, vignette=0.6),
            ],
        ),
    ]


def routes() -> list[Route]:
    """What moves them."""
    fitted = Part(id="range", kind="range", values={"low": 0.04, "high": 0.62})
    soft = Part(id="smooth", kind="smooth", values={"attack": 20.0, "release": 260.0})
    turns = [Part(id="cycle", kind="cycle"), Part(id="pulse", kind="pulse", values={"decay": 700.0})]
    return [
        Route(
            id="quay-glows",
            signal="band-low",
            targets=["quay-bloom.amount"],
            low=0.6,
            high=2.4,
            shapers=[fitted, soft],
        ),
        Route(
            id="lamp-swells",
            signal="band-low",
            targets=["lamp-source.width"],
            low=0.1,
            high=0.32,
            shapers=[fitted, soft],
        ),
        Route(id="fog-drifts", signal="modulator-tide", targets=["mist-source.contrast"], low=1.2, high=2.2),
        Route(
            id="bells-ring",
            signal="hit-kick",
            targets=[f"bells-source.level_{n}" for n in range(1, 6)],
            low=0.0,
            high=1.0,
            shapers=turns,
        ),
        Route(
            id="rose-turns", signal="modulator-tide", targets=["petal-fold.rotation"], low=-40.0, high=40.0
        ),
        Route(id="water-nears", signal="modulator-tide", targets=["water-source.framing"], low=0.0, high=0.6),
        Route(
            id="wick-burns",
            signal="band-low",
            targets=["wick-source.width"],
            low=0.08,
            high=0.3,
            shapers=[fitted, soft],
        ),
        Route(
            id="moths-circle", signal="modulator-tide", targets=["moths-source.pull_x"], low=-0.9, high=0.9
        ),
        Route(
            id="answer-turns", signal="modulator-tide", targets=["answer-mix.rotation"], low=-60.0, high=60.0
        ),
        Route(
            id="stones-lift",
            signal="band-low",
            targets=["stones-source.lift"],
            low=0.15,
            high=1.1,
            shapers=[fitted, soft],
        ),
        Route(id="wall-turns", signal="modulator-tide", targets=["stones-source.framing"], low=0.0, high=1.0),
        Route(
            id="wall-catches",
            signal="hit-snare",
            targets=["wall-stutter.hold"],
            low=0.0,
            high=0.8,
            shapers=[Part(id="pulse", kind="pulse", values={"decay": 600.0})],
        ),
        Route(
            id="name-shakes",
            signal="band-low",
            targets=["name-push.amount"],
            low=0.015,
            high=0.1,
            shapers=[fitted, soft],
        ),
        Route(id="tower-twists", signal="modulator-tide", targets=["tower-bend.amount"], low=-0.5, high=0.5),
        Route(
            id="rim-breathes",
            signal="band-low",
            targets=["rim-source.radius"],
            low=0.6,
            high=0.95,
            shapers=[fitted, soft],
        ),
        Route(
            id="bolt-strikes",
            signal="hit-snare",
            targets=["bolt-source.level"],
            low=0.0,
            high=0.9,
            shapers=[Part(id="pulse", kind="pulse", values={"decay": 420.0})],
        ),
        Route(
            id="storm-flashes",
            signal="hit-kick",
            targets=["storm-flash.amount"],
            low=0.0,
            high=0.3,
            shapers=[Part(id="pulse", kind="pulse", values={"decay": 380.0})],
        ),
        Route(
            id="cloud-stops",
            signal="hit-kick",
            targets=["cloud-freeze.hold"],
            low=0.0,
            high=0.9,
            shapers=[Part(id="pulse", kind="pulse", values={"decay": 500.0})],
        ),
        Route(
            id="swell-rises",
            signal="band-low",
            targets=["swell-source.height"],
            low=0.2,
            high=0.7,
            shapers=[fitted, soft],
        ),
    ]

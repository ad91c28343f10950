"""Looks of the shore: the harbour and what is seen from it."""

from fulgura.core.show.looks import Layer, Look
from fulgura.demo.looks.parts import layer, part
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


def harbour_lights() -> Look:
    """Harbour lights."""
    return Look(
        id="harbour-lights",
        name="Harbour lights",
        layers=[
            layer(
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
            layer(
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
            layer(
                "tower-drawn",
                "Tower",
                "picture",
                {"file": TOWER.id, "fit": "whole", "level": 0.75},
                x=1.15,
                y=0.17,
                scale=0.62,
            ),
            layer(
                "quay",
                "Quay",
                "spectrum",
                {"count": 40.0, "gap": 0.45, "height": 0.9, "floor": -58.5, "low_colour": "#ffb057"},
                (part("quay-bloom", "bloom", threshold=0.2, radius=0.25, amount=1.2),),
                blend="add",
                y=-0.02,
            ),
        ],
        finish=[part("harbour-water", "own-effect", code=WATER, knob_1=0.3, knob_2=0.4, knob_3=0.5)],
    )


def fog_bank() -> Look:
    """Fog bank."""
    return Look(
        id="fog-bank",
        name="Fog bank",
        layers=[
            layer(
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
            layer(
                "sweep",
                "Sweep",
                "clip",
                {"file": BEAM.id, "beats": 8.0, "level": 1.1, "starts": "at once"},
                blend="screen",
                x=-0.45,
                scale=1.5,
            ),
            layer(
                "lamp",
                "Lamp",
                "ring",
                {"radius": 0.0, "width": 0.16, "softness": 0.9, "glow": 0.5, "tint": "#fff0c8", "level": 1.6},
                blend="add",
                x=-0.45,
                y=0.24,
            ),
        ],
        finish=[
            part("fog-map", "gradient-map", dark="#060714", middle="#35426e", bright="#ffe9c0", amount=0.7),
            part("fog-film", "film", lines=200.0, depth=0.08, grain=0.2, corners=0.5),
        ],
    )


def tide_table() -> Look:
    """Tide table."""
    return Look(
        id="tide-table",
        name="Tide table",
        layers=[
            layer(
                "swell",
                "Swell",
                "waveform",
                {"height": 0.45, "width": 0.01, "tint": "#7fd4c1", "glow": 0.1, "level": 0.9},
                (
                    part(
                        "swell-feedback",
                        "feedback",
                        scale=1.0,
                        rotation=0.0,
                        y=0.9,
                        x=0.15,
                        fade=0.955,
                        hue=1.6,
                        how="light adds up",
                    ),
                ),
                y=-0.2,
                scale=1.6,
            ),
            layer(
                "stars",
                "Stars",
                "own-shader",
                {"code": STARS, "knob_1": 14.0, "knob_2": 0.7, "colour_1": "#dfe8ff"},
                blend="screen",
            ),
            layer(
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
        finish=[part("tide-grade", "grade", exposure=0.2, contrast=1.1, vignette=0.5)],
    )


def _open_sea_layers() -> list[Layer]:
    return [
        layer(
            "echo",
            "Echo",
            "history",
            {
                "goes": "up",
                "speed": 1.0,
                "span": 110.0,
                "floor": -54.0,
                "curve": 1.1,
                "quiet": "#06202e",
                "middle": "#2fa0a8",
                "loud": "#fff0c4",
            },
            (part("echo-soft", "blur", radius=0.03),),
            visible=False,
        ),
        layer(
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
        layer(
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
    ]


def open_sea() -> Look:
    """Open sea."""
    return Look(
        id="open-sea",
        name="Open sea",
        layers=_open_sea_layers(),
        finish=[part("sea-bloom", "bloom", threshold=0.35, radius=0.16, amount=0.9)],
    )

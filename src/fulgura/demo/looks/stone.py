"""Looks of stone, tower and storm."""

from fulgura.core.show.looks import Layer, Look
from fulgura.demo.looks.parts import layer, part


def gallery_wall() -> Look:
    """Gallery wall."""
    return Look(
        id="gallery-wall",
        name="Gallery wall",
        layers=[
            layer(
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
            layer(
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
            part("wall-stutter", "stutter", every="1/2 beat", hold=0.0),
            part("wall-channels", "channels", apart=0.006, outward=1.0),
        ],
    )


def name_board() -> Look:
    """Name board."""
    return Look(
        id="name-board",
        name="Name board",
        layers=[
            layer(
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
            layer(
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
                    part("name-push", "displace", by="ripple", form="by its slopes", amount=0.12),
                    part("name-lines", "edge", width=0.004, strength=3.0, keep=0.55, tint="#ff7d5c"),
                ),
            ),
            layer(
                "below",
                "Reflection",
                "again",
                {"source": "name"},
                (
                    part("below-bend", "displace", by="ripple", form="along", amount=0.25, rotation=90.0),
                    part("below-blur", "blur", form="along", rotation=90.0, radius=0.05),
                ),
                blend="add",
                opacity=0.35,
                flip="top and bottom",
                y=-0.42,
            ),
        ],
    )


def _spyglass_layers() -> list[Layer]:
    return [
        layer(
            "tower",
            "Tower",
            "group",
            {},
            (
                part("tower-bend", "bend", form="twist", amount=0.35, radius=1.6),
                part("tower-repeat", "repeat", count=4.0, scale=0.72, rotation=11.0, fade=0.72),
            ),
        ),
        layer(
            "lens",
            "Lens",
            "shape",
            {"sides": 12.0, "radius": 0.8, "softness": 0.6, "glow": 0.0, "tint": "#ffffff", "level": 1.0},
            visible=False,
        ),
        layer(
            "past",
            "Past",
            "history",
            {
                "goes": "outwards",
                "speed": 0.8,
                "span": 90.0,
                "floor": -58.5,
                "quiet": "#10162e",
                "middle": "#5a62c8",
                "loud": "#ffd9f0",
                "level": 0.9,
            },
            inside="tower",
        ),
        layer(
            "rim",
            "Rim",
            "ring",
            {"radius": 0.86, "width": 0.03, "glow": 0.1, "ripple": 0.25, "tint": "#ffb9d8", "level": 0.7},
            inside="tower",
            blend="add",
        ),
        layer(
            "eye",
            "Eye",
            "camera",
            {"fit": "fill", "mirrored": True, "level": 0.7},
            inside="tower",
            blend="soft light",
            opacity=0.55,
            mask="lens",
        ),
    ]


def spyglass() -> Look:
    """Spyglass."""
    return Look(
        id="spyglass",
        name="Spyglass",
        layers=_spyglass_layers(),
        finish=[
            part("glass-map", "gradient-map", dark="#05040f", middle="#4a3f9e", bright="#ffe6c9", amount=0.45)
        ],
    )


def _rain() -> Layer:
    return layer(
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
    )


def _storm_glass_layers() -> list[Layer]:
    return [
        layer(
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
            (part("cloud-freeze", "freeze", hold=0.0),),
        ),
        _rain(),
        layer(
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
            (part("bolt-push", "displace", by="cloud", form="along", amount=0.6),),
            blend="screen",
            y=0.35,
            scale=1.4,
        ),
    ]


def storm_glass() -> Look:
    """Storm glass."""
    return Look(
        id="storm-glass",
        name="Storm glass",
        layers=_storm_glass_layers(),
        finish=[
            part("storm-flash", "flash", amount=0.0, where="where there is light", tint="#dfe8ff"),
            part("storm-grade", "grade", contrast=1.2, saturation=0.8, vignette=0.6),
        ],
    )

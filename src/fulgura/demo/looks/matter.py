"""Looks of light that has a body: bells under water, a reef, the lamp's own globe."""

from fulgura.core.show.looks import Layer, Look, NamedRamp
from fulgura.core.show.part import Part
from fulgura.demo.looks.parts import layer, part


def _ramp(id: str, name: str, *stops: tuple[float, str, float]) -> NamedRamp:
    values: dict[str, object] = {"count": float(len(stops))}
    for number, (place, colour, opacity) in enumerate(stops, 1):
        values |= {f"place_{number}": place, f"colour_{number}": colour, f"opacity_{number}": opacity}
    return NamedRamp(id=id, name=name, part=Part(id=f"ramp-{id}", kind="colour-ramp", values=values))


def ramps() -> list[NamedRamp]:
    """What these looks take their colours from."""
    return [
        _ramp(
            "deep",
            "Deep water",
            (0.0, "#03101f", 0.0),
            (0.3, "#0b3d5c", 0.7),
            (0.62, "#2fb5a6", 1.0),
            (0.86, "#d7f2c4", 1.0),
            (1.0, "#fffdf2", 1.0),
        ),
        _ramp(
            "glass",
            "Lamp glass",
            (0.0, "#140a24", 1.0),
            (0.38, "#6b1f4f", 1.0),
            (0.66, "#f2703f", 1.0),
            (0.88, "#ffd98a", 1.0),
            (1.0, "#fffaf0", 1.0),
        ),
    ]


def drowned_bells() -> Look:
    """Every kick lets a ring go, in the palette's colours, over what was heard."""
    heard = {
        "goes": "outwards",
        "span": 420.0,
        "bins": 256.0,
        "floor": -62.0,
        "tilt": 2.0,
        "curve": 1.5,
        "fades": 0.75,
        "ramp": "deep",
        "level": 0.55,
    }
    bells = {
        "by": "hit-kick",
        "most": 24.0,
        "lasts": "beats",
        "life_beats": 6.0,
        "radius": 0.04,
        "end_radius": 1.7,
        "growth": 0.8,
        "width": 0.07,
        "end_width": 0.004,
        "fades": 1.3,
        "coloured_by": "the palette by hit",
        "level": 0.9,
    }
    sparks = {
        "by": "hit-hat",
        "most": 32.0,
        "shows": "filled",
        "sides": 4.0,
        "life": 900.0,
        "radius": 0.05,
        "end_radius": 0.008,
        "scatter": 1.1,
        "end_rotation": 180.0,
        "tint": "@5",
        "end_tint": "@3",
        "level": 0.7,
    }
    return Look(
        id="drowned-bells",
        name="Drowned bells",
        layers=[
            layer("sounding", "Sounding", "history", heard),
            layer("drowned", "Bells", "voices", bells, blend="screen"),
            layer("glints", "Glints", "voices", sparks, blend="add"),
        ],
        finish=[
            part("bells-bloom", "bloom", threshold=0.35, radius=0.2, amount=0.9),
            part("bells-grade", "grade", vignette=0.45, contrast=1.1),
        ],
    )


def reef() -> Look:
    """Boxes where three drifting clouds say, each colour a direction."""

    def cloud(number: int, colour: str, scale: float, turn: float) -> Layer:
        values = {
            "style": "gradient",
            "scale": scale,
            "drift": 0.35,
            "rotation": turn,
            "seed": float(3 * number),
            "contrast": 2.4,
            "dark": "#000000",
            "bright": colour,
        }
        return layer(
            f"current-{number}", f"Current {number}", "noise", values, inside="currents", blend="add"
        )

    solids = {
        "places": "currents",
        "count": 4_000.0,
        "solid": "box",
        "solid_size": 0.013,
        "spread_x": 1.9,
        "spread_y": 1.15,
        "spread_z": 1.3,
        "twirl": 220.0,
        "turns": "currents",
        "ramp": "deep",
        "glow": 0.55,
        "roughness": 0.4,
        "metallic": 0.2,
        "sky": "#123047",
        "haze": 0.75,
        "distance": 3.4,
        "azimuth": -18.0,
        "elevation": 8.0,
        "distance_2": 2.2,
        "azimuth_2": 26.0,
        "elevation_2": 22.0,
        "field_of_view_2": 52.0,
        "tint": "#2fb5a6",
    }
    return Look(
        id="reef",
        name="Reef",
        layers=[
            layer("currents", "Currents", "group", {}, visible=False),
            cloud(1, "#ff0000", 1.7, 0.0),
            cloud(2, "#00ff00", 2.1, 120.0),
            cloud(3, "#0000ff", 1.4, -120.0),
            layer("shoal", "Shoal", "placed", solids),
        ],
        finish=[
            part("reef-bloom", "bloom", threshold=0.45, radius=0.22, amount=0.9),
            part("reef-grade", "grade", vignette=0.5, contrast=1.1),
        ],
    )


def lamp_globe() -> Look:
    """The lamp as a globe whose skin is what was heard, twisted about two axes."""
    skin = {
        "goes": "right",
        "span": 380.0,
        "bins": 160.0,
        "floor": -70.0,
        "ceiling": -16.0,
        "tilt": 4.5,
        "high_hz": 7_000.0,
        "attack": 40.0,
        "fall": 0.5,
        "curve": 1.0,
        "fades": 0.25,
        "quiet": "#000000",
        "middle": "#8a8a8a",
        "loud": "#ffffff",
    }
    globe = {
        "form": "ball",
        "picture": "skin",
        "height": 0.34,
        "ends": 0.3,
        "columns": 160.0,
        "waves": 0.05,
        "twist": 70.0,
        "twist_2": 40.0,
        "ramp": "glass",
        "skin_contrast": 0.7,
        "glow": 0.9,
        "glow_contrast": 1.6,
        "hollows": 0.4,
        "hollows_contrast": 0.6,
        "tint": "#3a2038",
        "sky": "#4a2a63",
        "key_azimuth": -55.0,
        "key_elevation": 35.0,
        "key": 1.2,
        "roughness": 1.0,
        "metallic": 0.0,
        "distance": 2.5,
        "elevation": 12.0,
        "azimuth_2": 60.0,
        "distance_2": 2.3,
        "elevation_2": -14.0,
    }
    return Look(
        id="lamp-globe",
        name="Lamp globe",
        layers=[
            layer("skin", "Skin", "history", skin, (part("skin-soft", "blur", radius=0.02),), visible=False),
            layer("globe", "Globe", "relief", globe),
        ],
        finish=[
            part("globe-bloom", "bloom", threshold=0.4, radius=0.3, amount=1.1),
            part("globe-grade", "grade", vignette=0.5, contrast=1.1),
        ],
    )

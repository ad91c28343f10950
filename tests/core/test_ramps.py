"""Ramps as they are drawn: against OKLab worked out by hand, and against their own stops."""

import numpy as np
import pytest

from fulgura.core.kinds.colour import from_hex, to_encoded
from fulgura.core.kinds.ramps import MOST_STOPS
from fulgura.core.show.looks import NamedRamp
from fulgura.core.show.part import Part
from tests.core.drawing import Drawn

WIDE = 256
RAMPED = {"ramp": "dusk"}


def ramp(*stops, mix="smooth"):
    """stops: (place, colour) or (place, colour, opacity)."""
    values = {"count": float(len(stops)), "mix": mix}
    for number, (place, colour, *opacity) in enumerate(stops, 1):
        values |= {f"place_{number}": place, f"colour_{number}": colour}
        values |= {f"opacity_{number}": opacity[0]} if opacity else {}
    part = Part(id="ramp-dusk", kind="colour-ramp", values=values)
    return NamedRamp(id="dusk", name="Dusk", part=part)


def row(*stops, mix="smooth"):
    """The colours of a ramp from left to right, uint8 (256, 3)."""
    source = Part(id="run", kind="gradient", values={"rotation": 0.0, **RAMPED})
    drawn = Drawn(source, size=(WIDE, 8), ramps=[ramp(*stops, mix=mix)])
    colours = drawn.colours()[4]
    drawn.close()
    return colours.astype(int)


def oklab(colour):
    """B. Ottosson, "A perceptual color space for image processing" (2020)."""
    lms = np.array(
        [
            [0.4122214708, 0.5363325363, 0.0514459929],
            [0.2119034982, 0.6806995451, 0.1073969566],
            [0.0883024619, 0.2817188376, 0.6299787005],
        ]
    ) @ from_hex(colour)
    return np.array(
        [
            [0.2104542553, 0.7936177850, -0.0040720468],
            [1.9779984951, -2.4285922050, 0.4505937099],
            [0.0259040371, 0.7827717662, -0.8086757660],
        ]
    ) @ lms ** (1 / 3)


def srgb(lab):
    """The other way, in 0..255."""
    lms = np.linalg.solve(
        np.array(
            [
                [0.2104542553, 0.7936177850, -0.0040720468],
                [1.9779984951, -2.4285922050, 0.4505937099],
                [0.0259040371, 0.7827717662, -0.8086757660],
            ]
        ),
        lab,
    )
    rgb = np.linalg.solve(
        np.array(
            [
                [0.4122214708, 0.5363325363, 0.0514459929],
                [0.2119034982, 0.6806995451, 0.1073969566],
                [0.0883024619, 0.2817188376, 0.6299787005],
            ]
        ),
        lms**3,
    )
    return to_encoded(np.maximum(rgb, 0.0)) * 255.0


def test_what_the_reference_itself_says():
    """Linear sRGB red, from the table of the same publication's implementation (from memory): 0.628, 0.225,
    0.126.
    """
    assert oklab("#ff0000") == pytest.approx([0.628, 0.225, 0.126], abs=0.001)


@pytest.mark.parametrize(
    ("first", "last"), [("#ff0000", "#0000ff"), ("#ffe9a8", "#120a2a"), ("#00aa44", "#ff00cc")]
)
def test_between_two_stops_hues_stay_clean(first, last):
    drawn = row((0.0, first), (1.0, last))
    for at in (0, 32, 64, 128, 200, 255):
        share = (at + 0.5) / 256.0
        wanted = srgb(oklab(first) * (1.0 - share) + oklab(last) * share)
        assert drawn[at] == pytest.approx(wanted, abs=4), at


def test_five_stops_are_where_they_were_put():
    stops = ["#000000", "#7a1f3d", "#d9572b", "#f2c14e", "#fff8e7"]
    drawn = row(*((i / 4, colour) for i, colour in enumerate(stops)))
    for i, colour in enumerate(stops):
        wanted = [int(colour[k : k + 2], 16) for k in (1, 3, 5)]
        assert drawn[min(255, round(i * 255 / 4))] == pytest.approx(wanted, abs=4)


def test_steps_hold_until_the_next():
    drawn = row((0.0, "#ff0000"), (0.4, "#00ff00"), (0.7, "#0000ff"), mix="in steps")
    wanted = [[255, 0, 0], [0, 255, 0], [0, 0, 255]]
    mixed = [colour for colour in drawn if all(abs(colour - each).max() > 3 for each in wanted)]
    assert len(mixed) <= 2  # A texel at each edge.
    assert drawn[100] == pytest.approx(wanted[0], abs=3) and drawn[104] == pytest.approx(wanted[1], abs=3)


def test_stops_on_one_place_are_a_hard_edge_and_any_order_will_do():
    drawn = row((1.0, "#0000ff"), (0.5, "#ff0000"), (0.5, "#00ff00"), (0.0, "#ff0000"))
    assert drawn[120].tolist() == [255, 0, 0] and drawn[130][1] > 180
    assert drawn[255] == pytest.approx([0, 0, 255], abs=12)


def test_sixteen_stops_and_a_clear_one():
    stops = [(i / (MOST_STOPS - 1), "#ffffff" if i % 2 else "#000000") for i in range(MOST_STOPS)]
    drawn = row(*stops)
    seen = [int(drawn[17 * i][0]) for i in range(MOST_STOPS)]
    assert seen == pytest.approx([255 * (i % 2) for i in range(MOST_STOPS)], abs=20)
    clear = row((0.0, "#ff8000", 0.0), (1.0, "#ff8000", 1.0))
    assert clear[0].max() <= 16 and clear[255] == pytest.approx([255, 128, 0], abs=3)


@pytest.mark.parametrize(
    ("kind", "values"), [("spectrum", {}), ("history", {}), ("particles", {}), ("relief", {})]
)
def test_what_has_colours_takes_them_from_a_ramp(kind, values):
    """A ramp of blue alone: nothing red or green is left."""
    blue = ramp((0.0, "#0000ff"), (1.0, "#0000ff"))
    white = {"sky": "#000000", "metallic": 0.0, "roughness": 1.0} if kind == "relief" else {}
    drawn = Drawn(Part(id="it", kind=kind, values=values | white | RAMPED), ramps=[blue])
    rng = np.random.default_rng(1)
    drawn.go(30, 0.3 * rng.standard_normal(48_000))
    seen = drawn.colours().reshape(-1, 3)
    drawn.close()
    assert seen[:, 2].max() > 60 and seen[:, :2].max() <= 4


def test_a_row_of_a_living_picture_is_a_ramp_too():
    """A gradient map by a layer's row: dark becomes what stands at its left, bright its right."""
    row = Part(
        id="row",
        kind="gradient",
        values={
            "rotation": 0.0,
            "from_colour": "#ff0000",
            "middle_colour": "#7f007f",
            "to_colour": "#0000ff",
        },
    )
    map = Part(id="map", kind="gradient-map", values={"row_of": "row"})
    for light, wanted in ((0.0, [255, 0, 0]), (1.0, [0, 0, 255])):
        white = Part(id="white", kind="solid", values={"tint": "#ffffff", "level": light})
        drawn = Drawn(white, map, read=[row])
        assert drawn.colours()[45, 80].astype(int) == pytest.approx(wanted, abs=6)
        drawn.close()


@pytest.mark.parametrize("grey", [0, 64, 128, 191, 255])
def test_a_gradient_map_gives_greys_their_places_colour(grey):
    """Greys 0, 0.25, 0.5, 0.75 and 1 take the colours of five stops."""
    colours = ["#101820", "#5b2a86", "#c2416b", "#ff9f5a", "#fff3cf"]
    five = ramp(*((i / 4, colour) for i, colour in enumerate(colours)))
    source = Part(id="grey", kind="solid", values={"tint": f"#{grey:02x}{grey:02x}{grey:02x}"})
    drawn = Drawn(source, Part(id="map", kind="gradient-map", values=RAMPED), ramps=[five])
    wanted = colours[round(grey / 64)]
    assert drawn.colours()[45, 80] == pytest.approx([int(wanted[k : k + 2], 16) for k in (1, 3, 5)], abs=3)
    drawn.close()

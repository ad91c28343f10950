"""Solids where a picture's colours say: against numpy, and in pixels."""

import numpy as np
import pytest

from fulgura.core.kinds.colour import from_hex
from fulgura.core.kinds.sources.placed import MOST_SOLIDS
from fulgura.core.show.part import Part
from tests.core.drawing import Drawn

SIZE, UNIT = (320, 180), 90.0
SEEN_FLAT = {
    "places": "places",
    "parallel": True,
    "field_of_view": 90.0,
    "distance": 1.0,
    "sky": "#000000",
    "glow": 1.0,
    "haze": 0.0,
    "tint": "#ffffff",
}
"""A camera that shows across and up as they are."""


def placed(read, *effects, size=SIZE, **values):
    part = Part(id="solids", kind="placed", values=SEEN_FLAT | values)
    return Drawn(part, size=size, read=read)


def lit_places(light):
    """The middle of what is lit, in lengths: (across, up)."""
    rows, columns = np.nonzero(light > 60)
    return (columns.mean() + 0.5) / UNIT - 16 / 9, 1.0 - (rows.mean() + 0.5) / UNIT


@pytest.mark.parametrize("colour", ["#000000", "#ffffff", "#ff0000", "#00ff00", "#bc6040"])
def test_red_and_green_are_across_and_up(colour):
    """As numpy has it: linear light 0..1 lies from one end to the other."""
    places = Part(id="places", kind="solid", values={"tint": colour})
    drawn = placed([places], count=1.0, spread_x=1.2, spread_y=0.7, solid_size=0.05)
    light = drawn.next()
    drawn.close()
    red, green, _ = from_hex(colour)
    assert lit_places(light) == pytest.approx([1.2 * (2 * red - 1), 0.7 * (2 * green - 1)], abs=0.02)


def test_blue_is_near():
    """With perspective what is near is large."""
    areas = []
    for blue in ("#808000", "#8080ff"):
        places = Part(id="places", kind="solid", values={"tint": blue})
        drawn = placed([places], count=1.0, parallel=False, distance=4.0, solid_size=0.3, spread_z=2.0)
        areas.append((drawn.next() > 60).sum())
        drawn.close()
    assert areas[1] > 2.0 * areas[0] > 0


def test_each_takes_its_own_pixel_of_the_picture():
    """A picture that is red at the left and green at the right: as many solids at each end."""
    run = {"rotation": 0.0, "from_colour": "#ff0000", "middle_colour": "#bcbc00", "to_colour": "#00ff00"}
    places = Part(id="places", kind="gradient", values=run)
    drawn = placed([places], count=400.0, spread_x=1.5, spread_y=0.9, solid_size=0.01)
    light = drawn.next()
    drawn.close()
    rows, columns = np.nonzero(light > 30)
    # They lie on the line from (1, -1) to (-1, 1).
    x, y = (columns + 0.5) / UNIT - 16 / 9, 1.0 - (rows + 0.5) / UNIT
    assert np.abs(x / 1.5 + y / 0.9).max() < 0.08 and np.ptp(x) > 2.0


@pytest.mark.parametrize("count", [500, MOST_SOLIDS])
def test_as_many_are_drawn_as_there_are(count):
    """A field lifted by nothing: boxes that touch no other are counted by their light."""
    places = Part(id="places", kind="solid", values={"tint": "#000000"})
    drawn = placed(
        [places],
        count=float(count),
        by="brightness",
        spread_x=16 / 9,
        spread_y=1.0,
        solid_size=0.0015,
        size=(1280, 720),
    )
    light = drawn.next()
    drawn.close()
    columns = int(np.ceil(np.sqrt(count * 16 / 9)))
    rows = -(-count // columns)
    lit = light > 20
    # Every column and every row of the field has light in its middle.
    found_columns = lit.any(axis=0)[((np.arange(columns) + 0.5) / columns * 1280).astype(int)]
    assert found_columns.mean() > 0.98
    found_rows = lit.any(axis=1)[((np.arange(rows) + 0.5) / rows * 720).astype(int)]
    assert found_rows.mean() > 0.98


def test_light_adds_up_through_them():
    places = Part(id="places", kind="solid", values={"tint": "#bcbc80"})
    lights = []
    for count in (1.0, 3.0):
        drawn = placed([places], count=count, through="light adds up", opacity=0.04, solid_size=0.2)
        lights.append(drawn.next().max() / 255)
        drawn.close()
    one, three = (((v + 0.055) / 1.055) ** 2.4 for v in lights)
    assert three == pytest.approx(3 * one, rel=0.05)


def test_where_the_picture_is_clear_there_is_none_and_without_a_layer_nothing():
    clear = Part(id="places", kind="solid", values={"cover": 0.0, "level": 0.0})
    drawn = placed([clear], count=100.0)
    assert drawn.next().max() == 0
    drawn.close()
    drawn = placed([], count=100.0)
    assert drawn.next().max() == 0
    drawn.close()


def test_places_of_before_trail():
    """A picture that jumps from one place to another: echoes stand where it was, darker."""
    places = Part(id="places", kind="solid", values={"tint": "#ff0000"})
    drawn = placed([places], count=5.0, echoes=4.0, solid_size=0.1, level=0.3, spread_x=1.2, spread_y=0.7)
    drawn.go(10)
    drawn.set("places", "tint", "#0000ff")
    light = drawn.go(3)
    drawn.close()
    left, right = light[:, :160].max(), light[:, 160:].max()
    assert left > right > 30


def test_sizes_and_colours_come_from_pictures():
    places = Part(id="places", kind="solid", values={"tint": "#bcbcbc"})
    small = Part(id="small", kind="solid", values={"tint": "#bcbcbc"})
    green = Part(id="green", kind="solid", values={"tint": "#00ff00"})
    drawn = placed([places, small, green], count=1.0, sizes="small", skins="green", solid_size=0.4)
    colours = drawn.colours()
    drawn.close()
    lit = colours[..., 1] > 60
    assert (colours[lit][:, 0] < colours[lit][:, 1]).all()
    assert np.ptp(np.nonzero(lit)[1]) + 1 == pytest.approx(2 * 0.4 * from_hex("#bcbcbc")[0] * UNIT, abs=3)

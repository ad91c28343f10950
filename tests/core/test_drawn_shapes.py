"""Shapes as they are drawn, measured in pixels against plain geometry."""

from math import cos, pi, sin

import numpy as np
import pytest

from fulgura.core.show.migrate import migrate
from fulgura.core.show.part import Part
from tests.core.drawing import Drawn

SIZE, UNIT = (640, 360), 180.0
"""Pixels, and how many of them one length is: half of the height."""


def draw(**values):
    """A shape alone: brightness of its pixels, shape (360, 640)."""
    values = {"softness": 0.0, "glow": 0.0, "level": 1.0, "tint": "#ffffff"} | values
    drawn = Drawn(Part(id="shape", kind="shape", values=values), size=SIZE)
    light = drawn.next().astype(float)
    drawn.close()
    return light


def extent(light):
    rows, columns = np.nonzero(light > 0.5 * light.max())
    return np.ptp(columns) + 1, np.ptp(rows) + 1


@pytest.mark.parametrize(("wide", "tall"), [(1.0, 1.0), (1.6, 0.5), (0.4, 2.0)])
def test_a_square_stands_on_a_side_and_has_a_width_and_a_height(wide, tall):
    light = draw(sides=4.0, radius=0.5, wide=wide, tall=tall)
    side = 2 * 0.5 * cos(pi / 4) * UNIT
    assert extent(light) == (pytest.approx(side * wide, abs=2), pytest.approx(side * tall, abs=2))
    # It fills its whole rectangle: no corner is missing.
    assert (light > 0.5 * light.max()).sum() == pytest.approx(side * side * wide * tall, rel=0.03)


def test_a_circle_becomes_an_ellipse():
    light = draw(sides=12.0, radius=0.5, wide=1.5, tall=0.6)
    assert (light > 0.5 * light.max()).sum() == pytest.approx(pi * 0.75 * 0.3 * UNIT**2, rel=0.02)


def test_the_outline_of_a_drawn_out_square_is_as_thick_on_every_side():
    light = draw(sides=4.0, radius=0.5, wide=1.8, tall=0.5, filled=False, width=0.06)
    lit = light > 0.5 * light.max()
    middle = lit[SIZE[1] // 2].sum() / 2, lit[:, SIZE[0] // 2].sum() / 2
    assert middle[0] == pytest.approx(middle[1], abs=1.5) and middle[0] == pytest.approx(0.06 * UNIT, abs=3)


def test_it_is_turned_as_a_whole():
    """A bar that is turned by 30 degrees to the right reaches as far as its corners say."""
    light = draw(sides=4.0, radius=0.5, wide=1.8, tall=0.3, rotation=30.0)
    half, high = 0.5 * cos(pi / 4) * 1.8 * UNIT, 0.5 * cos(pi / 4) * 0.3 * UNIT
    across = 2 * (half * cos(pi / 6) + high * sin(pi / 6))
    assert extent(light)[0] == pytest.approx(across, abs=3)
    rows, columns = np.nonzero(light > 0.5 * light.max())
    right = rows[columns > columns.mean() + half * 0.8].mean()
    assert right > rows.mean()  # Rows go down: its right end is lower.


@pytest.mark.parametrize(
    ("sides", "was", "now"),
    [(4.0, 7.0, 52.0), (6.0, 7.0, 37.0), (5.0, 7.0, 7.0), (12.0, 7.0, 7.0), (4.0, 170.0, -145.0)],
)
def test_shapes_of_before_stand_as_they_stood(sides, was, now):
    before = {"id": "s", "family": "source", "kind": "shape", "values": {"sides": sides, "rotation": was}}
    document = {"looks": [{"layers": [{"source": before}]}]}
    (look,) = migrate(document)["looks"]
    assert look["layers"][0]["source"]["values"]["rotation"] == now
    today = {**before, "values": {**before["values"], "wide": 1.0}}
    (look,) = migrate({"looks": [{"layers": [{"source": today}]}]})["looks"]
    assert look["layers"][0]["source"]["values"]["rotation"] == was

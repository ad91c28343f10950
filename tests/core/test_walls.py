"""Walls: what four corners and a grid do with a picture, against closed forms and a worked example."""

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from fulgura.core.show.outputs import Grid, Output, Wall, regular
from fulgura.core.show.walls import bent, blend_weight, crossing, folded, homography, placed

# Solved by hand with Heckbert's closed form, rounded to six places.
CORNERS = [(0.1, 0.05), (0.95, 0.1), (0.85, 0.9), (0.05, 0.8)]
SOLVED = [[0.784231, -0.047308, 0.1], [0.043077, 0.793077, 0.05], [-0.069231, 0.053846, 1.0]]
MIDDLE = (0.472093, 0.471705)
SQUARE = np.array([(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)])
somewhere = st.floats(-0.3, 0.3)


def test_four_corners_make_the_worked_example():
    matrix = homography(CORNERS)
    assert np.allclose(matrix, SOLVED, atol=1e-6)
    assert np.allclose(placed(matrix, np.array([[0.5, 0.5]]))[0], MIDDLE, atol=1e-6)


@given(st.lists(st.tuples(somewhere, somewhere), min_size=4, max_size=4))
def test_corners_go_where_they_were_set_and_lines_stay_straight(off):
    corners = [(x + dx, y + dy) for (x, y), (dx, dy) in zip(SQUARE.tolist(), off)]
    assume(not crossing(corners))
    matrix = homography(corners)
    assert np.allclose(placed(matrix, SQUARE), corners, atol=1e-9)
    line = placed(matrix, np.column_stack([np.linspace(0, 1, 9), np.linspace(0.2, 0.9, 9)]))
    along, off_line = line[-1] - line[0], line - line[0]
    assert np.abs(along[0] * off_line[:, 1] - along[1] * off_line[:, 0]).max() < 1e-9


def test_corners_that_cross_are_refused_in_a_sentence():
    assert crossing([(0, 0), (1, 0), (0, 1), (1, 1)])
    assert crossing([(0, 0), (0, 1), (1, 1), (1, 0)]), "turned over"
    with pytest.raises(ValueError, match="cross"):
        homography([(0, 0), (1, 1), (1, 0), (0, 1)])
    with pytest.raises(ValueError, match="would cross: keep each on its own side"):
        Wall(id="w", name="W", corners=[(0, 0), (1, 0), (0.2, 0.1), (0, 1)])


@given(st.integers(2, 9), st.integers(2, 9), st.floats(0, 1), st.floats(0, 1))
def test_a_regular_grid_bends_nothing(columns, rows, u, v):
    assert np.allclose(bent(columns, rows, regular(columns, rows), u, v), (u, v), atol=1e-9)


def test_a_bent_grid_goes_through_its_points_and_is_smooth_there():
    points = regular(4, 3)
    points[5] = (0.4, 0.4)
    for at, (column, row) in ((5, (1, 1)), (6, (2, 1)), (0, (0, 0)), (11, (3, 2))):
        assert np.allclose(bent(4, 3, points, column / 3, row / 2), points[at], atol=1e-9)
    around = [np.array(bent(4, 3, points, 1 / 3 + off, 0.5)) for off in (-2e-5, -1e-5, 0.0, 1e-5, 2e-5)]
    before, after = (around[1] - around[0]) / 1e-5, (around[4] - around[3]) / 1e-5
    assert np.allclose(before, after, atol=1e-3), "its slope is one and the same on both sides"


def test_catmull_and_roms_weights_are_those_of_their_paper():
    """Halfway between two points: -1/16, 9/16, 9/16, -1/16."""
    points = regular(4, 2)
    points[1], points[5] = (0.4, 0.0), (0.4, 1.0)
    x, _ = bent(4, 2, points, 0.5, 0.0)
    assert x == pytest.approx(-0.0 / 16 + 9 / 16 * 0.4 + 9 / 16 * 2 / 3 - 1 / 16)


def test_a_grid_that_folds_over_itself_is_refused():
    points = regular(3, 3)
    points[4] = (1.2, 0.5)
    assert folded(3, 3, points)
    with pytest.raises(ValueError, match="fold over itself"):
        Grid(columns=3, rows=3, points=points)
    points[4] = (0.62, 0.45)
    assert not folded(3, 3, points)


@given(st.floats(0, 1), st.floats(1, 5))
def test_what_two_outputs_give_of_a_place_adds_up_to_one(x, power):
    both = blend_weight(np.array([x]), power) + blend_weight(np.array([1.0 - x]), power)
    assert both[0] == pytest.approx(1.0, abs=1e-12)


def test_a_quarter_in_gives_an_eighth_of_the_light():
    """Common practice: (2x)^p / 2 below the half; with p 2 and gamma 2.2 it is encoded as 0.3886."""
    weight = blend_weight(np.array([0.25]), 2.0)[0]
    assert weight == pytest.approx(0.125) and weight ** (1 / 2.2) == pytest.approx(0.3886, abs=1e-4)


@pytest.mark.parametrize(
    "field, value", [("width", 0), ("height", 20_000), ("rate", 0), ("address", "Tower!")]
)
def test_an_output_that_cannot_be_is_refused(field, value):
    with pytest.raises(ValueError):
        Output(**{"id": "o", "name": "O", "address": "o", field: value})

"""Colours on lamps: the mix against sums by hand, the same hue on every kind that can, and what each makes of
one.
"""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from numpy.testing import assert_allclose

from fulgura.core.kinds.colour import from_hex, to_hex
from fulgura.core.kinds.fixture import EMITTERS, Fixture
from fulgura.core.kinds.registry import load
from fulgura.core.lights.colour import ADDITIVE, TWO_WHITES, emitter_colours, mix, reached
from tests.core.rigs import lamp, light, show_of

load()
SHARE = st.floats(0.0, 1.0)


def mixed(names, colour, form=ADDITIVE):
    emitters = np.array([EMITTERS[name] for name in names])
    out = np.zeros(len(names))
    mix(form, emitters, np.array(colour, dtype=float), out)
    return out.round(6).tolist()


def test_white_amber_and_the_rest_by_hand():
    # 1, 0.5, 0.25: white takes 0.25; of the 0.75, 0.25, 0 left amber (1, 0.214, 0) takes 0.75, and green
    # 0.0895 stays.
    assert mixed(["red", "green", "blue", "white", "amber"], [1, 0.5, 0.25]) == [0, 0.0895, 0, 0.25, 0.75]
    # Too little red for more amber: 0.1 of it, and 0.8 - 0.0214 of green.
    assert mixed(["red", "green", "blue", "amber"], [0.1, 0.8, 0]) == [0, 0.7786, 0, 0.1]
    assert mixed(["red", "green", "blue", "white"], [1, 1, 1]) == [0, 0, 0, 1]


@given(st.tuples(SHARE, SHARE, SHARE), st.sampled_from([("white",), ("amber",), ("white", "amber"), ()]))
def test_the_emitters_add_up_to_the_colour_itself(colour, more):
    names = ["red", "green", "blue", *more]
    amounts = np.array(mixed(names, colour))
    assert (amounts >= 0.0).all() and (amounts <= 1.0).all()
    assert_allclose(amounts @ np.array([EMITTERS[name] for name in names]), colour, atol=1e-5)


@given(st.tuples(SHARE, SHARE, SHARE))
def test_two_whites_are_the_least_squares_that_are_not_negative(colour):
    """Against a search of all mixes in steps of a hundredth."""
    whites = np.array([EMITTERS["warm"], EMITTERS["cold"]])
    found = np.array(mixed(["warm", "cold"], colour, TWO_WHITES))
    grid = np.stack(np.meshgrid(np.linspace(0, 1, 101), np.linspace(0, 1, 101)), axis=-1).reshape(-1, 2)
    errors = ((grid @ whites - np.array(colour)) ** 2).sum(axis=1)
    assert ((found @ whites - np.array(colour)) ** 2).sum() <= errors.min() + 2e-3


@pytest.mark.parametrize(
    "colour", ["#ff0000", "#ff8000", "#33cc55", "#1b3fd6", "#ff3f8e", "#ffffff", "#808080"]
)
def test_the_same_colour_has_the_same_hue_on_every_kind_that_can(colour):
    wanted = from_hex(colour)
    for kind in (
        "rgb-lamp",
        "rgbw-lamp",
        "rgba-lamp",
        "six-colour-lamp",
        "dimmed-rgb-lamp",
        "flash-lamp",
        "moving-wash",
    ):
        cell = light(show_of(lamp("a", kind, level=1.0, colour=colour)))[0]
        # Eight bits a channel: half a step of each emitter.
        assert_allclose(
            cell[:3], wanted / wanted.max(), atol=1.5 / 255 / max(0.2, wanted.max()), err_msg=kind
        )


def test_the_desk_is_told_who_cannot_show_a_colour():
    near = {name: reached(kind, "#2040ff").near for name, kind in Fixture.kinds.items() if kind.emitters}
    assert near["rgb-lamp"] and near["rgbw-lamp"] and near["moving-spot"]
    assert not near["two-white-lamp"] and not near["dimmer"]
    assert reached(Fixture.kinds["moving-spot"], "#2a50e8").shown == "#2040ff"
    assert reached(Fixture.kinds["dimmer"], "#ffac59").near, "a warm lamp shows a warm white"


def test_warm_and_amber_are_what_their_chromaticities_say():
    """x, y to linear sRGB by the matrix of IEC 61966-2-1 (from memory), as the table of emitters says."""
    matrix = [[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]]
    for name, x, y in (("warm", 0.4599, 0.4106), ("amber", 0.57, 0.43), ("cold", 0.3127, 0.3290)):
        linear = np.clip(np.array(matrix) @ [x / y, 1.0, (1 - x - y) / y], 0.0, None)
        assert_allclose(EMITTERS[name], linear / linear.max(), atol=0.012, err_msg=name)


@given(st.integers(0, 255), st.integers(0, 255), st.integers(0, 255))
def test_hex_and_linear_light_are_each_others_way_back(red, green, blue):
    text = f"#{red:02x}{green:02x}{blue:02x}"
    assert to_hex(from_hex(text)) == text


def test_emitters_of_a_kind_come_in_its_order():
    assert emitter_colours(Fixture.kinds["rgbw-lamp"]).tolist() == [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
        [1, 1, 1],
    ]

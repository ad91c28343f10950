"""Faders of controllers: bound to what they move, and never a leap."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fulgura.core.show.commands.mappings import bind
from fulgura.core.show.edits import EditError, apply, value_at
from fulgura.core.timing.pickup import NEAR, Pickup
from fulgura.demo.show import demo_show


def test_a_fader_takes_hold_when_it_passes_the_value():
    pickup = Pickup()
    moved = [pickup.move("one", position / 10, 0.0, -40.0, 40.0) for position in (0, 2, 4)]
    assert moved == [None, None, None]  # The value stands in the middle, at 0.5.
    assert pickup.move("one", 0.6, 0.0, -40.0, 40.0) == pytest.approx(8.0)
    assert pickup.move("one", 0.7, 8.0, -40.0, 40.0) == pytest.approx(16.0)


def test_a_value_that_was_moved_elsewhere_is_let_go_until_it_is_passed_again():
    pickup = Pickup()
    assert pickup.move("one", 0.5, 0.5, 0.0, 1.0) == 0.5
    assert pickup.move("one", 0.51, 0.9, 0.0, 1.0) is None
    assert pickup.move("one", 0.95, 0.9, 0.0, 1.0) == 0.95


@given(st.lists(st.floats(0, 1), min_size=1, max_size=40), st.floats(0, 1))
def test_the_value_never_leaps_further_than_the_fader_moved(positions, value):
    pickup, before = Pickup(), None
    for position in positions:
        new = pickup.move("one", position, value, 0.0, 1.0)
        if new is not None:
            assert abs(new - value) <= NEAR + (abs(position - before) if before is not None else 0.0) + 1e-9
            value = new
        before = position


def test_one_movement_is_one_step():
    pickup = Pickup()
    names = [pickup.gesture("one", t) for t in (0.0, 0.1, 0.9, 3.0, 3.5)]
    assert names[0] == names[1] == names[2] != names[3] == names[4]


def test_binding_takes_the_declared_range_and_frees_the_fader_before():
    show, _ = apply(demo_show(), bind(demo_show(), "midi 1 cc 7", "/inputs/main/gain_db"))
    assert [(mapping.source, mapping.low, mapping.high) for mapping in show.mappings] == [
        ("midi 1 cc 7", -40.0, 40.0)
    ]
    show, _ = apply(show, bind(show, "osc /fader/1", "/inputs/main/gain_db"))
    show, _ = apply(show, bind(show, "osc /fader/2", "/bands/low/release_ms"))
    assert [mapping.source for mapping in show.mappings] == ["osc /fader/1", "osc /fader/2"]
    assert value_at(show, show.mappings[1].target) == show.bands[0].release_ms


@pytest.mark.parametrize(
    "target",
    ["/name", "/inputs/main/name", "/inputs/main/level/follow", "/nowhere/gain_db", "/bands/low/slope", "x"],
)
def test_what_no_fader_can_move_is_refused(target):
    with pytest.raises(EditError):
        bind(demo_show(), "osc /fader/1", target)

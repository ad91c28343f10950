"""Routes: shapers against closed forms, hand and live values, and why a thing does not move."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fulgura.core.routing.router import Router
from fulgura.core.routing.shapers import Curve, Gain, Gate, Range, Smooth
from fulgura.core.show.document import Part, Route
from fulgura.demo.show import demo_show

DT = 1 / 60


def run(shaper, values):
    memory, out = shaper.rest, []
    for value in values:
        result, memory = shaper.step(value, memory, DT)
        out.append(result)
    return out


@pytest.mark.parametrize(("attack", "release"), [(50.0, 400.0), (0.0, 120.0), (1000.0, 0.0)])
def test_smooth_is_the_one_pole_step_response(attack, release):
    out = run(Smooth(attack=attack, release=release), [1.0] * 60 + [0.0] * 60)
    top = 1.0 if attack == 0 else 1 - math.exp(-1000.0 / attack)
    assert out[59] == pytest.approx(top, abs=1e-9)
    assert out[119] == pytest.approx(0.0 if release == 0 else top * math.exp(-1000.0 / release), abs=1e-9)


@given(st.floats(0, 1), st.floats(0, 1), st.floats(-1, 2))
def test_range_stays_within_0_and_1_and_never_divides_by_zero(low, high, value):
    out, _ = Range(low=low, high=high).step(value, (), DT)
    assert 0.0 <= out <= 1.0
    if low == high:
        assert out == (1.0 if value >= low else 0.0)


def test_range_ends_in_reverse_invert():
    assert run(Range(low=1.0, high=0.0), [0.0, 0.25, 1.0]) == [1.0, 0.75, 0.0]


def test_curve_is_a_power_and_gain_a_line():
    assert run(Curve(gamma=2.0), [0.5, -1.0]) == [0.25, 0.0]
    assert run(Gain(gain=-2.0, offset=1.0), [0.25]) == [0.5]


def test_gate_opens_at_its_threshold_and_closes_lower():
    # Truth table: opens at 0.5, stays open down to 0.4, closes below, needs 0.5 again.
    values = [0.45, 0.5, 0.45, 0.41, 0.39, 0.45, 0.5]
    assert run(Gate(threshold=0.5, hysteresis=0.1), values) == [0.0, 0.5, 0.45, 0.41, 0.0, 0.0, 0.5]
    assert run(Gate(threshold=0.5, passes="one"), [0.7, 0.1]) == [1.0, 0.0]


def test_gate_holds():
    out = run(Gate(threshold=0.5, hold=100.0, passes="one"), [0.6] + [0.0] * 10)
    assert sum(out) == math.ceil(0.1 / DT)


def router(*routes: Route, **changes) -> Router:
    made = Router()
    made.configure(demo_show().model_copy(update={"routes": list(routes), **changes}))
    return made


def values(made: Router, **signals: float) -> np.ndarray:
    return np.array([signals.get(signal.id.replace("-", "_"), 0.0) for signal in made.signals])


def route(**changes) -> Route:
    return Route(**{"id": "r", "signal": "band-low", "target": "ring.radius", "low": 0.2, "high": 0.6, **changes})


def live(made: Router, target: str, **signals: float) -> float:
    return made.tick(values(made, **signals), DT)[made.places[target]]


def test_a_route_moves_its_parameter_and_nothing_else():
    made = router(route())
    before = made.hand.copy()
    after = made.tick(values(made, band_low=0.5), DT)
    place = made.places["ring.radius"]
    assert after[place] == pytest.approx(0.4)
    np.testing.assert_array_equal(np.delete(after, place), np.delete(before, place))


def test_amount_and_sound_amount_pull_back_to_the_hand_value():
    hand = 0.3
    assert live(router(route(amount=0.5)), "ring.radius", band_low=1.0) == pytest.approx(hand + 0.5 * (0.6 - hand))
    assert live(router(route(), sound_amount=0.0), "ring.radius", band_low=1.0) == pytest.approx(hand)
    assert live(router(route(muted=True)), "ring.radius", band_low=1.0) == pytest.approx(hand)


def test_routes_on_one_parameter_add_up_within_its_range():
    both = router(route(), route(id="s", signal="band-mid", low=0.3, high=2.0))
    assert live(both, "ring.radius", band_low=1.0, band_mid=1.0) == 2.0
    assert live(both, "ring.radius", band_low=0.0, band_mid=0.0) == pytest.approx(0.2)


def test_editing_one_route_keeps_the_memory_of_the_others():
    smooth = Part(id="smooth", kind="smooth", values={"attack": 500.0})
    made = router(route(shapers=[smooth]), route(id="s", signal="band-mid", target="feedback.fade", low=0.0, high=0.9))
    for _ in range(30):
        made.tick(values(made, band_low=1.0), DT)
    before = made.runners[0].memory
    show = demo_show().model_copy(update={"routes": [route(shapers=[smooth]), route(id="s", signal="band-mid", target="feedback.fade", low=0.1, high=0.9)]})
    made.configure(show)
    assert made.runners[0].memory == before and before[0][0] > 0.5


@pytest.mark.parametrize(
    ("change", "signal", "words"),
    [
        ({}, 0.0, "Nothing comes in"),
        ({"muted": True}, 0.5, "Muted"),
        ({"amount": 0.0}, 0.5, "amount is 0"),
        ({"high": 0.2}, 0.5, "no width"),
        ({"target": "gone.radius"}, 0.5, "moved is gone"),
        ({"signal": "band-gone"}, 0.5, "signal is gone"),
        ({"target": "ring.tint"}, 0.5, "not a number"),
        ({"shapers": [Part(id="g", kind="gate", values={"threshold": 0.45})]}, 0.31, "peak 0.31 of 0.45"),
        ({"shapers": [Part(id="r", kind="range", values={"low": 0.5})]}, 0.3, "below its range"),
    ],
)
def test_a_route_that_does_not_move_says_why(change, signal, words):
    made = router(route(**change))
    for _ in range(20):
        made.tick(values(made, band_low=signal), DT)
    assert words in made.explain()[0]


def test_a_moving_route_has_nothing_to_explain():
    made = router(route())
    for i in range(40):
        made.tick(values(made, band_low=0.5 + 0.4 * math.sin(i / 3)), DT)
    assert made.explain() == [""]


def test_a_runaway_shaper_chain_stops_nothing():
    made = router(route(shapers=[Part(id=f"g{i}", kind="gain", values={"gain": 16.0}) for i in range(8)]))
    assert math.isfinite(live(made, "ring.radius", band_low=1.0))
    assert "too large" in made.explain()[0]

"""Shapers against closed forms, truth tables and scipy; hits are neither lost nor doubled."""

import math
import re

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.signal import lfilter

from fulgura.core.kinds.compiled import random_at
from fulgura.core.kinds.registry import KindInfo
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.kinds.shapers.curve import Curve
from fulgura.core.kinds.shapers.cycle import Cycle, next_turn
from fulgura.core.kinds.shapers.delay import Delay
from fulgura.core.kinds.shapers.fall import Fall
from fulgura.core.kinds.shapers.gain import Gain
from fulgura.core.kinds.shapers.gate import Gate
from fulgura.core.kinds.shapers.hold import Hold
from fulgura.core.kinds.shapers.invert import Invert
from fulgura.core.kinds.shapers.limit import Limit
from fulgura.core.kinds.shapers.mix import Mix
from fulgura.core.kinds.shapers.pulse import Pulse
from fulgura.core.kinds.shapers.quantise import Quantise
from fulgura.core.kinds.shapers.range import Range
from fulgura.core.kinds.shapers.smooth import Smooth
from fulgura.core.kinds.shapers.step import Step
from fulgura.core.kinds.shapers.toggle import Toggle
from fulgura.core.kinds.tick import TickContext

DT = 1 / 60
TRAINS = st.lists(st.integers(0, 3), min_size=1, max_size=80)


def out(shaper, values, hits=None, moments=None):
    return shaper.run(values, hits, moments)[0].tolist()


@pytest.mark.parametrize(("attack", "release"), [(50.0, 400.0), (0.0, 120.0), (1000.0, 0.0)])
def test_smooth_is_the_one_pole_step_response(attack, release):
    got = out(Smooth(attack=attack, release=release), [1.0] * 60 + [0.0] * 60)
    top = 1.0 if attack == 0 else 1 - math.exp(-1000.0 / attack)
    assert got[59] == pytest.approx(top, abs=1e-9)
    assert got[119] == pytest.approx(0.0 if release == 0 else top * math.exp(-1000.0 / release), abs=1e-9)


def test_smooth_is_scipys_one_pole():
    """scipy.signal.lfilter with b = 1 - a1, a1 = exp(-dt / tau), where up and down are alike."""
    values = np.random.default_rng(1).random(300)
    a1 = math.exp(-DT / 0.15)
    np.testing.assert_allclose(
        Smooth(attack=150.0, release=150.0).run(values)[0], lfilter([1 - a1], [1, -a1], values), rtol=1e-9
    )


@given(st.floats(0, 1), st.floats(0, 1), st.floats(-1, 2))
def test_range_stays_within_0_and_1_and_never_divides_by_zero(low, high, value):
    got = out(Range(low=low, high=high), [value])[0]
    assert 0.0 <= got <= 1.0
    if low == high:
        assert got == (1.0 if value >= low else 0.0)


def test_range_turns_over_folds_and_lets_through():
    assert out(Range(low=1.0, high=0.0), [0.0, 0.25, 1.0]) == [1.0, 0.75, 0.0]
    assert out(Range(low=0.0, high=0.5, outside="fold"), [0.25, 0.5, 0.75, 1.0, -0.25]) == [
        0.5,
        1.0,
        0.5,
        0.0,
        0.5,
    ]
    assert out(
        Range(low=0.0, high=0.5, outside="let through", to_low=0.2, to_high=0.4), [1.0, 0.0]
    ) == pytest.approx([0.6, 0.2])


def test_curves_go_through_their_ends_and_their_middle():
    assert out(Curve(gamma=2.0), [0.5, -1.0, 1.0]) == [0.25, 0.0, 1.0]
    # Smoothstep's slope makes 0.25 into 3/16 - 2/64 = 0.15625.
    assert out(Curve(shape="s", steepness=1.0), [0.0, 0.25, 0.5, 1.0]) == pytest.approx(
        [0.0, 0.15625, 0.5, 1.0]
    )
    assert out(Curve(shape="tension", tension=2.0), [0.0, 0.5, 1.0]) == pytest.approx(
        [0.0, (math.e - 1) / (math.e**2 - 1), 1.0]
    )
    assert out(Curve(shape="tension", tension=0.0), [0.3]) == pytest.approx([0.3])
    points = Curve(shape="points", points=[(0.0, 0.1), (0.5, 1.0), (0.5, 0.0), (1.0, 0.5)])
    np.testing.assert_allclose(out(points, [-1.0, 0.25, 0.5, 0.75, 2.0]), [0.1, 0.55, 0.0, 0.25, 0.5])


def test_own_points_agree_with_numpy():
    xs, ys = [0.0, 0.2, 0.7, 1.0], [0.3, 1.0, 0.0, 0.6]
    values = np.linspace(-0.2, 1.2, 57)
    np.testing.assert_allclose(
        Curve(shape="points", points=list(zip(xs, ys))).run(values)[0], np.interp(values, xs, ys), atol=1e-12
    )


def test_gain_invert_and_mix_are_what_their_names_say():
    assert out(Gain(gain=-2.0, offset=1.0), [0.25]) == [0.5]
    assert out(Invert(), [0.2]) == [0.8]
    other = [TickContext(values=np.array([0.5]), hits=np.array([0]), order={"level": 0})]
    for how, wanted in (
        ("sum", 0.9),
        ("largest", 0.5),
        ("smallest", 0.4),
        ("product", 0.2),
        ("mean", 0.45),
        ("difference", -0.1),
    ):
        assert out(Mix(how=how, signal="level"), [0.4], moments=other) == pytest.approx([wanted])
    assert out(Mix(signal="gone"), [0.4], moments=other) == [0.4]


def test_gate_opens_at_its_threshold_and_closes_lower():
    # Truth table: opens at 0.5, stays open down to 0.4, closes below, needs 0.5 again; each opening is one
    # hit.
    values = [0.45, 0.5, 0.45, 0.41, 0.39, 0.45, 0.5]
    got, hits = Gate(threshold=0.5, hysteresis=0.1).run(values)
    assert got.tolist() == [0.0, 0.5, 0.45, 0.41, 0.0, 0.0, 0.5] and hits.tolist() == [0, 1, 0, 0, 0, 0, 1]
    assert out(Gate(threshold=0.5, passes="one"), [0.7, 0.1]) == [1.0, 0.0]
    assert sum(out(Gate(threshold=0.5, hold=100.0, passes="one"), [0.6] + [0.0] * 10)) == math.ceil(0.1 / DT)
    assert Gate(threshold=0.5).run([0.6, 0.0, 0.3, 0.9], [1, 0, 1, 2])[1].tolist() == [1, 0, 0, 2]


def test_fall_by_gravity_is_half_g_t_squared():
    # Closed form of a fall from rest: h = 1 - (t / T)^2.
    got = out(Fall(way="gravity", time=1000.0), [1.0] + [0.0] * 30)
    np.testing.assert_allclose(got, [1 - (n * DT) ** 2 for n in range(31)], atol=1e-9)
    np.testing.assert_allclose(
        out(Fall(way="even", time=500.0), [1.0] + [0.0] * 10),
        [1 - n * DT / 0.5 for n in range(11)],
        atol=1e-9,
    )


def test_a_pulse_rises_holds_and_falls_to_a_twentieth():
    got = out(Pulse(attack=50.0, hold=100.0, decay=300.0), [0.8] + [0.0] * 40, [1] + [0] * 40)
    assert got[0] == 0.0 and got[3] == pytest.approx(0.8) and got[9] == pytest.approx(0.8)
    assert got[27] == pytest.approx(0.8 / 20, rel=1e-6)  # 3 ticks up, 6 held, 18 down
    assert out(Pulse(decay=0.0, hold=0.0), [1.0, 0.0], [1, 0])[1] == 0.0
    again = ([1.0] + [0.0] * 5 + [1.0], [1] + [0] * 5 + [1])
    assert out(Pulse(retrigger=True), *again)[6] == 1.0 > out(Pulse(retrigger=False), *again)[6]
    assert out(Pulse(strength=False), [0.2], [1]) == [1.0]


def test_a_pulse_may_take_beats_to_rise():
    """Two beats of half a second: at its top after 60 ticks."""
    moments = [TickContext(beat_s=0.5)] * 70
    got, _ = Pulse(rises="beats", attack_beats=2.0, decay=0.0).run(
        [1.0] + [0.0] * 69, [1] + [0] * 69, moments
    )
    assert got[30] == pytest.approx(0.5, abs=1e-6) and got.argmax() == 60 and got[62] == 0.0


@given(TRAINS)
def test_toggles_and_steps_count_exactly(hits):
    total = np.cumsum(hits)
    values = [float(h > 0) for h in hits]
    np.testing.assert_array_equal(Toggle().run(values, hits)[0], total % 2)
    np.testing.assert_allclose(Step(size=0.25).run(values, hits)[0], (total % 5) * 0.25, atol=1e-12)
    np.testing.assert_allclose(
        Step(size=0.25, end="stop").run(values, hits)[0], np.minimum(total * 0.25, 1.0)
    )
    np.testing.assert_allclose(
        Step(size=-0.25, end="stop").run(values, hits)[0], np.maximum(1.0 - total * 0.25, 0.0)
    )
    bounced = [(total_ * 0.25) % 2.0 for total_ in total]
    np.testing.assert_allclose(
        Step(size=0.25, end="bounce").run(values, hits)[0], [2 - b if b > 1 else b for b in bounced]
    )


@given(TRAINS, st.integers(0, 20))
def test_a_delay_neither_loses_nor_doubles_a_hit(hits, ticks):
    """Against a slow reference: the same train, so many ticks later."""
    hits = hits + [0] * (ticks + 1)
    values = [float(i) for i in range(len(hits))]
    got, fell = Delay(ms=ticks * 1000 * DT).run(values, hits)
    assert fell.tolist() == ([0] * ticks + hits)[: len(hits)]
    assert got.tolist() == ([0.0] * ticks + values)[: len(hits)]


def test_a_delay_of_a_beat_goes_with_the_tempo():
    beats = [n / 20 for n in range(60)]
    got = Delay(by="beats", beats=1.0).run(
        [float(n) for n in range(60)],
        [int(n == 5) for n in range(60)],
        [TickContext(beats=b, beat_s=20 * DT) for b in beats],
    )
    assert got[1].tolist().index(1) == 25 and got[0][30] == 10.0


def test_a_delay_that_overflows_lets_out_early_what_waited_longest():
    slow = [TickContext(beats=0.0001 * n, beat_s=10.0) for n in range(400)]
    assert Delay(by="beats", beats=1.0).run([1.0] * 400, [1] * 400, slow)[1].sum() >= 400 - 256


def test_quantise_rounds_and_waits_for_the_beat():
    assert out(Quantise(count=3), [0.1, 0.3, 0.6, 0.9]) == [0.0, 0.5, 0.5, 1.0]
    beats = [TickContext(fallen=int(n % 4 == 0), bars=int(n % 8 == 0)) for n in range(1, 13)]
    got, fell = Quantise(to="beat").run([0.0, 0.7, 0.5] + [0.0] * 9, [0, 1, 1] + [0] * 9, beats)
    assert fell.tolist() == [0, 0, 0, 1] + [0] * 8 and got[3] == 0.5 and got[4] == 0.0
    assert out(Quantise(to="bar"), [n / 10 for n in range(12)], moments=beats)[7:] == [0.7] * 5


@given(st.lists(st.floats(0, 1), min_size=30, max_size=240), st.integers(1, 4))
def test_limit_never_flashes_more_often_than_it_may(values, most):
    """Counted as WCAG 2.2 does: rises of 0.1 or more from the low before, in any second."""
    got = out(Limit(flashes=most), values)
    rises, low, rising = [], 0.0, False
    for tick, (before, now) in enumerate(zip([0.0, *got], got)):
        if rising:
            if now < before - 1e-9:
                rising, low = False, now
        else:
            low = min(low, now)
            if now - low >= 0.1:
                rising = True
                rises.append(tick)
    assert all(sum(1 for r in rises if tick - 60 < r <= tick) <= most for tick in rises)


def test_limit_keeps_to_its_slopes():
    got = np.diff([0.0, *out(Limit(rise=1.0, fall=0.5, flashes=30), [1.0] * 90 + [0.0] * 90)])
    assert got.max() == pytest.approx(DT) and got.min() == pytest.approx(-0.5 * DT)


def test_hold_takes_the_value_at_the_hit_or_a_seeded_random_one():
    assert out(Hold(), [0.3, 0.5, 0.9], [1, 0, 1]) == [0.3, 0.3, 0.9]
    a, b = (Hold(takes="random").run([0.0] * 50, [1] * 50, seed=seed)[0] for seed in (1, 2))
    assert (a == Hold(takes="random").run([0.0] * 50, [1] * 50, seed=1)[0]).all() and (a != b).any()
    assert a.min() >= 0.0 and a.max() < 1.0 and len(set(a)) == 50


def test_a_trigger_counts_the_hits_of_another_signal():
    moments = [
        TickContext(values=np.array([0.9]), hits=np.array([h]), order={"hit-kick": 0}) for h in (0, 1, 0)
    ]
    assert out(Hold(trigger="hit-kick"), [0.1, 0.2, 0.3], moments=moments) == [0.0, 0.2, 0.2]
    assert Pulse(trigger="hit-kick").run([0.0] * 3, moments=moments)[0][1] == 0.9


@pytest.mark.parametrize(
    ("order", "wanted"), [("in order", [0, 1, 2, 0, 1, 2, 0]), ("back and forth", [0, 1, 2, 1, 0, 1, 2])]
)
def test_a_cycle_takes_turns(order, wanted):
    cycle = Cycle(order=order)
    p, s = np.array(cycle.numbers({})), np.array(cycle.start(1))
    assert [next_turn(p, s, 3) for _ in wanted] == wanted


def test_a_random_cycle_never_takes_the_same_twice_and_leaves_nobody_out():
    cycle = Cycle(order="random")
    p, s = np.array(cycle.numbers({})), np.array(cycle.start(3))
    turns = [next_turn(p, s, 4) for _ in range(400)]
    assert all(a != b for a, b in zip(turns, turns[1:])) and min(np.bincount(turns)) > 60


def test_random_numbers_are_even():
    """Chi-squared with 9 degrees of freedom: 27.9 is passed by chance once in a thousand (table value)."""
    counts = np.histogram([random_at(5, n) for n in range(10_000)], 10, (0, 1))[0]
    assert ((counts - 1000.0) ** 2 / 1000.0).sum() < 27.9


@given(st.sampled_from(sorted(Shaper.kinds)), st.lists(st.floats(-2, 2), min_size=1, max_size=40), TRAINS)
def test_no_shaper_makes_what_is_no_number_of_what_is_one(kind, values, hits):
    shaper = Shaper.kinds[kind]()
    count = min(len(values), len(hits))
    got, fell = shaper.run(values[:count], hits[:count])
    assert np.isfinite(got).all() and (fell >= 0).all()


def test_every_shaper_reads_in_a_sentence_and_names_only_its_own_parameters():
    for kind in Shaper.kinds.values():
        info = KindInfo.of(kind)
        assert info.says and set(re.findall(r"{(\w+)}", info.says)) <= {
            parameter.name for parameter in info.parameters
        }

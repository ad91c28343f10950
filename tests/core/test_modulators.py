"""Modulators and expressions: phases without drift, patterns that count, units that fit; nothing that is
typed stops the show.
"""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fulgura.core.kinds.expression import Expression, ExpressionError
from fulgura.core.kinds.faults import FaultCode
from fulgura.core.kinds.modulator import Modulator
from fulgura.core.kinds.modulators.envelope import Envelope
from fulgura.core.kinds.modulators.fader import Fader
from fulgura.core.kinds.modulators.formula import Formula
from fulgura.core.kinds.modulators.lfo import Lfo, swing
from fulgura.core.kinds.modulators.pattern import Pattern
from fulgura.core.kinds.tick import TickContext
from fulgura.core.timing.beats import BeatRun

DT = 1 / 60


def run(modulator: Modulator, ticks: int, moments=None, seed: int = 1) -> list[float]:
    state = modulator.start(seed)
    return [
        modulator.step(state, moments[n] if moments else TickContext(dt=DT, seconds=n * DT))[0]
        for n in range(ticks)
    ]


def heard(**signals: float) -> TickContext:
    order = {name: i for i, name in enumerate(signals)}
    return TickContext(
        values=np.array(list(signals.values())),
        hits=np.zeros(len(signals), dtype=int),
        order=order,
        beats=2.5,
        seconds=0.25,
    )


def test_an_lfos_phase_has_not_drifted_after_a_million_ticks():
    lfo = Lfo(by="seconds", rate=7.3, shape="saw")
    state = lfo.start(1)
    moment = TickContext(dt=DT)
    for _ in range(1_000_000):
        value, _ = lfo.step(state, moment)
    # The clock itself sums a million sixtieths; the phase must not be worse than that sum.
    assert abs(value - (1_000_000 * 7.3 / 60) % 1.0) < 1e-5


def test_an_lfo_by_the_beat_begins_on_the_beat():
    moments = [TickContext(beats=n / 8) for n in range(64)]
    np.testing.assert_allclose(
        run(Lfo(beats=4.0, shape="saw"), 64, moments), (np.arange(64) / 32) % 1.0, atol=1e-12
    )


def test_swings_are_what_their_names_say():
    phases = np.arange(16) / 16
    np.testing.assert_allclose(
        [swing("sine", p, 0.5) for p in phases], 0.5 - 0.5 * np.cos(2 * np.pi * phases), atol=1e-12
    )
    np.testing.assert_allclose(
        [swing("triangle", p, 0.5) for p in phases], 1 - np.abs(2 * phases - 1), atol=1e-12
    )
    assert [swing("square", p, 0.25) for p in phases] == [1.0] * 4 + [0.0] * 12
    assert swing("saw", 0.25, 0.25) == 0.5
    turns = [swing("random", p, 0.5, seed=3, turn=t) for t in range(50) for p in phases]
    assert min(turns) >= 0 and max(turns) < 1 and np.abs(np.diff(turns)).max() < 0.15


def test_moving_the_rate_never_makes_the_phase_leap():
    state, last = Lfo().start(1), 0.0
    for n in range(600):
        value, _ = Lfo(by="seconds", shape="triangle", rate=0.5 + 0.4 * math.sin(n / 30)).step(
            state, TickContext(dt=DT)
        )
        assert abs(value - last) < 2 * 0.9 * DT + 1e-9
        last = value


def test_a_single_turn_begins_with_a_hit_and_ends():
    moments = [
        TickContext(
            dt=DT, beats=n / 30, values=np.zeros(1), hits=np.array([int(n == 10)]), order={"hit-kick": 0}
        )
        for n in range(80)
    ]
    values = run(Lfo(once=True, trigger="hit-kick", beats=1.0), 80, moments)
    assert not any(values[:10]) and max(values) > 0.99 and not any(values[41:])
    drawn = run(
        Envelope(once=True, trigger="hit-kick", beats=1.0, points=[(0, 1), (0.5, 0.5), (1, 0)]), 80, moments
    )
    assert drawn[10] == 1.0 and drawn[25] == pytest.approx(0.5) and drawn[60] == 0.0


@given(st.lists(st.sampled_from([0.0, 0.5, 1.0]), min_size=4, max_size=64), st.floats(0.01, 1.7))
def test_a_pattern_tells_each_of_its_hits_once(steps, way):
    pattern = Pattern(steps=steps, beats=0.25)
    state, told = pattern.start(1), 0
    places = np.arange(200) * way
    for beats in places:
        told += pattern.step(state, TickContext(beats=float(beats)))[1]
    last = math.floor(places[-1] / 0.25)
    assert told == sum(steps[n % len(steps)] > 0 for n in range(1, last + 1))


def test_a_fader_gives_its_level():
    assert run(Fader(level=0.4), 2) == [0.4, 0.4]


@pytest.mark.parametrize(
    ("words", "value"),
    [
        ("0.5 * low + kick", 0.9),
        ("max(low, 0.3, kick)", 0.8),
        ("min(low, 50 %)", 0.2),
        ("mean(low, kick)", 0.5),
        ("-(low - 1)", 0.8),
        ("low * -6 dB", 0.2 * 10 ** (-6 / 20)),
        ("clamp(low * 10, 0, 1)", 1.0),
        ("mix(low, kick, 0.25)", 0.35),
        ("step(kick, 0.5)", 1.0),
        ("ramp(4 beats)", 0.625),
        ("ramp(500 ms)", 0.5),
        ("wave(2 Hz)", 1.0),
        ("wave(120 BPM)", 1.0),
        ("2 Hz * 250 ms", 0.5),
        ("1 beat / 4 beats", 0.25),
        ("abs(low - kick)", 0.6),
        ("kick / low / 8", 0.5),
        ("floor(kick * 4) / 4", 0.75),
    ],
)
def test_expressions_come_out_as_by_hand(words, value):
    assert Expression.read(words).value(heard(low=0.2, kick=0.8)) == pytest.approx(value)


@pytest.mark.parametrize(
    ("words", "said"),
    [
        ("low + 2 Hz", "a plain number and Hz"),
        ("2 Hz", "comes out in Hz"),
        ("1 s + 1 beat", "s and beats"),
        ("shout(low)", "There is no “shout( )”"),
        ("low +", "breaks off"),
        ("low ) kick", "cannot stand"),
        ("", "empty"),
        ("wave(3)", "with a unit"),
        ("wave(low)", "with a unit"),
        ("mix(low, 1 Hz, 0.5)", "one kind"),
        ("(" * 1_000_000, "longer than 400"),
        ("(" * 100 + "low" + ")" * 100, "brackets within brackets"),
        ("min()", "takes"),
        ("low kick", "cannot stand"),
        ("2 Hz * 3 Hz", "no sense"),
        ("__import__('os')", "cannot stand"),
        ("low.name", "cannot stand"),
    ],
)
def test_a_wrong_expression_says_what_is_wrong(words, said):
    with pytest.raises(ExpressionError, match=said.replace("(", r"\(").replace(")", r"\)")):
        Expression.read(words)


@given(st.text("low kick()+-*/,.0123456789 HzmsBPMd%", max_size=60))
def test_whatever_is_typed_is_read_or_refused_in_words(text):
    try:
        value = Expression.read(text).value(heard(low=0.2, kick=0.8))
    except (ExpressionError, ZeroDivisionError, OverflowError):
        return
    assert math.isfinite(value)


def test_an_expression_names_the_signal_that_is_not_there():
    assert Formula(words="low + lwo").fault({"low": 0}).text == "There is no signal called “lwo”."
    assert Formula(words="low").fault({"low": 0}) is None
    assert Lfo(once=True, trigger="gone").fault({}).code == FaultCode.MODULATOR_SIGNAL_GONE


def test_beats_follow_what_is_heard_and_never_go_back():
    run_, at, bars = BeatRun(), [], 0
    for n in range(1200):
        position = (n * DT * 2.0 + 0.3) % 4
        before = run_.position
        _, fell = run_.step(DT, 0.5, position if n > 100 else None, 4)
        bars += fell
        at.append(run_.position % 4 - position)
        assert run_.position >= before
    assert max(abs((a + 2) % 4 - 2) for a in at[130:]) < 1e-6 and bars in (9, 10, 11)


def test_beats_run_on_while_none_is_heard():
    run_ = BeatRun()
    fallen = sum(run_.step(DT, 0.5, None, 4)[0] for _ in range(601))
    assert run_.position == pytest.approx(601 * DT * 2) and fallen == 20

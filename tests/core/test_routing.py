"""Routes and modulators: hand and live values, turns, mixes, rings, hands on values; edits change only what
they touch.
"""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fulgura.core.kinds.faults import FaultCode
from fulgura.core.kinds.tick import TickContext
from fulgura.core.routing.router import Router
from fulgura.core.show.edits import SetValue, apply
from fulgura.core.show.part import Part
from fulgura.core.show.routes import NamedModulator, Route
from fulgura.demo.show import demo_show

DT = 1 / 60


def router(*routes: Route, **changes) -> Router:
    made = Router()
    made.configure(demo_show().model_copy(update={"routes": list(routes), **changes}))
    return made


def route(**changes) -> Route:
    if "target" in changes:
        changes["targets"] = [changes.pop("target")]
    return Route(
        **{"id": "r", "signal": "band-low", "targets": ["ring.radius"], "low": 0.2, "high": 0.6, **changes}
    )


def part(kind: str, id: str = "", **values) -> Part:
    return Part(id=id or kind, kind=kind, values=values)


def tick(
    made: Router, hits: dict | None = None, now: TickContext | None = None, **signals: float
) -> np.ndarray:
    values, fallen = np.zeros(len(made.signals)), np.zeros(len(made.signals), dtype=np.int64)
    for name, value in signals.items():
        values[made.order[name.replace("_", "-") if name.replace("_", "-") in made.order else name]] = value
    for name, count in (hits or {}).items():
        fallen[made.order[name]] = count
        values[made.order[name]] = float(count > 0)
    return made.tick(values, fallen, now or TickContext())


def live(made: Router, target: str, **signals: float) -> float:
    return tick(made, **signals)[made.index_of[target]]


def test_a_route_moves_its_parameter_and_nothing_else():
    made = router(route())
    before = made.hand.copy()
    after = tick(made, band_low=0.5)
    index = made.index_of["ring.radius"]
    assert after[index] == pytest.approx(0.4)
    np.testing.assert_array_equal(np.delete(after, index), np.delete(before, index))


def test_amount_solo_mute_and_sound_amount_pull_back_to_the_hand_value():
    hand = 0.3
    assert live(router(route(amount=0.5)), "ring.radius", band_low=1.0) == pytest.approx(
        hand + 0.5 * (0.6 - hand)
    )
    assert live(router(route(), sound_amount=0.0), "ring.radius", band_low=1.0) == pytest.approx(hand)
    assert live(router(route(muted=True)), "ring.radius", band_low=1.0) == pytest.approx(hand)
    assert live(
        router(route(), route(id="s", target="ring.width", solo=True)), "ring.radius", band_low=1.0
    ) == pytest.approx(hand)


def test_routes_on_one_parameter_add_up_within_its_range():
    both = router(route(), route(id="s", signal="band-mid", low=0.3, high=2.0))
    assert live(both, "ring.radius", band_low=1.0, band_mid=1.0) == 2.0
    assert live(both, "ring.radius", band_low=0.0, band_mid=0.0) == pytest.approx(0.2)


@pytest.mark.parametrize(
    ("how", "wanted"),
    [("sum", 0.9 + 0.5 - 0.4), ("largest", 0.9), ("smallest", 0.5), ("mean", 0.7), ("product", 0.45)],
)
def test_several_routes_are_mixed_as_the_show_says(how, wanted):
    lamps = [
        lamp.model_copy(update={"fixture": part("rgb-lamp", "lamp-1", level=0.4)})
        for lamp in demo_show().lamps
    ]
    ways = [
        route(id=id, signal=signal, target="lamp-1.level", low=0.0, high=1.0)
        for id, signal in (("a", "band-low"), ("b", "band-mid"))
    ]
    made = router(*ways, mixes={"lamp-1.level": how}, lamps=lamps)
    assert live(made, "lamp-1.level", band_low=0.9, band_mid=0.5) == pytest.approx(wanted)


def test_colours_choices_and_toggles_can_be_moved():
    made = router(route(target="ring.tint", low="#000000", high="#ffffff"))
    np.testing.assert_allclose(tick(made, band_low=0.25)[made.index_of["ring.tint"] :][:3], [0.25] * 3)
    lfo = NamedModulator(id="a", name="Sway", part=part("lfo", "sway"))
    made = router(
        route(target="sway.shape", low=0, high=4),
        route(id="s", target="sway.once", low=0, high=1),
        modulators=[lfo],
    )
    assert [live(made, "sway.shape", band_low=x) for x in (0.0, 0.3, 1.0)] == [0.0, 1.0, 4.0]
    assert [live(made, "sway.once", band_low=x) for x in (0.4, 0.6)] == [0.0, 1.0]


def test_each_hit_goes_to_the_next_of_several_targets_and_is_shaped_there():
    targets = ["ring.radius", "ring.width", "feedback.fade"]
    made = router(
        route(
            signal="hit-kick",
            targets=targets,
            low=0.0,
            high=0.3,
            shapers=[part("cycle"), part("pulse", decay=100.0)],
        )
    )
    tick(made)
    seen = []
    for _ in range(4):
        values = tick(made, hits={"hit-kick": 1})
        seen.append([round(float(values[made.index_of[t]]), 3) for t in targets])
        for _ in range(30):
            tick(made)
    assert [row.index(0.3) for row in seen] == [0, 1, 2, 0]
    assert all(sum(value > 0.01 for value in row) == 1 for row in seen)


@given(st.lists(st.integers(0, 3), min_size=1, max_size=60))
def test_hits_are_neither_lost_nor_doubled_among_targets(train):
    """Against a slow reference: every hit is one step of exactly one target, in turn."""
    targets = ["ring.radius", "ring.width", "feedback.fade"]
    made = router(
        route(
            signal="hit-kick",
            targets=targets,
            low=0.0,
            high=1.0,
            shapers=[part("cycle"), part("step", size=0.01)],
        )
    )
    counts, turn = [0, 0, 0], 0
    for hits in train:
        tick(made, hits={"hit-kick": hits})
        for _ in range(hits):
            counts[turn] += 1
            turn = (turn + 1) % 3
    got = [lane["out"][0] for lane in made._room.lanes]
    np.testing.assert_allclose(got, np.array(counts) * 0.01, atol=1e-12)


def test_editing_one_route_compiles_one_and_keeps_what_all_remember():
    smooth = part("smooth", attack=500.0)
    show = demo_show().model_copy(
        update={
            "routes": [
                route(shapers=[smooth]),
                route(id="s", signal="band-mid", target="feedback.fade", low=0.0, high=0.9, shapers=[smooth]),
            ]
        }
    )
    made = Router()
    made.configure(show)
    for _ in range(30):
        before = tick(made, band_low=1.0, band_mid=1.0)
    compiled = made.compiled
    for edit in (
        SetValue(path="/routes/s/low", value=0.1),
        SetValue(path="/routes/s/shapers/smooth/values/attack", value=600.0),
    ):
        show, _ = apply(show, edit)
        made.configure(show)
    assert made.compiled == compiled + 2
    after = tick(made, band_low=1.0, band_mid=1.0)
    for target in ("ring.radius", "feedback.fade"):
        assert abs(after[made.index_of[target]] - before[made.index_of[target]]) < 0.05


def test_taking_a_route_away_leaves_the_others_as_they_are():
    routes = [
        route(id=f"r{i}", signal="hit-kick", target=target, low=0.0, high=1.0, shapers=[part("toggle")])
        for i, target in enumerate(("ring.radius", "ring.width", "feedback.fade"))
    ]
    show = demo_show().model_copy(update={"routes": routes})
    made = Router()
    made.configure(show)
    tick(made, hits={"hit-kick": 1})
    made.configure(show.model_copy(update={"routes": routes[1:]}))
    after = tick(made)
    assert after[made.index_of["feedback.fade"]] == 0.995 and after[
        made.index_of["ring.radius"]
    ] == pytest.approx(0.3)


def test_movers_move_and_can_be_moved():
    sway = NamedModulator(id="a", name="Sway", part=part("lfo", "sway", by="seconds", rate=1.0, shape="saw"))
    made = router(route(signal="modulator-a"), modulators=[sway])
    values = [live(made, "ring.radius") for _ in range(60)]
    np.testing.assert_allclose(values, 0.2 + 0.4 * np.arange(1, 61) / 60 % 0.4, atol=1e-9)
    # The fader's own level is a parameter like any other.
    fader = NamedModulator(id="f", name="Hand", part=part("fader", "hand", level=0.25))
    made = router(
        route(signal="modulator-f"), route(id="s", target="hand.level", low=0.0, high=1.0), modulators=[fader]
    )
    assert live(made, "ring.radius", band_low=0.75) == pytest.approx(0.2 + 0.4 * 0.75)


@pytest.mark.parametrize(
    "modulators",
    [
        [NamedModulator(id="a", name="A", part=part("lfo", "a"))],
        [
            NamedModulator(id="a", name="A", part=part("formula", "a", words="b")),
            NamedModulator(id="b", name="B", part=part("formula", "b", words="a + low")),
        ],
    ],
)
def test_what_goes_round_in_a_ring_is_named_and_the_show_goes_on(modulators):
    made = router(
        route(
            id="ring",
            signal="modulator-a",
            target=f"{modulators[0].part.id}.{'rate' if len(modulators) == 1 else 'nothing'}",
            low=0.1,
            high=5.0,
        ),
        route(id="fine"),
        modulators=modulators,
    )
    found = [*made.faults().values(), *made.modulator_faults().values()]
    words = " ".join(fault.text for fault in found)
    assert FaultCode.RING in {fault.code for fault in found}
    assert "ring: A → " in words
    assert live(made, "ring.radius", band_low=1.0) == pytest.approx(0.6)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"target": "gone.radius"}, "moved is gone"),
        ({"signal": "band-gone"}, "signal is gone"),
        ({"target": "ring.tint"}, "two colours"),
        ({"low": "#000000"}, "two numbers"),
        ({"targets": ["ring.radius", "gone.x"]}, "One of those"),
        ({"shapers": [part("mix", signal="gone")]}, "Mix listens to a signal that is gone"),
    ],
)
def test_what_is_wrong_with_a_route_is_named_and_stops_nothing(change, words):
    made = router(route(**change), route(id="fine", target="ring.width", low=0.0, high=0.5))
    assert words in made.faults()["r"].text
    assert live(made, "ring.width", band_low=1.0) == pytest.approx(0.5)


def test_a_runaway_shaper_chain_stops_nothing():
    made = router(route(shapers=[part("gain", f"g{i}", gain=16.0) for i in range(8)]))
    assert math.isfinite(live(made, "ring.radius", band_low=1.0))
    assert made.faults()["r"].code == FaultCode.TOO_LARGE


def test_a_grabbed_value_stays_with_the_hand_and_glides_back():
    made = router(route())
    index = made.index_of["ring.radius"]
    tick(made, band_low=1.0)
    made.overrides.set("ring.radius", [1.5])
    assert live(made, "ring.radius", band_low=1.0) == 1.5
    made.overrides.release("ring.radius", 0.5)
    way = [tick(made, band_low=1.0)[index] for _ in range(31)]
    assert (
        1.4 < way[0] < 1.5
        and way[14] == pytest.approx((1.5 + 0.6) / 2, abs=0.01)
        and way[-1] == pytest.approx(0.6)
    )
    assert all(a >= b for a, b in zip(way, way[1:]))


def test_a_change_with_a_glide_goes_there_without_a_leap():
    made = router(route())
    show = demo_show().model_copy(update={"routes": []})
    tick(made, band_low=1.0)
    made.configure(show, glide_s=1.0)
    way = [live(made, "ring.radius") for _ in range(61)]
    assert (
        way[0] == pytest.approx(0.6, abs=0.01)
        and way[-1] == pytest.approx(0.3)
        and np.abs(np.diff(way)).max() < 0.01
    )


def test_each_route_tells_how_far_it_moved_in_the_last_bar():
    made = router(route(), route(id="s", signal="band-mid", target="ring.width", low=0.0, high=1.0))
    for n in range(60):
        tick(made, band_low=0.5 + 0.3 * math.sin(n / 5), now=TickContext(bars=int(n == 59)))
    assert made.telemetry()[0, 1] == pytest.approx(0.6, abs=0.02) and made.telemetry()[1, 1] == 0.0


def test_a_clamped_target_is_told_of():
    made = router(route(low=0.0, high=5.0))
    for _ in range(600):
        tick(made, band_low=1.0)
    assert made.telemetry()[0, 2] > 0.9

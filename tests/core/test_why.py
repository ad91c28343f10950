"""Why not? Each reason is in words, and what it offers cures it."""

import pytest

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.routing.telemetry import RouteTelemetry, Telemetry
from fulgura.core.routing.why import why_parameter, why_route, why_signal
from fulgura.core.show.document import Show
from fulgura.core.show.edits import apply
from fulgura.core.show.inputs import Input
from fulgura.core.show.part import Part
from fulgura.core.show.routes import NamedModulator, Route
from fulgura.core.show.signals import signals
from fulgura.demo.show import demo_show


def show_with(**changes) -> Show:
    route = Route(
        **{"id": "r", "signal": "band-low", "targets": ["ring.radius"], "low": 0.2, "high": 0.6, **changes}
    )
    return demo_show().model_copy(update={"routes": [route]})


def telemetry(show: Show, **changes) -> Telemetry:
    usual = {
        "routes": {"r": RouteTelemetry(peak=0.5, moved=0.8)},
        "peaks": {signal.id: 0.5 for signal in signals(show)},
        "levels_dbfs": {"main": -12.0},
        "signals": {signal.id: signal for signal in signals(show)},
    }
    return Telemetry(**{**usual, **changes})


@pytest.mark.parametrize(
    ("change", "measured", "words"),
    [
        ({"muted": True}, RouteTelemetry(0.5, 0.5), "Muted"),
        ({"amount": 0.0}, RouteTelemetry(0.5, 0.5), "amount is 0"),
        ({"high": 0.2}, RouteTelemetry(0.5, 0.0), "no width"),
        (
            {"shapers": [Part(id="g", kind="gate", values={"threshold": 0.45})]},
            RouteTelemetry(0.31, 0.0),
            "peak 0.31 of 0.45",
        ),
        (
            {"shapers": [Part(id="r", kind="range", values={"low": 0.5})]},
            RouteTelemetry(0.3, 0.0),
            "below its range from 0.50",
        ),
        (
            {"shapers": [Part(id="t", kind="toggle")]},
            RouteTelemetry(0.5, 0.0),
            "counts hits, and a level has none",
        ),
        ({}, RouteTelemetry(0.5, 0.5, 0.92), "92% of the time"),
        ({}, RouteTelemetry(0.5, 0.0), "did not change in the last bar"),
        ({}, RouteTelemetry(0.5, 0.5, 0.0, Fault.of(FaultCode.RING, names="A → A")), "ring"),
        ({}, RouteTelemetry(0.5, 0.5, 0.0, Fault.of(FaultCode.TARGET_GONE)), "gone"),
        (
            {"low": "#000000", "high": "#ffffff"},
            RouteTelemetry(0.5, 0.5, 0.0, Fault.of(FaultCode.NEEDS_NUMBERS)),
            "two numbers",
        ),
    ],
)
def test_a_route_that_does_not_move_says_why_and_its_cure_can_be_made(change, measured, words):
    show = show_with(**change)
    reason = why_route(show, show.routes[0], telemetry(show, routes={"r": measured}))
    assert words in reason.text and reason.cure
    if reason.edit is not None:
        cured, _ = apply(show, reason.edit)
        assert cured != show
        after = (
            why_route(cured, cured.routes[0], telemetry(cured, routes={"r": RouteTelemetry(0.5, 0.5)}))
            if cured.routes
            else None
        )
        assert after is None or after.text != reason.text
    else:
        assert reason.action


def test_a_moving_route_has_nothing_to_explain():
    show = demo_show()
    assert why_route(show, show.routes[0], telemetry(show, routes={"r1": RouteTelemetry(0.5, 0.4)})) is None


@pytest.mark.parametrize(
    ("changes", "measured", "signal", "words"),
    [
        (
            {},
            {"faults": {"main": Fault.of(FaultCode.DEVICE_GONE, device="The box", why="pulled")}},
            "band-low",
            "The box is not there",
        ),
        ({}, {"playing": {"main": False}}, "band-low", "paused"),
        ({}, {"levels_dbfs": {"main": -90.0}}, "band-low", "Nothing is heard"),
        (
            {"inputs": [Input(level={"floor_dbfs": -30.0})]},
            {"levels_dbfs": {"main": -90.0}},
            "band-low",
            "below its floor",
        ),
        ({}, {"sure_of_beat": False}, "beat-phase", "No steady beat"),
        ({}, {}, "hit-kick", "No kick was caught"),
        ({}, {}, "band-low", "silent while"),
        ({}, {}, "band-gone", "gone"),
        (
            {
                "modulators": [
                    NamedModulator(
                        id="a", name="Formula", part=Part(id="sum", kind="formula", values={"words": "lwo"})
                    )
                ]
            },
            {"modulators": {"sum": Fault.of(FaultCode.UNKNOWN_NAME, name="lwo")}},
            "modulator-a",
            "“lwo”",
        ),
        (
            {
                "modulators": [
                    NamedModulator(
                        id="a", name="Sway", part=Part(id="sway", kind="lfo", values={"once": True})
                    )
                ]
            },
            {},
            "modulator-a",
            "of which signal is not said",
        ),
    ],
)
def test_a_signal_at_rest_says_why(changes, measured, signal, words):
    show = demo_show().model_copy(update=changes)
    reason = why_signal(show, signal, telemetry(show, peaks={}, **measured))
    assert words in reason.text
    if reason.edit is not None:
        apply(show, reason.edit)


def test_a_parameter_says_who_holds_it_what_hides_it_and_that_nothing_moves_it():
    show = demo_show()

    def words(show, target, **changes):
        return " ".join(reason.text for reason in why_parameter(show, target, telemetry(show, **changes)))

    assert "Nothing moves it" in words(show, "ring.width")
    assert "hand holds it" in words(show, "ring.radius", overridden={"ring.radius"})
    hidden = show.model_copy(deep=True)
    hidden.looks[0].layers[0].visible = False
    assert "layer is hidden" in words(hidden, "ring.radius")
    for dark, lamps, pictures in (("off", 0, 0), ("all", 1, 1), ("lights", 1, 0), ("pictures", 0, 1)):
        now = show.model_copy(update={"blackout": dark})
        assert ("Blackout" in words(now, "lamp-1.level")) == bool(lamps)
        assert ("Blackout" in words(now, "ring.radius")) == bool(pictures)
    assert "not there" in words(show, "gone.x")


def test_every_shaper_that_counts_hits_is_known_as_one():
    assert {name for name, kind in Shaper.kinds.items() if kind.counts_hits} == {
        "pulse",
        "step",
        "toggle",
        "hold",
        "cycle",
        "pick",
    }

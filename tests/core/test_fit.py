"""Fitting to what really arrives, and routes in a few words."""

import numpy as np
import pytest

from fulgura.core.routing.fit import arriving, fit_range, fit_threshold, peaks_of
from fulgura.core.routing.indices import indices
from fulgura.core.routing.typed import understand
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.core.show.signals import signals
from fulgura.demo.show import demo_show


def test_a_range_is_fitted_to_nine_tenths_of_what_came():
    values = np.random.default_rng(1).random(20_000) * 0.4
    assert fit_range(values) == pytest.approx((0.02, 0.38), abs=0.005)
    assert fit_range(np.full(600, 0.3)) is None


def test_a_threshold_is_fitted_between_small_and_large_peaks():
    """Otsu's threshold of two clear groups lies between them."""
    rng = np.random.default_rng(2)
    values = np.zeros(600)
    values[5::40] = 0.7 + 0.1 * rng.random(15)
    values[25::40] = 0.1 + 0.1 * rng.random(15)
    assert 0.25 < fit_threshold(values) < 0.65
    assert fit_threshold(np.zeros(100)) is None and len(peaks_of(values)) == 30


def test_what_arrives_at_a_shaper_went_through_those_before_it():
    route = Route(
        id="r",
        signal="level",
        targets=["ring.radius"],
        low=0,
        high=1,
        shapers=[
            Part(id="g", kind="gain", values={"gain": 0.5}),
            Part(id="off", kind="gain", on=False),
            Part(id="f", kind="range"),
        ],
    )
    values = np.linspace(0, 1, 50)[:, None]
    np.testing.assert_allclose(
        arriving(route, "f", values, np.zeros((50, 1), dtype=int), {"level": 0}, 1 / 60), values[:, 0] / 2
    )


@pytest.mark.parametrize(
    ("text", "signal", "target"),
    [
        ("kick ring radius", "hit-kick", "ring.radius"),
        ("low feed fade", "band-low", "feedback.fade"),
        ("beat phase ring turn", "beat-phase", "ring.rotation"),
        ("hat moves gallery level", "hit-hat", "lamp-1.level"),
        ("Kick -> ring · width", "hit-kick", "ring.width"),
    ],
)
def test_a_few_words_are_understood(text, signal, target):
    show = demo_show()
    names = {
        "ring": "Ring",
        "feedback": "Feedback",
        "finish": "Grade",
        "lamp-1": "Gallery rail 1",
        "lantern-mix": "Lantern ring",
    }
    best = understand(text, signals(show), indices(show), names)
    assert (best[0].signal, best[0].target) == (signal, target)


def test_words_that_mean_nothing_find_nothing():
    show = demo_show()
    assert (
        understand("xylophone of doom", signals(show), indices(show), {}) == []
        and understand("", signals(show), indices(show), {}) == []
    )

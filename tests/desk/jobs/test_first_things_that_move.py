"""A shape that the peak swells, a bloom that the kick pumps, a size that each hit raises, a picture that each
snare deals anew.
"""

import numpy as np
import pytest

from fulgura.core.synthesis import kit
from fulgura.demo.tracks import lamp_room
from tests.desk.jobs.conftest import RATE, struck_sound, tone


def test_a_plain_shape_swells_with_the_peak(hands):
    """J05."""
    job = hands.job
    hands.side_by_side()
    hands.look("Swell")
    shape = hands.layer("shape")["source"]["id"]
    hands.numbers("sides", "4")
    route = hands.route("peak shape radius from 0.1 to 1")
    card = hands.page.locator(f"article[data-route={route}]")
    hands.click(card.get_by_label("range From", exact=True).first)
    hands.type("0", "Tab")
    hands.type("0.4")
    for level, radius, within in ((0.4, 1.0, 0.02), (0.2, 0.55, 0.0165), (0.0, 0.1, 0.01)):
        job.play(tone(1000.0, 6.0, level), f"Tone {level}")
        hands.page.wait_for_timeout(1500)
        _, rows = job.watch(1.0, f"{shape}.radius")
        assert rows.mean() == pytest.approx(radius, abs=within), level
    # Too crude: one band on one side.
    hands.click(card.get_by_role("button", name="Mute", exact=True))
    # In silence: a route that is made now fits itself to nothing, and takes the whole of its signal.
    hands.page.wait_for_timeout(10_500)
    hands.route("mid shape height from 0.2 to 1")
    hands.finished("J05")
    for hz, moves in ((1000.0, True), (60.0, False)):
        job.play(tone(hz, 6.0, 0.3), f"Tone {hz}")
        hands.page.wait_for_timeout(1500)
        _, rows = job.watch(1.0, f"{shape}.tall", f"{shape}.wide", f"{shape}.radius")
        assert rows[:, 0].mean() > 0.35 if moves else rows[:, 0].max() < 0.21, hz
        assert np.ptp(rows[:, 1:], axis=0).max() == 0.0


def test_a_bloom_that_a_drum_pumps_and_a_size_that_each_hit_raises(hands):
    """J14."""
    job = hands.job
    hands.side_by_side()
    hands.look("Pump")
    shape = hands.layer("shape")["source"]["id"]
    bloom = hands.effect("bloom")
    job.play(lamp_room().finished()[: 40 * RATE], "Lamp Room")
    hands.page.wait_for_timeout(9000)
    hands.route("low bloom amount")
    step = hands.route("kick shape radius by step 1/16")
    # The bloom peaks with each kick, and has come to rest before the next.
    kicks, times, rows = job.struck(6.0, "kick", f"{bloom}.amount", f"{shape}.radius")
    amount = rows[:, 0] - rows[:, 0].min()
    full = amount.max()
    assert full > 0.1 and len(kicks) > 8
    for kick, following in zip(kicks[1:-2], kicks[2:-1]):
        near = (times > kick - 0.05) & (times < kick + 0.25)
        assert 0.0 < times[near][amount[near].argmax()] - kick < 0.075
        before = (times > following - 0.05) & (times < following - 0.02)
        assert amount[before].max() < 0.15 * full
    # Each kick is one step of the same size, up to the top and anew.
    change = np.diff(rows[:, 1])
    steps = change[np.abs(change) > 1e-4]
    up = steps[steps > 0]
    assert len(steps) == pytest.approx(len(kicks), abs=1) and np.ptp(up) < 1e-3
    # And down again by as many.
    hands.chip(step, "step Size", "-1/16")
    hands.finished("J14")
    back = np.diff(job.struck(6.0, "kick", f"{shape}.radius")[2][:, 0])
    assert (back[np.abs(back) > 1e-4] < 0).sum() >= 8
    # Without gain nothing moves.
    job.stack.set("/inputs/main/gain_db", -40.0)
    hands.page.wait_for_timeout(800)
    assert np.ptp(job.watch(2.0, f"{bloom}.amount")[1]) < 0.02 * full


def test_a_picture_that_each_snare_deals_anew(hands):
    """J18: the pattern's number goes on by one with each snare, and does not come back."""
    job = hands.job
    hands.side_by_side()
    hands.look("Deal")
    noise = hands.layer("noise")["source"]["id"]
    hands.route("snare noise pattern")
    shape = hands.layer("shape")["source"]["id"]
    size = hands.route("snare shape radius by chance")
    hands.finished("J18")
    job.play(struck_sound(kit.snare(), 20, 0.6), "Snares")
    snares, _, rows = job.struck(17.0, "snare", f"{noise}.seed", f"{shape}.radius")
    assert len(snares) == 20
    seed, radius = np.diff(rows[:, 0]), np.diff(rows[:, 1])
    stepped = seed[np.abs(seed) > 1e-4]
    assert len(stepped) == 20 and np.allclose(stepped, 1.0, atol=1e-3)
    moved = np.abs(radius) > 1e-5
    assert 15 <= moved.sum() <= 20 and not (moved & (np.abs(seed) < 1e-4)).any()
    route = next(r for r in job.document()["routes"] if r["id"] == size)
    assert route["low"] - 1e-6 <= rows[:, 1].min() and rows[:, 1].max() <= route["high"] + 1e-6

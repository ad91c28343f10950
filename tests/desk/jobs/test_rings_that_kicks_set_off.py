"""Every kick sets off the next ring; one opacity that low, mid and high take in turn."""

import numpy as np
import pytest

from fulgura.core.synthesis import kit
from harness.stack import wait_for
from tests.desk.jobs.conftest import RATE, struck_sound, tone


def test_every_kick_sets_off_the_next_ring(hands):
    """J20."""
    job, page = hands.job, hands.page
    hands.side_by_side()
    hands.look("Rings")
    ring = hands.layer("ring")
    first = ring["source"]["id"]
    radius = hands.route("kick ring radius from 0.05 to 0.9 over 2 s in turn")
    # Thinner as it grows.
    width = hands.route("kick ring width from 0.05 to 0 over 2 s in turn")
    hands.click(page.locator(f"[data-layer={ring['id']}] .step").first)
    for _ in range(4):
        hands.key("Control+d")
        page.wait_for_timeout(900)
    hands.finished("J20")
    routes = {route["id"]: route for route in job.document()["routes"]}
    assert len(routes[radius]["targets"]) == len(routes[width]["targets"]) == 5
    rings = [target.partition(".")[0] for target in routes[radius]["targets"]]
    assert rings[0] == first
    # Kicks 0.5 s apart: the sixth finds the first ring at rest again.
    job.play(struck_sound(kit.kick(), 16, 0.5), "Kicks")
    addresses = [f"{id}.radius" for id in rings] + [f"{id}.width" for id in rings]
    kicks, times, rows = job.struck(14.0, "kick", *addresses)
    assert len(kicks) == 16
    begun = [times[1:][(np.diff(rows[:, k]) > 1e-5) & (rows[:-1, k] < 0.06)] for k in range(5)]
    first_at = [next(k for k in range(5) if np.abs(begun[k] - kick).min(initial=9) < 0.1) for kick in kicks]
    # They take turns, and none is passed over.
    assert all((b - a) % 5 == 1 for a, b in zip(first_at, first_at[1:]))
    for kick, k in zip(kicks, first_at):
        mine, thin = rows[:, k], rows[:, 5 + k]
        after = (times > kick) & (times < kick + 2.3)
        assert times[after][mine[after].argmax()] - kick == pytest.approx(2.0, abs=0.06)
        assert (np.diff(mine[(times > kick + 0.03) & (times < kick + 1.9)]) > -1e-6).all()
        assert thin[(times > kick + 1.9) & (times < kick + 1.98)].max() < 0.006


def swelling(hz):
    """Half a second of a tone that comes and goes slowly enough to stay in its band."""
    t = np.arange(RATE // 2) / RATE
    return tone(hz, 0.5, 0.3) * np.clip(np.minimum(t, 0.5 - t) / 0.05, 0.0, 1.0)


def test_one_slider_that_low_mid_and_high_take_in_turn(hands):
    """J01."""
    job, page = hands.job, hands.page
    hands.side_by_side()
    hands.look("Turns")
    ring = hands.layer("ring")
    mix = ring["mix"]["id"]
    hands.part(ring, -1)
    route = hands.route("low ring opacity")
    opacity = page.locator("aside [data-parameter=opacity] .socket")
    hands.click(opacity)
    panel = page.get_by_test_id("parameter-panel")
    hands.keep(panel)
    hands.pick(panel, "What moves it", "mid")
    hands.keep(panel)
    hands.pick(panel, "What moves it", "high")
    hands.keep(panel)
    # It strobes: slower, then kept as it is.
    hands.click(panel.locator(".one", has_text="Low").locator(".name"))
    page.wait_for_timeout(400)
    hands.click(panel.get_by_role("button", name="Open the route"))
    card = page.locator(f"article[data-route={route}]")
    hands.click(card.get_by_label("smooth Down", exact=True).first)
    hands.type("600 ms")
    hands.click(card.get_by_label("Name for these steps"))
    hands.type("Calm")
    wait_for(lambda: job.document()["chains"], 10, "the chain")
    hands.click(opacity)
    hands.click(panel.locator(".one", has_text="Low").get_by_role("button", name="Update"))
    page.wait_for_timeout(400)
    # Carried onto an effect, where it is too wild: its range is narrowed.
    bloom = hands.effect("bloom")
    hands.click(page.locator("aside [data-parameter=threshold] .socket"))
    hands.click(panel.locator(".one", has_text="Low").locator(".name"))
    page.wait_for_timeout(500)
    hands.click(panel.get_by_label("Low end", exact=True).first)
    hands.type("0", "Tab")
    hands.type("0.4")
    hands.finished("J01")
    presets = {preset["name"]: preset["id"] for preset in job.document()["presets"]}
    assert set(presets) == {"Low", "Mid", "High"}
    released = [
        part["values"]["release"]
        for r in job.document()["routes"]
        for part in r["shapers"]
        if part["kind"] == "smooth" and f"{mix}.opacity" in r["targets"]
    ]
    assert released == [600.0] and job.document()["chains"][0]["name"] == "Calm"
    copied = next(r for r in job.document()["routes"] if f"{bloom}.threshold" in r["targets"])
    assert copied["shapers"][-1]["values"]["release"] == 600.0
    # Each preset lets its band alone move the opacity; at the fourth it is the hand's.
    sounds = {"Low": 70.0, "Mid": 800.0, "High": 9000.0}
    parts = [np.tile(np.concatenate([swelling(hz), np.zeros(RATE // 2)]), 5) for hz in sounds.values()]
    job.play(np.concatenate(parts), "Three tones")
    place = {"scope": "parameter", "address": f"{mix}.opacity"}
    for name in (*sounds, "Hand"):
        if name == "Hand":
            status, _ = job.stack.call("POST", "/presets/hand-only", place)
        else:
            status, _ = job.stack.call("POST", f"/presets/{presets[name]}/recall", {})
        assert status in (200, 201)
        for i, heard in enumerate(sounds):
            job.stack.call("POST", "/transport/seek", {"seconds": 5.0 * i})
            page.wait_for_timeout(1200)
            rows = job.watch(2.2, f"{mix}.opacity", f"{bloom}.threshold")[1]
            swing = np.ptp(rows[:, 0])
            assert swing > 0.4 if heard == name else swing < 0.1, (name, heard, swing)
            assert rows[:, 1].max() <= 0.4 + 1e-6
    page.reload()
    page.wait_for_selector("[data-column]")
    assert {preset["name"] for preset in job.document()["presets"]} == set(presets)

"""Every kick sets off the next ring; one opacity that low, mid and high take in turn."""

import numpy as np
import pytest

from fulgura.core.synthesis import kit
from harness.stack import wait_for
from tests.desk.jobs.conftest import tone
from tests.desk.jobs.test_first_things_that_move import struck_sound


def test_every_kick_sets_off_the_next_ring(hands):
    """J20."""
    job, page = hands.job, hands.page
    hands.side_by_side()
    hands.look("Rings")
    ring = hands.layer("ring")
    first = ring["source"]["id"]
    radius = hands.route("kick ring radius")
    card = page.locator(f"article[data-route={radius}]")
    hands.step(radius, "Cycle")
    hands.click(card.get_by_role("button", name="cycle earlier"))
    pulse = card.locator("[data-shaper=pulse]")
    hands.click(pulse.get_by_label("pulse Up", exact=True))
    hands.type("2 s", "Tab")
    hands.type("0", "Tab")
    hands.type("0")
    hands.click(pulse.get_by_role("switch", name="pulse Retrigger"))
    # The same again for the width, which thins out as the ring grows.
    hands.key("Control+d")
    wait_for(lambda: len(job.document()["routes"]) == 3, 10, "the copy")
    width = job.document()["routes"][-1]["id"]
    page.wait_for_timeout(400)
    other = page.locator(f"article[data-route={width}]")
    hands.click(other.get_by_role("button", name="Steps"))
    hands.click(other.get_by_role("combobox", name="Moves Ring · radius"))
    hands.click(page.get_by_role("option", name="Ring · width", exact=True))
    hands.chip(width, "Low end", "0.05")
    hands.chip(width, "High end", "0")
    hands.click(page.locator(f"[data-layer={ring['id']}] .step").first)
    for _ in range(4):
        hands.key("Control+d")
        page.wait_for_timeout(900)
    hands.finished("J20")
    routes = {route["id"]: route for route in job.document()["routes"]}
    assert len(routes[radius]["targets"]) == len(routes[width]["targets"]) == 5
    rings = [target.partition(".")[0] for target in routes[radius]["targets"]]
    assert rings[0] == first
    job.play(struck_sound(kit.kick(), 16, 0.5), "Kicks")
    addresses = [f"{id}.radius" for id in rings] + [f"{id}.width" for id in rings]
    kicks, times, rows = job.struck(13.0, "kick", *addresses)
    assert len(kicks) == 16
    rest = rows[0, :5]
    for k, kick in enumerate(kicks):
        mine = rows[:, k % 5]
        # At rest when its kick comes, at the top two seconds later, never begun anew in between.
        assert abs(mine[times <= kick][-1] - rest[k % 5]) < 0.02
        top = times[(times > kick) & (times < kick + 2.2)][
            mine[(times > kick) & (times < kick + 2.2)].argmax()
        ]
        assert top - kick == pytest.approx(2.0, abs=0.06)
        thin = rows[:, 5 + k % 5][(times > kick + 1.9) & (times < kick + 1.98)]
        assert thin.max() < 0.006


def test_one_slider_that_low_mid_and_high_take_in_turn(hands):
    """J01."""
    job, page = hands.job, hands.page
    hands.side_by_side()
    hands.look("Turns")
    ring = hands.layer("ring")
    mix = ring["mix"]["id"]
    hands.part(ring, -1)
    route = hands.route("low ring opacity")
    hands.click(page.locator("aside [data-parameter=opacity] .socket"))
    panel = page.get_by_test_id("parameter-panel")

    def keep(name):
        hands.click(panel.get_by_placeholder("Keep as…"))
        hands.type(name)
        wait_for(lambda: any(p["name"] == name for p in job.document()["presets"]), 10, f"the preset {name}")

    def hear(name):
        hands.click(panel.get_by_role("combobox", name="What moves it"))
        hands.steps += 1
        page.keyboard.type(name)
        page.wait_for_timeout(300)
        page.keyboard.press("Enter")
        page.wait_for_timeout(400)

    keep("Low")
    hear("Mid")
    keep("Mid")
    hear("High")
    keep("High")
    hands.click(panel.get_by_role("button", name="Let it go"))
    page.wait_for_timeout(400)
    keep("Hand")
    hands.finished("J01")
    # Each preset lets its band alone move the opacity; at the fourth it is the hand's.
    sounds = {"Low": 70.0, "Mid": 800.0, "High": 9000.0}
    for name in ("Low", "Mid", "High", "Hand"):
        preset = next(p for p in job.document()["presets"] if p["name"] == name)
        assert job.stack.call("POST", f"/presets/{preset['id']}/recall", {})[0] == 200
        for heard, hz in sounds.items():
            on_and_off = np.tile(np.concatenate([tone(hz, 0.5, 0.5), np.zeros(24_000)]), 6)
            job.play(on_and_off, f"{name} {heard}")
            page.wait_for_timeout(1200)
            swing = np.ptp(job.watch(2.2, f"{mix}.opacity")[1])
            assert swing > 0.25 if heard == name else swing < 0.06, (name, heard, swing)
    page.reload()
    page.wait_for_selector("[data-column]")
    assert {p["name"] for p in job.document()["presets"]} >= {"Low", "Mid", "High", "Hand"}
    assert route

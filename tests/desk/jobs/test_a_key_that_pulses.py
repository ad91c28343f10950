"""One key lets the picture pulse in changing colours with each kick; one press ends the whole reaction."""

import numpy as np
from playwright.sync_api import expect

from fulgura.core.clock import SAMPLE_RATE
from fulgura.demo.tracks import lamp_room
from harness.stack import wait_for


def test_each_kick_lights_a_new_colour_and_one_key_ends_it(job):
    page = job.page
    page.keyboard.press("3")
    look = job.look("Drop")
    job.layer("camera")
    pulse = job.layer("solid")
    mix = pulse["mix"]["id"]
    base = f"/looks/{look}/layers/{pulse['id']}"
    job.stack.set(f"{base}/mix/values/blend", "add")
    job.stack.set(f"{base}/mix/values/opacity", 0.0)
    job.stack.set(f"{base}/source/values/tint", "#ff2000")
    grade, values = job.effect(pulse["id"], "grade")
    # Each kick lights it, for a fifth of a second; a free turning hue lies under it.
    _, turning = job.stack.call("POST", "/modulators", {"kind": "lfo"})
    part = f"/modulators/{turning['id']}/part/values"
    for name, value in (("shape", "saw"), ("by", "seconds"), ("rate", 0.07)):
        job.stack.set(f"{part}/{name}", value)
    for signal, target, low, high in (
        ("hit-kick", f"{mix}.opacity", 0.0, 0.8),
        (f"modulator-{turning['id']}", f"{grade}.hue", -180.0, 180.0),
    ):
        _, route = job.stack.call("POST", "/routes", {"signal": signal, "targets": [target]})
        job.stack.set(f"/routes/{route['id']}/low", low)
        job.stack.set(f"/routes/{route['id']}/high", high)
        if signal == "hit-kick":
            shaper = {"id": "pulse", "kind": "pulse", "values": {"decay": 200.0, "strength": False}}
            job.stack.set(f"/routes/{route['id']}/shapers", [shaper])
    # The pad is made on the desk: which routes it switches is chosen there.
    job.run()
    page.get_by_role("button", name="Change", exact=True).click()
    page.get_by_role("button", name="Put a pad into place 1", exact=True).click()
    panel = page.locator(".p-drawer")
    panel.get_by_role("combobox", name="What it does").click()
    page.get_by_role("option", name="Routes on and off", exact=True).click()
    panel.get_by_role("combobox", name="How it is played").click()
    page.get_by_role("option", name="On and off in turn").click()
    panel.get_by_role("combobox", name="Routes").click()
    page.locator(".p-select-filter").fill("look Drop")
    page.get_by_role("option", name="Routes of the look Drop").click()
    pad = wait_for(lambda: job.document()["pages"][0]["pads"][0], 5, "the pad")
    wait_for(lambda: _pad(job)["actions"][0]["values"]["routes"] == f"look {look}", 5, "its routes")
    page.locator(".p-drawer-close-button").click()
    page.wait_for_timeout(500)
    page.get_by_role("button", name="Change", exact=True).click()
    # … and learnt on a key.
    page.get_by_role("button", name="Learn", exact=True).click()
    key = page.get_by_role("button", name="Pad 1:")
    key.click()
    expect(page.get_by_text("Now press a pad, a key or a note")).to_be_visible()
    page.keyboard.press("p")
    wait_for(lambda: job.document()["mappings"], 5, "the key")
    page.get_by_role("button", name="Learn", exact=True).click()
    assert pad["mode"] in ("press", "switch") and key.get_attribute("aria-pressed") == "true"
    made = lamp_room()
    job.play(made.samples[: 16 * SAMPLE_RATE], "Lamp Room")
    job.stack.set("/inputs/main/track/loop", True)
    page.wait_for_timeout(4000)
    times, rows = job.watch(8.0, f"{mix}.opacity", f"{grade}.hue")
    lit, hue = rows[:, 0], rows[:, 1]
    begins = [k for k in range(1, len(lit)) if lit[k] > 0.5 and lit[k - 1] < 0.3]
    gaps = np.diff(times[begins])
    assert len(begins) >= 12 and abs(np.median(gaps) - 60 / 124) < 0.02
    for at in begins[:-1]:
        after = np.searchsorted(times, times[at] + 0.25)
        assert lit[after] < 0.05 * 0.8 + 1e-6, "under 5 % after 250 ms"
    turned = np.abs(np.diff(hue[begins]))
    assert np.minimum(turned, 360 - turned).min() > 10.0, "each has another colour"
    assert max(sum(abs(t - u) < 1.0 and u >= t for u in times[begins]) for t in times[begins]) <= 3
    # One key, and the picture is the camera's alone.
    page.keyboard.press("p")
    wait_for(lambda: key.get_attribute("aria-pressed") == "false", 5, "the pad")
    page.wait_for_timeout(400)
    _, rows = job.watch(2.0, f"{mix}.opacity")
    assert rows.max() == 0.0
    page.keyboard.press("p")
    wait_for(lambda: job.watch(1.0, f"{mix}.opacity")[1].max() > 0.5, 10, "the pulse again")
    job.stack.set("/inputs/main/track/playing", False)
    page.wait_for_timeout(700)
    assert job.watch(1.0, f"{mix}.opacity")[1].max() < 0.01, "without music nothing"


def _pad(job):
    return job.document()["pages"][0]["pads"][0]

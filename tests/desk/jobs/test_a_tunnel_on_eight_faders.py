"""A triangle's outline that comes and goes at once, steered on eight faders; one key leaves the newest."""

import io

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from fulgura.demo.tracks import lamp_room
from harness.stack import wait_for

NAMES = ("Left-right", "Up-down", "Red", "Green", "Blue", "Size", "Reaction", "Depth")


def lit(page) -> np.ndarray:
    """Which pixels of the live picture are lit."""
    shot = page.locator(".shown canvas").screenshot()
    pixels = np.asarray(Image.open(io.BytesIO(shot)).convert("RGB")).astype(float)
    return pixels.max(axis=2) > 24


def test_a_tunnel_to_both_sides_on_eight_faders(job):
    page = job.page
    page.keyboard.press("3")
    look = job.look("Tunnel")
    base = f"/looks/{look}/layers"
    outline = job.layer("ring")
    ring = outline["source"]["id"]
    values = f"{base}/{outline['id']}/source/values"
    for name, value in (("sides", 3.0), ("radius", 0.3), ("width", 0.02), ("glow", 0.0), ("tint", "#ffffff")):
        job.stack.set(f"{values}/{name}", value)
    trails = []
    for _ in range(2):
        layer = job.layer("again")
        job.stack.set(f"{base}/{layer['id']}/source/values/source", outline["id"])
        job.stack.set(f"{base}/{layer['id']}/mix/values/blend", "add")
        effect, path = job.effect(layer["id"], "feedback")
        for name, value in (("rotation", 0.0), ("hue", 0.0), ("fade", 0.9), ("scale", 1.0)):
            job.stack.set(f"{path}/{name}", value)
        trails.append((effect, path))
    _, route = job.stack.call("POST", "/routes", {"signal": "level", "targets": [f"{ring}.radius"]})
    reaction = f"/routes/{route['id']}"
    job.stack.set(f"{reaction}/low", 0.3)
    job.stack.set(f"{reaction}/high", 1.3)
    job.run()
    (larger, there), (smaller, back) = trails
    moves = [
        [(f"{there}/x", -1.0, 1.0), (f"{back}/x", 1.0, -1.0)],
        [(f"{there}/y", -1.0, 1.0), (f"{back}/y", 1.0, -1.0)],
        [(f"{values}/tint#red", 0.0, 1.0)],
        [(f"{values}/tint#green", 0.0, 1.0)],
        [(f"{values}/tint#blue", 0.0, 1.0)],
        [(f"{there}/scale", 1.0, 1.02), (f"{back}/scale", 1.0, 0.98)],
        [(f"{reaction}/amount", 0.0, 1.0)],
        [(f"{there}/fade", 0.5, 0.95), (f"{back}/fade", 0.5, 0.95)],
    ]
    pages = job.document()["pages"][0]["id"]
    rows = [
        {
            "id": f"f{at}",
            "name": name,
            "at": at,
            "moves": [{"target": t, "low": a, "high": b} for t, a, b in each],
        }
        for at, (name, each) in enumerate(zip(NAMES, moves))
    ]
    job.stack.set(f"/pages/{pages}/faders", rows)

    def fader(name: str, key: str) -> None:
        page.get_by_role("slider", name=f"{name}").press(key)
        page.wait_for_timeout(250)

    # Both sides go apart, and turn round with the fader.
    for key, way in (("End", 1.0), ("Home", -1.0)):
        fader("Fader 1: Left-right", key)
        wait_for(
            lambda way=way: [job.watch(0.2, f"{e}.x")[1][-1, 0] for e in (larger, smaller)] == [way, -way],
            5,
            "both sides",
        )
    for number in (3, 4, 5):
        fader(f"Fader {number}:", "Home")
    assert job.shown()["layers"][0]["source"]["values"]["tint"] == "#000000"
    for number in (3, 4, 5):
        fader(f"Fader {number}:", "End")
    wait_for(lambda: job.shown()["layers"][0]["source"]["values"]["tint"] == "#ffffff", 5, "white")
    fader("Fader 6: Size", "End")
    # The reaction: none, then all of it.
    job.play(lamp_room().samples[: 14 * 48_000], "Lamp Room")
    page.wait_for_timeout(4000)
    fit = next(step for step in job.document()["routes"][-1]["shapers"] if step["kind"] == "range")
    assert job.stack.call("POST", f"/routes/{route['id']}/shapers/{fit['id']}/fit")[0] == 200
    fader("Fader 7: Reaction", "Home")
    page.wait_for_timeout(500)
    still = job.watch(2.0, f"{ring}.radius")[1][:, 0]
    assert np.ptp(still) < 0.01 * 0.3
    fader("Fader 7: Reaction", "End")
    page.wait_for_timeout(500)
    swing = np.ptp(job.watch(2.5, f"{ring}.radius")[1][:, 0])
    assert 0.1 <= swing <= 0.5
    # Depth dims each pass: at 0.9 a trace of before is under 5 % after 29 of them.
    fader("Fader 8: Depth", "End")
    assert job.watch(0.2, f"{larger}.fade")[1][-1, 0] == pytest.approx(0.95)
    assert 0.9**29 < 0.05
    # One key leaves only the newest outline: the picture stands still, then all but that is forgotten.
    clear, freeze = job.pad(0, "clear-feedback"), job.pad(1, "freeze-all")
    page.get_by_role("button", name="Learn", exact=True).click()
    page.get_by_role("button", name="Pad 1:").click()
    expect(page.get_by_text("Now press a pad, a key or a note")).to_be_visible()
    page.keyboard.press("c")
    wait_for(lambda: job.document()["mappings"], 5, "the key")
    page.get_by_role("button", name="Learn", exact=True).click()
    page.wait_for_timeout(1200)
    page.get_by_role("button", name="Pad 2:").click()
    page.wait_for_timeout(700)
    before = lit(page)
    page.keyboard.press("c")
    page.wait_for_timeout(700)
    after = lit(page)
    assert clear != freeze and 0 < after.sum() < 0.5 * before.sum(), (before.sum(), after.sum())
    page.wait_for_timeout(500)
    assert (lit(page) == after).mean() > 0.999, "and it stands still"

"""Particles that a kick swells and a tone throws open; a ball whose skin is the spectrum's past; boxes that a
picture places; the sound's own line and spectra.
"""

import numpy as np
import pytest
from playwright.sync_api import expect

from fulgura.core.synthesis import kit
from fulgura.demo.tracks import lamp_room
from harness.stack import wait_for
from tests.desk.jobs.conftest import RATE, tone
from tests.desk.jobs.test_first_things_that_move import struck_sound


def test_particles_that_a_kick_swells_and_a_tone_throws_open(hands):
    """J08, but for a second pattern of birth and colours that are drawn by chance."""
    job = hands.job
    hands.side_by_side()
    hands.look("Swarms")
    calm = hands.layer("particles")["source"]["id"]
    hands.numbers("sprite_size", "0.02")
    burst = hands.layer("particles")["source"]["id"]
    hands.numbers("sprite_size", "0")
    kick = hands.route("kick particles sprite size")
    size = hands.route("mid particles 2 sprite size")
    hands.chip(size, "High end", "0.5")
    births = hands.route("mid particles 2 rate")
    hands.chip(births, "High end", "1200")
    hands.finished("J08")
    assert len({kick, size, births}) == 3
    silence, sound = np.zeros(3 * RATE), tone(800.0, 2.0, 0.5)
    job.play(np.concatenate([silence, sound, silence, silence]), "Tone")
    times, rows = job.watch(8.0, f"{burst}.sprite_size", f"{burst}.rate", f"{calm}.sprite_size")
    assert rows[:, 0].min() < 0.01 and rows[:, 0].max() > 0.45
    began = times[rows[:, 0] > 0.02][0]
    assert times[rows[:, 0] > 0.4][0] - began <= 0.15
    assert rows[:, 1].max() >= 2.8 * rows[:, 1].min()
    after = times[rows[:, 0] > 0.25][-1]
    assert rows[times > after + 1.5, 0].max() < 0.02
    # The kick swells the calm ones alone.
    job.play(struck_sound(kit.kick(), 6, 0.6), "Kicks")
    kicks, _, rows = job.struck(7.0, "kick", f"{calm}.sprite_size")
    swells = np.flatnonzero(np.diff((rows[:, 0] > 0.023).astype(int)) == 1)
    assert len(kicks) == len(swells) == 6


def test_a_ball_whose_skin_is_the_spectrums_past(hands):
    """J07, but for ends that fade, two twists and a skin of many repeats."""
    job = hands.job
    hands.key("3")
    hands.look("Ball")
    past = hands.layer("history")
    relief = hands.layer("relief")["source"]["id"]
    hands.choice("form", "ball")
    hands.choice("picture", past["name"])
    hands.numbers("height", "0.6", "0", "0")
    hands.finished("J07")
    # Untwisted and silent its outline is a circle.
    job.play(np.zeros(8 * RATE), "Silence")
    hands.page.wait_for_timeout(3500)

    def outline():
        light = job.moment().max(axis=2)
        lit = light > 12
        rows, columns = np.nonzero(lit)
        return np.ptp(rows), np.ptp(columns), light

    job.stack.set(f"/looks/{job.document()['look']}/layers/{past['id']}/visible", False)
    hands.page.wait_for_timeout(600)
    high, wide, still = outline()
    assert high / wide == pytest.approx(1.0, abs=0.04) and high > 100
    job.play(lamp_room().finished()[: 30 * RATE], "Lamp Room")
    hands.page.wait_for_timeout(6000)
    assert np.abs(outline()[2] - still).mean() > 1.0
    assert relief


def test_boxes_that_a_picture_places_and_two_cameras_that_swing(hands):
    """J04, but for places by red, green and blue: solids placed by a picture are *Colour and matter*'s."""
    job, page = hands.job, hands.page
    hands.side_by_side()
    hands.look("Cloud")
    noise = hands.layer("noise")
    lattice = hands.layer("lattice")["source"]["id"]
    hands.choice("by", "picture")
    hands.choice("picture", noise["name"])
    for seconds in ("1/40", "1/10"):
        hands.click(page.get_by_role("tab", name="Modulators"))
        before = len(job.document()["modulators"])
        hands.click(page.get_by_role("button", name="New modulator"))
        hands.click(page.get_by_role("menuitem").filter(has_text="LFO").first)
        wait_for(lambda b=before: len(job.document()["modulators"]) == b + 1, 10, "the modulator")
        made = job.document()["modulators"][-1]
        card = page.locator(f"[data-modulator={made['id']}]")
        expect(card).to_be_visible()
        hands.click(card.locator("[data-parameter=by] .choice"))
        hands.click(page.get_by_role("option", name="seconds", exact=True))
        hands.click(card.locator("[data-parameter=rate] .read"))
        page.wait_for_selector("input.typed:focus")
        hands.type(seconds)
    hands.click(page.get_by_role("tab", name="Routes"))
    swing = hands.route("lfo lattice framing")
    turn = hands.route("lfo 2 lattice orbit")
    hands.finished("J04")
    routes = {route["id"]: route for route in job.document()["routes"]}
    assert routes[swing]["targets"] == [f"{lattice}.framing"]
    assert routes[turn]["targets"] == [f"{lattice}.azimuth"]
    rates = [modulator["part"]["values"]["rate"] for modulator in job.document()["modulators"]]
    assert rates == [pytest.approx(1 / 40), pytest.approx(1 / 10)]
    # The second turns once in ten seconds: half of it is seen in five.
    times, rows = job.watch(10.5, f"{lattice}.azimuth", f"{lattice}.framing")
    turned = rows[:, 0] - rows[:, 0].mean()
    crossings = times[1:][np.diff(np.sign(turned)) != 0]
    assert len(crossings) >= 2 and np.diff(crossings)[0] == pytest.approx(5.0, abs=0.5)
    assert 0.1 < np.ptp(rows[:, 1]) <= 1.0


def test_the_sounds_own_line_and_spectra(hands):
    """J02, but for the portrait: which input a drawing hears, and its window, are *Colour and matter*'s."""
    job, page = hands.job, hands.page
    hands.key("3")
    hands.look("Line")
    hands.layer("scope")
    hands.numbers("rotation", "0")
    hands.numbers("trail", "0")
    t = np.arange(12 * RATE) / RATE
    both = 0.5 * np.stack([np.sin(2 * np.pi * 220 * t), np.cos(2 * np.pi * 220 * t)], axis=1)
    job.play(both, "Circle")
    page.wait_for_timeout(3000)
    light = job.moment().max(axis=2)
    rows, columns = np.nonzero(light > 0.5 * light.max())
    radius = np.hypot(rows - 179.5, columns - 319.5)
    assert radius.std() / radius.mean() < 0.03 and radius.mean() > 40
    hands.look("Spectra")
    first = hands.layer("spectrum")
    hands.choice("form", "round")
    for height, level in (("1.1", "0.6"), ("1.5", "0.3")):
        hands.key("Control+d")
        page.wait_for_timeout(900)
        hands.numbers("height", height)
        hands.numbers("level", level)
    hands.click(page.get_by_role("button", name=f"Remove {first['name']}", exact=True))
    wait_for(lambda: len(job.shown()["layers"]) == 2, 10, "the first is gone")
    hands.finished("J02")
    rest = [layer["source"]["values"] for layer in job.shown()["layers"]]
    assert [(v["height"], v["level"], v["form"]) for v in rest] == [(1.1, 0.6, "round"), (1.5, 0.3, "round")]

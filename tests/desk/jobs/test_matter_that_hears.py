"""Particles that a kick swells and a tone throws open; boxes that a picture places, before two cameras."""

import numpy as np
import pytest

from fulgura.core.synthesis import kit
from tests.desk.jobs.conftest import RATE, struck_sound, tone


def test_particles_that_a_kick_swells_and_a_tone_throws_open(hands):
    """J08, but for a second pattern of birth and colours that are drawn by chance."""
    job = hands.job
    hands.side_by_side()
    hands.look("Swarms")
    calm = hands.layer("particles")["source"]["id"]
    burst = hands.layer("particles")["source"]["id"]
    hands.route("kick particles sprite size")
    hands.route("mid particles 2 sprite size from 0 to 0.5 falling 500 ms")
    hands.route("mid particles 2 rate to 1200")
    hands.finished("J08")
    silence, sound = np.zeros(4 * RATE), tone(800.0, 2.0, 0.5)
    job.play(np.concatenate([silence, sound, silence, silence]), "Tone")
    times, rows = job.watch(9.0, f"{burst}.sprite_size", f"{burst}.rate", f"{calm}.sprite_size")
    assert rows[:, 0].min() < 0.01 and rows[:, 0].max() > 0.45
    still = rows[:, 0].argmin()
    began = times[still:][rows[still:, 0] > 0.02][0]
    assert times[still:][rows[still:, 0] > 0.4][0] - began <= 0.05
    assert rows[:, 1].max() >= 2.8 * rows[:, 1].min()
    # 2.5 s after the tone ended all is back.
    ended = times[rows[:, 0] > 0.45][-1]
    assert rows[times > ended + 2.5, 0].max() < 0.02
    # The kick swells the calm ones alone, once each time.
    job.play(struck_sound(kit.kick(), 6, 0.6), "Kicks")
    kicks, _, rows = job.struck(8.0, "kick", f"{calm}.sprite_size")
    swells = np.flatnonzero(np.diff((rows[:, 0] > 0.023).astype(int)) == 1)
    assert len(kicks) == len(swells) == 6


def test_boxes_that_a_picture_places_and_two_cameras_that_swing(hands):
    """J04, but for places by red, green and blue: solids placed by a picture are *Colour and matter*'s."""
    job = hands.job
    hands.side_by_side()
    hands.look("Cloud")
    noise = hands.layer("noise")
    lattice = hands.layer("lattice")["source"]["id"]
    hands.choice("by", "picture")
    hands.choice("picture", noise["name"])
    swing = hands.route("lfo 40 s lattice framing")
    turn = hands.route("lfo 10 s lattice orbit")
    hands.finished("J04")
    routes = {route["id"]: route for route in job.document()["routes"]}
    assert routes[swing]["targets"] == [f"{lattice}.framing"]
    assert routes[turn]["targets"] == [f"{lattice}.azimuth"]
    rates = [modulator["part"]["values"]["rate"] for modulator in job.document()["modulators"]]
    assert rates == [pytest.approx(1 / 40), pytest.approx(1 / 10)]
    # The second swings once in ten seconds, the first in forty.
    times, rows = job.watch(41.0, f"{lattice}.azimuth", f"{lattice}.framing")
    for row, period in ((rows[:, 0], 10.0), (rows[:, 1], 40.0)):
        middle = (row.max() + row.min()) / 2
        crossings = times[1:][np.diff(row > middle)]
        assert np.diff(crossings)[0] == pytest.approx(period / 2, abs=0.5)
    assert np.ptp(rows[:, 1]) > 0.9

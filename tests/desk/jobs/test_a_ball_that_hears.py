"""A ball whose skin is the spectrum's past."""

import numpy as np
import pytest

from fulgura.demo.tracks import lamp_room
from tests.desk.jobs.conftest import RATE


def test_a_ball_whose_skin_is_the_spectrums_past(hands):
    """J07, but for ends that fade, two twists and a skin of many repeats."""
    job = hands.job
    hands.key("3")
    hands.look("Ball")
    past = hands.layer("history")
    hands.layer("relief")
    hands.choice("form", "ball")
    hands.choice("picture", past["name"])
    hands.numbers("waves", "0")
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

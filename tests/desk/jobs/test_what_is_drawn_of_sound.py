"""The sound's own line and spectra, the spectrum's past, a wave that turns in its own traces."""

import numpy as np

from fulgura.demo.tracks import lamp_room
from harness.stack import wait_for
from tests.desk.jobs.conftest import RATE, tone


def test_the_sounds_own_line_and_spectra(hands):
    """J02, but for the portrait; which input a drawing hears, and its window, are *Colour and matter*'s."""
    job, page = hands.job, hands.page
    hands.key("3")
    hands.look("Line")
    hands.layer("scope")
    hands.numbers("trail", "0")
    t = np.arange(14 * RATE) / RATE
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


def test_the_spectrums_past_coloured_by_loudness(hands):
    """J03, but for rows of a pixel a frame, colours at free stops, and columns finer than a hundredth."""
    job = hands.job
    hands.key("3")
    hands.look("Past")
    hands.layer("history")
    hands.choice("goes", "up")
    hands.finished("J03")
    job.play(tone(1000.0, 14.0, 0.8), "Tone")
    hands.page.wait_for_timeout(5000)
    light = job.moment().max(axis=2)
    columns = light[180:].mean(axis=0)
    lit = np.flatnonzero(columns > 0.5 * columns.max())
    assert columns.max() > 60 and np.ptp(lit) < 0.06 * light.shape[1]
    # Where the tone is in octaves between 30 Hz and 16 kHz, there its column stands.
    place = np.log(1000 / 30) / np.log(16_000 / 30)
    assert abs(lit.mean() / light.shape[1] - place) < 0.08


def test_a_wave_that_turns_in_its_own_traces(hands):
    """J12, but for colours of one's own by turns."""
    job = hands.job
    hands.key("3")
    hands.look("Whirl")
    wave = hands.layer("wave")
    job.play(tone(220.0, 90.0, 0.8), "Tone")
    hands.page.wait_for_timeout(2500)
    line = np.mean([(job.moment().max(axis=2) > 127).mean() for _ in range(6)])
    hands.choice("style", "area")
    hands.page.wait_for_timeout(600)
    area = np.mean([(job.moment().max(axis=2) > 127).mean() for _ in range(6)])
    feedback = hands.effect("feedback", wave)
    hands.numbers("scale", "1", "2")
    hands.numbers("hue", "0")
    hands.finished("J12")
    assert area >= 3 * line
    effect = next(part for part in job.shown()["layers"][0]["effects"] if part["id"] == feedback)
    assert (effect["values"]["scale"], effect["values"]["rotation"], effect["values"]["hue"]) == (
        1.0,
        2.0,
        0.0,
    )
    job.play(lamp_room().finished()[: 90 * RATE], "Lamp Room")
    hands.page.wait_for_timeout(60_000)
    white = (job.moment().min(axis=2) > 235).mean()
    assert white < 0.05

"""The sound's own line and spectra, the spectrum's past, a wave that turns in its own traces."""

import numpy as np

from fulgura.demo.tracks import lamp_room
from harness.stack import wait_for
from tests.desk.jobs.conftest import RATE, tone


def test_the_sounds_own_line_and_spectra(hands):
    """J02, but for the portrait."""
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
    # The bars that are chosen hear a voice that is not there: only the others move any more.
    job.stack.set("/inputs/main/track/loop", True)
    job.stack.set("/inputs/main/track/playing", True)
    page.wait_for_timeout(1500)
    lit = (job.moment().max(axis=2) > 60).sum()
    status, voice = job.stack.call("POST", "/inputs", {"name": "Voice"})
    assert status == 201
    hands.choice("input", "Voice")
    wait_for(lambda: job.shown()["layers"][-1]["source"]["values"]["input"] == voice["id"], 10, "the input")
    page.wait_for_timeout(1500)
    assert 0 < (job.moment().max(axis=2) > 60).sum() < lit


def test_the_spectrums_past_coloured_by_loudness(hands):
    """J03; that a row stands 60 pixels higher 60 frames later is measured where frames are counted."""
    job = hands.job
    hands.key("3")
    hands.look("Past")
    hands.layer("history")
    hands.choice("goes", "up")
    hands.finished("J03")
    hands.choice("ramp", "a new ramp")
    wait_for(lambda: job.shown()["layers"][0]["source"]["values"]["ramp"], 10, "the ramp")
    job.play(tone(1000.0, 14.0, 0.8), "Tone")
    job.stack.set("/inputs/main/track/loop", True)
    hands.page.wait_for_timeout(5000)
    light = job.moment().max(axis=2)
    columns = light[180:].mean(axis=0)
    lit = np.flatnonzero(columns > 0.5 * columns.max())
    assert columns.max() > 60 and np.ptp(lit) + 1 < 0.03 * light.shape[1]
    # Where the tone is in octaves between 30 Hz and 16 kHz, there its column stands.
    place = np.log(1000 / 30) / np.log(16_000 / 30)
    assert abs(lit.mean() / light.shape[1] - place) < 0.02
    # Its colour is what stands at the ramp's end; another colour there, and it has that.
    for colour, strongest in (("#2040ff", 2), ("#20ff40", 1)):
        ramp = job.document()["ramps"][0]["id"]
        job.stack.set(f"/ramps/{ramp}/part/values/colour_3", colour)
        hands.page.wait_for_timeout(800)
        shown = job.moment()[200:340, int(lit.mean())].mean(axis=0)
        assert int(np.argmax(shown)) == strongest


def test_a_wave_that_turns_in_its_own_traces(hands):
    """J12: each kick takes the palette's next colour."""
    job = hands.job
    hands.side_by_side()
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
    hands.route("kick waveform tint by step")
    hands.finished("J12")
    assert area >= 3 * line
    effect = next(part for part in job.shown()["layers"][0]["effects"] if part["id"] == feedback)
    assert (effect["values"]["scale"], effect["values"]["rotation"], effect["values"]["hue"]) == (
        1.0,
        2.0,
        0.0,
    )
    job.play(lamp_room().finished()[: 90 * RATE], "Lamp Room")
    job.stack.set("/inputs/main/track/loop", True)
    hands.page.wait_for_timeout(60_000)
    white = (job.moment().min(axis=2) > 235).mean()
    assert white < 0.05
    # The guard holds back what flickers too fast: colours are measured without.
    job.stack.set("/guard", {"on": False, "why_off": "Colours are measured."})
    hands.page.wait_for_timeout(1500)
    in_use = job.stack.show()["colours"]
    colours = np.array([[int(each[i : i + 2], 16) for i in (1, 3, 5)] for each in in_use])
    for _ in range(3):
        pixels = job.moment().reshape(-1, 1, 3)
        ours = (np.abs(pixels - colours).max(axis=2) <= 3).any(axis=1)
        assert ours.sum() > 150  # The newest wave, in a colour of the palette; the rest are its traces.

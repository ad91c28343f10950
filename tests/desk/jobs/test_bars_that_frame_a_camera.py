"""Bars of sound that frame a camera's picture: an overlay for a stream, that follows the music or
the voice.
"""

import io
import threading
import time
from contextlib import contextmanager

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect
from websockets.sync.client import connect

from harness.stack import wait_for
from tests.desk.jobs.conftest import RATE, tone

SIZE = (640, 360)


def picture(job, output):
    """What the overlay gives now: alpha, shape (360, 640), 0..1."""
    raw = job.stack.raw(f"/outputs/{output}/picture.png?width={SIZE[0]}&height={SIZE[1]}")
    return np.asarray(Image.open(io.BytesIO(raw)).convert("RGBA"))[..., 3] / 255.0


def tall(alpha):
    """How many rows the tallest column of bars covers."""
    return int((alpha > 0.5).sum(axis=0).max())


@contextmanager
def speaking(job, input_id):
    """A voice's vowel into an input, as long as this lasts."""
    vowel = sum(tone(140 * n, 0.5, 0.25 / n) for n in range(1, 9)).astype("<f4").tobytes()
    url = f"ws://127.0.0.1:{job.stack.port}/api/v1/audio?input={input_id}&channels=1&rate={RATE}"
    ended = threading.Event()

    def speak():
        with connect(url, origin=job.stack.url) as socket:
            while not ended.is_set():
                socket.send(vowel)
                time.sleep(0.49)

    thread = threading.Thread(target=speak)
    thread.start()
    yield
    ended.set()
    thread.join()


def test_bars_follow_music_or_voice_and_keep_off_the_camera(job):
    page = job.page
    # The sound's meter moves before there are bars.
    music = sum(tone(hz, 60.0, 0.12) for hz in (110, 440, 1760, 4000))
    job.play(music, "Chord")
    job.stack.set("/inputs/main/track/loop", True)
    wait_for(
        lambda: float(page.get_by_test_id("level").inner_text().replace("–∞", "-120")) > -30, 10, "sound"
    )
    voice = job.stack.call("POST", "/inputs", {"name": "Voice"})[1]["id"]
    page.keyboard.press("3")
    look = job.look("Frame")
    bars = job.layer("spectrum")
    base = f"/looks/{look}/layers/{bars['id']}"
    values = f"{base}/source/values"
    upright = {
        "mirrored": False,
        "grows": "upward",
        "count": 24.0,
        "height": 0.5,
        "floor": -63.0,
        "fall": 0.0,
    }
    for name, value in upright.items():
        job.stack.set(f"{values}/{name}", value)
    job.stack.set(f"{base}/mix/values/y", -0.75)
    # An overlay, made on the desk.
    page.keyboard.press("6")
    page.get_by_role("button", name="+ Overlay").click()
    output = wait_for(lambda: job.document()["outputs"][1], 5, "the overlay")["id"]
    assert _output(job, output)["ground"] == "transparent"
    page.get_by_role("combobox", name="Look", exact=True).click()
    page.get_by_role("option", name="Frame", exact=True).click()
    wait_for(lambda: _output(job, output)["look"] == look, 5, "its look")

    standing = picture(job, output)
    assert tall(standing) > 20, "music moves the bars"
    assert standing[: SIZE[1] // 2].max() == 0.0, "alpha is 0 wherever no bar is"
    # Flipped, they hang under the camera's lower edge: not a pixel of the camera is touched.
    job.stack.set(f"{base}/mix/values/flip", "top and bottom")
    job.stack.set(f"{base}/mix/values/y", -0.55)
    hung = picture(job, output)
    edge = round(SIZE[1] * (0.5 + 0.5 * (0.55 - 0.25)))
    assert tall(hung) > 20 and hung[: edge - 1].max() == 0.0
    # One change switches to the voice: the music then moves the bars by less than a hundredth.
    page.get_by_role("combobox", name="Draws the sound of").click()
    page.get_by_role("option", name="Voice", exact=True).click()
    wait_for(lambda: _output(job, output)["input"] == voice, 5, "the voice")
    silent, later = picture(job, output), picture(job, output)
    assert tall(silent) <= 2 and np.abs(silent - later).sum() <= 0.01 * hung.sum()
    with speaking(job, voice):
        spoken = picture(job, output)
    assert spoken.sum() > 0.2 * hung.sum(), "the voice moves them"
    # Back to the music, round about a logo: they begin on a circle.
    page.get_by_role("combobox", name="Draws the sound of").click()
    page.get_by_role("option", name="The main input", exact=True).click()
    for name, value in (("form", "round"), ("radius", 0.4), ("floor", -90.0), ("gap", 0.0), ("height", 0.3)):
        job.stack.set(f"{values}/{name}", value)
    job.stack.set(f"{base}/mix/values/y", 0.0)
    ring = picture(job, output)
    rows, columns = np.nonzero(ring > 0.5)
    away = np.hypot(columns + 0.5 - SIZE[0] / 2, rows + 0.5 - SIZE[1] / 2)
    assert away.min() == pytest.approx(0.4 * SIZE[1] / 2, abs=2.0)
    # Held down harder, its peaks are lower.
    job.stack.set("/inputs/main/gain_db", 12.0)
    heights = []
    for floor in (-18.0, -13.5):
        job.stack.set(f"{values}/form", "straight")
        job.stack.set(f"{values}/floor", floor)
        job.stack.set(f"{values}/height", 2.0)
        heights.append(tall(picture(job, output)))
    assert heights[1] < heights[0]
    # Its address, over a test picture.
    page.goto(f"{job.stack.url}/overlays")
    expect(page.frame_locator("iframe").locator("canvas")).to_be_visible()


def _output(job, id):
    return next(output for output in job.document()["outputs"] if output["id"] == id)

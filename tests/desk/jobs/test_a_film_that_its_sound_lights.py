"""J13: brightness that jumps with what is heard in the clip itself."""

import subprocess

import numpy as np
import pytest

from harness.stack import wait_for
from tests.desk.helpers import choose, open_column
from tests.desk.jobs.conftest import tone

LOW, HIGH, LEVEL = 0.4, 60.0, 0.05
BEGUN = """() => {
  window.begun = []
  const start = AudioBufferSourceNode.prototype.start
  AudioBufferSourceNode.prototype.start = function (...given) {
    window.begun.push([this.playbackRate.value, given[1]])
    return start.apply(this, given)
  }
}"""
"""Keeps what begins to sound: its speed, and where."""


@pytest.fixture
def film(tmp_path):
    """Six seconds of one grey, with a tone whose level is 0.05."""
    path = tmp_path / "beacon.mp4"
    subprocess.run(
        "ffmpeg -v error -f lavfi -i color=c=0x606060:s=160x90:r=25:d=6"
        # A sine of this filter has an amplitude of 1/8; ours is to be a twentieth of full scale.
        f" -f lavfi -i sine=frequency=440:sample_rate=48000:duration=6 -filter:a volume={8 * LEVEL}"
        f" -c:v libx264 -pix_fmt yuv420p -c:a aac -b:a 256k {path}",
        shell=True,
        check=True,
    )
    return path


def test_a_clip_that_its_own_sound_lights(job, film):
    page, stack = job.page, job.stack
    look = job.look("Beacon")
    status, made = stack.call("POST", "/clips?name=Beacon&sound=true", film.read_bytes())
    assert status == 201 and made["track"], made
    open_column(page, "3")
    layer = job.layer("clip")
    shown, at = layer["source"]["id"], f"/looks/{look}/layers/{layer['id']}/source/values"
    stack.set(f"{at}/file", made["id"])
    stack.set(f"{at}/goes", "back and forth")
    # Its own sound is an input of its own, chosen in Hear.
    heard = stack.call("POST", "/inputs", {"name": "Beacon"})[1]["id"]
    stack.set(f"/inputs/{heard}/use", "film")
    stack.set(f"/inputs/{heard}/level/follow", False)
    page.evaluate(BEGUN)
    page.keyboard.press("1")
    page.get_by_role("tab", name="Beacon").click()
    choose(page, "Whose sound is heard", "Clip (Beacon)")
    wait_for(
        lambda: next(i for i in job.document()["inputs"] if i["id"] == heard)["film"]["part"] == shown,
        10,
        "the film",
    )
    route = {
        "id": "lights",
        "signal": f"peak@{heard}",
        "targets": [f"{shown}.level"],
        "low": LOW,
        "high": HIGH,
    }
    edit = {"edit": "add", "path": "/routes", "item": route}
    assert stack.call("POST", "/show/edits", {"edit": edit, "name": "Route"})[0] == 200
    page.wait_for_timeout(4000)

    def level(seconds=2.0):
        return job.watch(seconds, f"{shown}.level")[1][:, 0]

    wanted = LOW + LEVEL * (HIGH - LOW)
    assert np.median(level()) == pytest.approx(wanted, rel=0.02)
    # It is heard as well, from where its picture is.
    begun = page.evaluate("window.begun")
    assert begun and all(rate == pytest.approx(1.0, abs=0.05) for rate, _ in begun)
    assert all(0.0 <= at < 6.1 for _, at in begun)
    # Backward too.
    stack.set(f"{at}/goes", "on and on")
    stack.set(f"{at}/speed", -1.0)
    page.wait_for_timeout(1500)
    assert np.median(level()) == pytest.approx(wanted, rel=0.02)
    # Nobody else's sound moves it.
    job.play(tone(300.0, 8.0, 0.9), "Loud")
    page.wait_for_timeout(1500)
    assert np.median(level()) == pytest.approx(wanted, rel=0.02)
    # Where it stands still it is silent: the brightness is at its low end.
    stack.set(f"{at}/speed", 0.0)
    page.wait_for_timeout(3000)
    assert level(1.0) == pytest.approx(LOW, abs=0.01)

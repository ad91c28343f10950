"""What feedback leaves of a picture, measured in pixels."""

import numpy as np
import pytest

from fulgura.core.clock import FRAME_RATE, SAMPLE_RATE
from fulgura.core.show.part import Part
from fulgura.demo.tracks import lamp_room
from tests.core.drawing import Drawn

INSIDE = np.s_[20:70, 40:120]
"""Far from the edges, where the last picture is faded so that no frame shows."""
STILL = {"scale": 1.0, "rotation": 0.0, "hue": 0.0}


def light_of(pixel):
    """Linear light of an sRGB byte (IEC 61966-2-1)."""
    c = pixel / 255.0
    return ((c + 0.055) / 1.055) ** 2.4 if c > 0.04045 else c / 12.92


def left_after(frames, fade, **values):
    """Share of the light of a white picture that is left so many frames after it went black."""
    white = Part(id="white", kind="solid", values={"tint": "#ffffff", "level": 0.25})
    drawn = Drawn(white, Part(id="back", kind="feedback", values=STILL | {"fade": fade} | values))
    lit = light_of(float(drawn.go(3)[INSIDE].mean()))
    drawn.set("white", "level", 0.0)
    left = light_of(float(drawn.go(frames)[INSIDE].mean()))
    drawn.close()
    return left / lit


def test_each_pass_keeps_an_exact_share_and_dark_is_clear_when_asked():
    """A black picture hides what is behind it, until its dark is clear; then a pass keeps 0.9: by the 29th
    under 5 % are left (0.9^29 = 0.047).
    """
    assert left_after(1, 0.9) == 0.0
    for frames in (1, 5, 12, 29):
        left = left_after(frames, 0.9, see_through=0.05)
        assert left == pytest.approx(0.9**frames, abs=0.006), frames
    assert left_after(29, 0.9, see_through=0.05) < 0.05


@pytest.mark.parametrize("source", ["waveform", "spectrum"])
def test_a_new_feedback_does_not_fill_up_to_white(source):
    """Loud music under what a new feedback starts with, its fade at the top: of 6 s, twice as long as a
    picture takes to fade there. A job by hand waits a minute.
    """
    sound = lamp_room().finished()[20 * SAMPLE_RATE : 27 * SAMPLE_RATE]
    sound = (sound / np.abs(sound).max()).astype(np.float32)
    back = Part(id="back", kind="feedback", values={"fade": 0.995})
    drawn, white = Drawn(Part(id="source", kind=source), back, size=(80, 45)), []
    for _ in range(6):
        drawn.go(FRAME_RATE, sound)
        white.append((drawn.executor.pixels().min(axis=2) > 235).mean())
    drawn.close()
    assert max(white) < 0.05

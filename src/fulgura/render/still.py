"""``fulgura still``: one picture of a look, drawn in Python exactly as the show would draw it."""

from pathlib import Path

import numpy as np
from PIL import Image

from fulgura.core.clock import BLOCK, FRAME_RATE, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.picture.plan import Plan
from fulgura.core.show.document import Show
from fulgura.demo.made import made_once
from fulgura.demo.show import gallery_show
from fulgura.demo.tracks import TRACKS
from fulgura.render.executor import Executor

DRAWN_S = 6.0
"""Feedback forgets what is older than this, so only the last seconds are drawn; all of the sound is heard."""


class StillError(ValueError):
    """Why there is no picture, in a sentence."""


def draw(look: str, at: float, size: str, output: Path, show: Show | None = None) -> None:
    """Draw a look of a show at a moment of its track into a PNG file. Raises StillError."""
    width, height = _size(size)
    show = show or gallery_show()
    found = next((one for one in show.looks if look.lower() in (one.id, one.name.lower())), None)
    if found is None:
        raise StillError(f"There is no look “{look}”. There is: {', '.join(one.name for one in show.looks)}.")
    if output.suffix.lower() != ".png":
        raise StillError(f"{output.name} must end in .png.")
    _, compose = TRACKS[show.input.track.track]
    samples = compose().finished()
    performer = Performer(show.model_copy(update={"look": found.id}))
    executor = Executor(width, height, _pictures(performer.plan))
    executor.load(performer.plan)
    try:
        heard, last = 0, max(1, round(at * FRAME_RATE))
        for number in range(1, last + 1):
            for _ in range(blocks_due(number) - heard):
                start = heard * BLOCK % (len(samples) - BLOCK)
                performer.hear(samples[start : start + BLOCK])
                heard += 1
            frame = performer.tick()
            if number > last - DRAWN_S * FRAME_RATE:
                executor.draw(performer.packet(frame))
        Image.fromarray(np.ascontiguousarray(executor.pixels())).save(output)
    except OSError as error:
        raise StillError(f"{output} cannot be written: {error.strerror}.") from error
    finally:
        executor.close()


def _pictures(plan: Plan) -> Path | None:
    """The folder of the demo's pictures, when the plan shows any: they may have to be made first."""
    if not plan.clips and all(one.form != "colour" for one in plan.images):
        return None
    try:
        return made_once(print) / "pictures"
    except OSError as error:
        raise StillError(f"The demo's pictures cannot be made: {error.strerror}.") from error


def _size(text: str) -> tuple[int, int]:
    try:
        width, height = (int(part) for part in text.lower().split("x"))
    except ValueError:
        raise StillError(f"“{text}” is not a size like 1280x720.") from None
    if not (16 <= width <= 7680 and 16 <= height <= 4320):
        raise StillError("A picture is from 16x16 to 7680x4320.")
    return width, height

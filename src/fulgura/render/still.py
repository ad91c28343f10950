"""``fulgura still``: one picture of a look, drawn in Python exactly as the show would draw it."""

from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from fulgura.core.clock import BLOCK, FRAME_RATE, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.document import Show
from fulgura.core.show.looks import Look
from fulgura.render.executor import Executor

DRAWN_S = 6.0
"""Feedback forgets what is older than this, so only the last seconds are drawn; all of the sound is heard."""


class StillError(ValueError):
    """Why there is no picture, in a sentence."""


def find_look(show: Show, name: str) -> Look:
    """A look by its name or id. Raises StillError."""
    found = next((look for look in show.looks if name.lower() in (look.id, look.name.lower())), None)
    if found is None:
        raise StillError(f"There is no look “{name}”. There is: {', '.join(one.name for one in show.looks)}.")
    return found


def shows_pictures(show: Show, look: Look) -> bool:
    """Whether a look shows pictures or clips of the show's own: they must be there before it is drawn."""
    plan = Performer(show.model_copy(update={"look": look.id})).plan
    return bool(plan.clips) or any(image.form == "colour" for image in plan.images)


def draw(
    show: Show, look: Look, samples: NDArray[Any], at: float, size: str, output: Path, pictures: Path | None
) -> None:
    """Draw a look of a show at a moment of a sound into a PNG file. Raises StillError.

    samples: (n, 2), 48 kHz, heard over and over; at: seconds; pictures: the folder of the show's own.
    """
    width, height = parse_size(size)
    if output.suffix.lower() != ".png":
        raise StillError(f"{output.name} must end in .png.")
    performer = Performer(show.model_copy(update={"look": look.id, "blackout": "off"}))
    executor = Executor(width, height, pictures)
    executor.load(performer.plan)
    try:
        if executor.failed:
            why = executor.failed[0].strip().splitlines()[-1]
            raise StillError(f"“{look.name}” cannot be drawn here: {why}")
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


def parse_size(text: str) -> tuple[int, int]:
    """Width and height. Raises StillError."""
    try:
        width, height = (int(part) for part in text.lower().split("x"))
    except ValueError:
        raise StillError(f"“{text}” is not a size like 1280x720.") from None
    if not (16 <= width <= 7680 and 16 <= height <= 4320):
        raise StillError("A picture is from 16x16 to 7680x4320.")
    return width, height

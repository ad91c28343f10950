from typing import Literal

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Ratio, param

EVERY = ("1/4 beat", "1/2 beat", "beat", "2 beats", "4 beats")


class Stutter(Effect):
    """Holds the picture for part of each beat, then lets it go on: time in steps, in step with the music."""

    shader = "stutter.frag"
    feedback = True

    every: Literal[*EVERY] = param("beat", help="How often it catches a picture")  # type: ignore[valid-type]
    hold: Ratio = param(0.75, help="For which share of that time it holds it; 0 never, 1 always")

from typing import Literal

from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Ratio, param


class Key(Effect):
    """Keeps only what is bright, or only what is dark; the rest is seen through."""

    shader = "key.frag"

    threshold: Ratio = param(0.35, help="The brightness that parts them")
    softness: Ratio = param(0.1, help="How gradually")
    keeps: Literal["bright", "dark"] = param("bright", help="What stays")
    two_tones: bool = param(False, help="On: what stays is white")

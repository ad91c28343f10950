from fulgura.core.kinds.drawn import Effect
from fulgura.core.kinds.parameters import Count, param


class Mosaic(Effect):
    """Larger pixels, fewer tones."""

    shader = "mosaic.frag"
    specialised = ("tones",)

    cells: Count = param(40.0, 4.0, 256.0, "Pixels from top to bottom; at 256 all that there are")
    tones: Count = param(32.0, 2.0, 32.0, "Tones of each colour; at 32 all that there are")

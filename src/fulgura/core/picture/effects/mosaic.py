from fulgura.core.parameters import Count, param
from fulgura.core.picture.kinds import Effect


class Mosaic(Effect):
    """Larger pixels, fewer tones."""

    shader = "mosaic.frag"
    folds = ("tones",)

    cells: Count = param(40.0, 4.0, 256.0, "Pixels from top to bottom; at 256 all that there are")
    tones: Count = param(32.0, 2.0, 32.0, "Tones of each colour; at 32 all that there are")

"""What lies below everything that is wanted is cut off before anything listens: a microphone beside bass
bins.
"""

from functools import lru_cache

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.kinds.inputs.level import LOW_CUTS
from fulgura.core.sound.levels import repair


@lru_cache(128)
def design(hz: float, slope: str) -> Array:
    """A Butterworth high-pass as second-order sections, -3 dB at hz: shape (1, 6) for 12 dB an octave, (2, 6)
    for 24. Raises KeyError for another slope.
    """
    from scipy.signal import butter  # Slow to import; the web process never filters.

    return np.asarray(butter(LOW_CUTS[slope], hz, "highpass", fs=SAMPLE_RATE, output="sos"))


class LowCut:
    """One input's. ``run`` each block; what was heard before goes on when the edge moves."""

    def __init__(self) -> None:
        self._state = np.zeros((0, 2, 0))

    def run(self, block: Array, slope: str, hz: float) -> Array:
        """The block (256, channels) without its lows: new array, same shape. Off: the block itself."""
        if not LOW_CUTS[slope]:
            self._state = np.zeros((0, 2, 0))
            return block
        from scipy.signal import sosfilt

        sections = design(round(hz, 1), slope)
        wanted = (len(sections), 2, block.shape[1])
        if self._state.shape != wanted:
            self._state = np.zeros(wanted)
        if not np.isfinite(block).all():
            block = repair(block)  # One sample that is no number would stay in the filter for good.
        out, self._state = sosfilt(sections, block, axis=0, zi=self._state)
        return np.asarray(out)

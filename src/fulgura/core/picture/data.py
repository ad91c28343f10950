"""Data blocks of the show that shaders read: declared here once for the wire, the plan and both executors."""

from fulgura.core.kinds.display import DISPLAY_BINS
from fulgura.core.kinds.providers import SCOPE
from fulgura.core.picture.plan import Data
from fulgura.core.wire import BlockId

WAVEFORM = 512

SHARED = {
    "waveform": Data(name="waveform", block=BlockId.WAVEFORM, form="wave", width=WAVEFORM),
    "spectrum": Data(name="spectrum", block=BlockId.SPECTRUM, form="level", width=DISPLAY_BINS),
    "stereo": Data(name="stereo", block=BlockId.STEREO, form="wave", width=SCOPE),
}
FIRST_OWN = 64
"""Number of the first block that a part has for itself."""

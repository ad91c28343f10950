"""The signal table: every named live value that a route can start from."""

import numpy as np
from pydantic import BaseModel

from fulgura.core.show.document import Band, HitSetting

LEVEL, BEAT, BEAT_PHASE, BAR_PHASE = "level", "beat", "beat-phase", "bar-phase"


class SignalInfo(BaseModel):
    """One signal as the desk shows it. pitch: 0 (low) to 1 (high) for its colour, None for beat-made ones."""

    id: str
    name: str
    kind: str
    pitch: float | None
    help: str


HIT_PITCH = {"kick": 0.05, "snare": 0.5, "hat": 0.95}


def pitch_of(low_hz: float, high_hz: float) -> float:
    """Where a band lies between 30 Hz and 16 kHz, 0..1 in octaves; sets its colour from ember to ice."""
    centre = (low_hz * high_hz) ** 0.5
    return float(np.clip(np.log2(centre / 30.0) / np.log2(16_000.0 / 30.0), 0.0, 1.0))


def signals(bands: list[Band], hits: list[HitSetting]) -> list[SignalInfo]:
    """The signals of a show, in the order of the live block."""
    found = [SignalInfo(id=LEVEL, name="Level", kind="level", pitch=0.5, help="RMS level of the whole sound, 1 is a full-scale sine.")]
    found += [
        SignalInfo(id=f"band-{b.id}", name=b.name, kind="level", pitch=pitch_of(b.low_hz, b.high_hz), help=f"Level between {b.low_hz:.0f} and {b.high_hz:.0f} Hz.")
        for b in bands
    ]
    found += [
        SignalInfo(id=f"hit-{h.id}", name=h.id.capitalize(), kind="hits", pitch=HIT_PITCH[h.id], help=f"Each {h.id} hit, as strong as it was, for one frame. Smooth it to let it ring.")
        for h in hits
    ]
    found += [
        SignalInfo(id=BEAT, name="Beat", kind="hits", pitch=None, help="One hit on each predicted beat."),
        SignalInfo(id=BEAT_PHASE, name="Beat phase", kind="phase", pitch=None, help="Runs from 0 to 1 over each beat."),
        SignalInfo(id=BAR_PHASE, name="Bar phase", kind="phase", pitch=None, help="Runs from 0 to 1 over each bar."),
    ]
    return found

"""Which sound a drawing shows: what all that draw sound have in common."""

from typing import ClassVar, Literal

from fulgura.core.kinds.drawn import Drawn
from fulgura.core.kinds.parameters import (
    Decibels,
    DecibelsAnOctave,
    Frequency,
    InputRef,
    Milliseconds,
    Seconds,
    param,
)
from fulgura.core.kinds.spectra import READS, SCALES


class SoundDrawn(Drawn):
    """What draws an input's sound. Not a kind itself."""

    abstract: ClassVar[bool] = True

    input: InputRef = param("", help="Which input it shows", group="Sound", empty="what the picture hears")
    gain: Decibels = param(0.0, -40.0, 40.0, "Louder or softer, for this drawing alone", group="Sound")
    window: Milliseconds = param(
        42.7, 5.0, 10_000.0, "How much of the sound is seen at once", group="Sound", useful=500.0
    )


class SpectrumDrawn(SoundDrawn):
    """What draws an input's spectrum. Not a kind itself."""

    abstract: ClassVar[bool] = True

    scale: Literal[*SCALES] = param(  # type: ignore[valid-type]
        "by octaves",
        help="How pitches are spread: each octave as wide; as they are measured; or as they are heard (mel)",
        group="Sound",
    )
    low_hz: Frequency = param(30.0, 10.0, 20_000.0, "What is lower is left out", group="Sound", title="From")
    high_hz: Frequency = param(
        16_000.0, 20.0, 22_000.0, "What is higher is left out", group="Sound", title="To"
    )
    tilt: DecibelsAnOctave = param(
        0.0,
        -6.0,
        6.0,
        "How much louder each octave is than the one below; music falls by some 3",
        group="Sound",
    )
    reads: Literal[*READS] = param(  # type: ignore[valid-type]
        "the loudest", help="Of pitches that share a place: the loudest, or the mean of all", group="Sound"
    )
    floor: Decibels = param(-68.0, -100.0, -6.0, "What is softer is not shown", group="Sound")
    ceiling: Decibels = param(0.0, -60.0, 12.0, "What is as loud is all that can be shown", group="Sound")
    attack: Milliseconds = param(
        0.0, 0.0, 2_000.0, "How long it takes to rise from nothing to all", group="Sound", title="Rise"
    )
    fall: Seconds = param(0.6, 0.0, 8.0, "How long all takes to fall to nothing; 0 at once", group="Sound")

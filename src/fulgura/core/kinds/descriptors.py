"""What is told of the sound beside bands, hits and beats: each is a signal."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Descriptor:
    """One of the values that ``Descriptors`` gives; all go from 0 to 1."""

    id: str
    title: str
    help: str


DESCRIPTORS = (
    Descriptor(
        "brightness",
        "Brightness",
        "Where the middle of the sound's spectrum lies: 0 at 100 Hz and below, 1 at 8 kHz (spectral"
        " centroid).",
    ),
    Descriptor("noisiness", "Noisiness", "0 for tones, 1 for hiss (spectral flatness)."),
    Descriptor("density", "Density", "How many onsets there are: 1 is sixteen a second."),
    Descriptor(
        "novelty",
        "Novelty",
        "How different the sound is from what was heard before: jumps when a new section comes.",
    ),
    Descriptor("build-up", "Build-up", "Rises while level and brightness climb over some bars."),
    Descriptor(
        "drop",
        "Drop",
        "Jumps to 1 when the low end comes back after a build-up or a break, and falls within two seconds.",
    ),
    Descriptor(
        "pitch-class",
        "Pitch class",
        "The strongest note whatever its octave: C is 0, then a twelfth for each semitone up to B.",
    ),
    Descriptor(
        "width",
        "Stereo width",
        "Share of what differs between left and right: 0 when both are the same, 0.5 when they have nothing"
        " in common, 1 when one is the other turned over.",
    ),
    Descriptor(
        "phase",
        "Stereo phase",
        "1 when left and right move together, 0.5 when they are unrelated, 0 when one is the other turned"
        " over.",
    ),
)
DESCRIPTOR_IDS = tuple(d.id for d in DESCRIPTORS)

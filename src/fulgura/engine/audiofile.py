"""Sound files to samples: WAV, FLAC, OGG, MP3, at any rate, resampled to 48 kHz."""

from pathlib import Path

import numpy as np
import soundfile
import soxr
from numpy.typing import NDArray

from fulgura.core import SAMPLE_RATE

LONGEST_S = 4 * 3600


class AudioFileError(ValueError):
    """A file that cannot be played; the message is for the performer."""


def load(path: Path) -> tuple[NDArray, int]:
    """The whole file at 48 kHz, float32, shape (n, channels), and the rate it had.

    Raises AudioFileError when there is no such file, it is empty, or it is not a sound file that can be read.
    """
    if not path.is_file():
        raise AudioFileError(f"There is no file {path}.")
    try:
        with soundfile.SoundFile(str(path)) as file:
            if file.frames > LONGEST_S * file.samplerate:
                raise AudioFileError(f"{path.name} is longer than four hours.")
            rate, samples = file.samplerate, file.read(dtype="float32", always_2d=True)
    except (soundfile.LibsndfileError, RuntimeError, OSError) as error:
        raise AudioFileError(f"{path.name} cannot be read as sound: {_reason(path, error)}") from error
    if len(samples) == 0:
        raise AudioFileError(f"{path.name} is a sound file with no sound in it.")
    return resample(samples, rate), rate


def resample(samples: NDArray, rate: int) -> NDArray:
    """Samples (n, channels) at any rate to 48 kHz, float32."""
    if rate == SAMPLE_RATE:
        return samples
    return soxr.resample(samples, rate, SAMPLE_RATE).astype(np.float32)


def _reason(path: Path, error: Exception) -> str:
    if path.stat().st_size == 0:
        return "the file is empty."
    return f"it is damaged or not one of WAV, FLAC, OGG and MP3 ({str(error).rstrip('.')})."

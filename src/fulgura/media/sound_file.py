"""Sound files to samples: WAV, FLAC, OGG, MP3, M4A, at any rate, resampled to 48 kHz."""

import subprocess
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import soundfile
import soxr
from numpy.typing import NDArray

from fulgura.core.clock import SAMPLE_RATE

LONGEST_S = 4 * 3600


class AudioFileError(ValueError):
    """A file that cannot be played; the message is for the performer."""


PIECE_S = 10


def pieces(path: Path) -> Iterator[tuple[NDArray, int]]:
    """The file at 48 kHz in pieces, float32, shape (n, channels), each with the rate the file had.

    Only one piece is in memory at a time, however long the file is. Raises AudioFileError when there is no
    such file, it is empty, or it is not a sound file that can be read.
    """
    if not path.is_file():
        raise AudioFileError(f"There is no file {path}.")
    try:
        with _opened(path) as file:
            rate, heard = file.samplerate, 0
            stream = (
                None
                if rate == SAMPLE_RATE
                else soxr.ResampleStream(rate, SAMPLE_RATE, file.channels, dtype="float32")
            )
            while True:
                samples = file.read(PIECE_S * rate, dtype="float32", always_2d=True)
                heard += len(samples)
                if heard > LONGEST_S * rate:
                    raise AudioFileError(f"{path.name} is longer than four hours.")
                last = len(samples) < PIECE_S * rate
                if stream is not None:
                    samples = stream.resample_chunk(samples, last=last)
                if len(samples):
                    yield samples, rate
                if last:
                    break
    except (soundfile.LibsndfileError, RuntimeError, OSError) as error:
        raise AudioFileError(f"{path.name} cannot be read as sound: {_reason(path, error)}") from error
    if heard == 0:
        raise AudioFileError(f"{path.name} is a sound file with no sound in it.")


def _opened(path: Path) -> "soundfile.SoundFile | Converted":
    """The file by libsndfile, or, when it does not know the format (M4A) or where it ends, by the system's
    ffmpeg.
    """
    try:
        file = soundfile.SoundFile(str(path))
    except soundfile.LibsndfileError as error:
        if path.stat().st_size == 0 or not (found := _probe(path)):
            raise error
        return Converted(path, *found)
    if file.frames < UNKNOWN_LENGTH:
        return file
    file.close()
    return Converted(path, file.samplerate, file.channels)


def _probe(path: Path) -> tuple[int, int] | None:
    """(rate, channels) of the sound in a file as ffprobe knows it; None when there is none."""
    words = [
        "ffprobe",
        *CAREFUL,
        "-select_streams",
        "a:0",
        "-show_entries",
        "stream=sample_rate,channels",
        "-of",
        "csv=p=0",
        str(path),
    ]
    try:
        said = subprocess.run(
            words, capture_output=True, text=True, timeout=60, stdin=subprocess.DEVNULL
        ).stdout.strip()
        rate, channels = (int(word) for word in said.split("\n")[0].split(",")[:2])
    except (OSError, ValueError, subprocess.TimeoutExpired):
        return None
    return (rate, channels) if 4_000 <= rate <= 384_000 and 1 <= channels <= 64 else None


UNKNOWN_LENGTH = 2**60
"""libsndfile says more frames than this of a file whose writer was stopped before it could note the length.
"""
CAREFUL = ("-v", "error", "-protocol_whitelist", "file,pipe")
"""A file that came from anywhere may name other places; none is followed."""


class Converted:
    """A file that ffmpeg decodes, read as ``soundfile.SoundFile`` is: piece by piece, in a process of its
    own.
    """

    def __init__(self, path: Path, rate: int, channels: int) -> None:
        self.samplerate, self.channels = rate, channels
        words = [
            "ffmpeg",
            "-nostdin",
            *CAREFUL,
            "-i",
            str(path),
            "-map",
            "0:a:0",
            "-f",
            "f32le",
            "-ac",
            str(channels),
            "-ar",
            str(rate),
            "-",
        ]
        self._process = subprocess.Popen(
            words, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, stdin=subprocess.DEVNULL
        )

    def __enter__(self) -> "Converted":
        return self

    def __exit__(self, *_: object) -> None:
        self._process.kill()
        self._process.communicate()

    def read(self, frames: int, dtype: str = "float32", always_2d: bool = True) -> NDArray:
        """The next samples, shape (n, channels); fewer than asked for at the end, whole frames always."""
        assert self._process.stdout is not None
        data = self._process.stdout.read(frames * self.channels * 4)
        whole = len(data) // (4 * self.channels) * 4 * self.channels
        return np.frombuffer(data[:whole], "<f4").reshape(-1, self.channels).astype(dtype)


def open_track(path: Path) -> soundfile.SoundFile:
    """A file of the library, open for reading; those are at 48 kHz. Raises AudioFileError as
    ``pieces`` does.
    """
    if not path.is_file():
        raise AudioFileError(f"There is no file {path}.")
    try:
        file = soundfile.SoundFile(str(path))
    except (soundfile.LibsndfileError, RuntimeError, OSError) as error:
        raise AudioFileError(f"{path.name} cannot be read as sound: {_reason(path, error)}") from error
    if file.samplerate != SAMPLE_RATE or file.frames == 0:
        file.close()
        raise AudioFileError(f"{path.name} is not as the library keeps its tracks; add it again.")
    return file


def load(path: Path) -> tuple[NDArray, int]:
    """The whole file at 48 kHz, float32, shape (n, channels), and the rate it had; see ``pieces``."""
    read = list(pieces(path))
    return np.concatenate([samples for samples, _ in read]), read[0][1]


def _reason(path: Path, error: Exception) -> str:
    if path.stat().st_size == 0:
        return "the file is empty."
    return f"it is damaged or not one of WAV, FLAC, OGG, MP3 and M4A ({str(error).rstrip('.')})."

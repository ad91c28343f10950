"""Takes a film in: whatever it was, it becomes an intra-only clip, and its sound a file beside it.

Runs as a process of its own (``python -m fulgura import-clip``); it holds one picture at a time, however long
the film is.
"""

import hashlib
import json
import subprocess
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fulgura.kept_file import put_in_place
from fulgura.media.import_picture import premultiplied
from fulgura.media.intra_clip import Writer
from fulgura.media.sound_file import CAREFUL

LARGEST = (1280, 720)
"""Texels; a larger film is made smaller, so that any picture of it is read and unpacked well within a frame.
"""
FASTEST = 60.0
LONGEST_S = 1200.0
"""What comes after twenty minutes is left out, and said."""
CONTAINERS = ("mov", "mp4", "matroska", "webm", "gif", "avi", "mpeg", "mpegts", "ogg", "flv", "asf", "apng")
CLEAR = ("yuva", "rgba", "bgra", "argb", "abgr", "gbrap", "pal8", "ya8")
"""Beginnings of ffmpeg's names for pixels that may be clear."""


class ClipError(ValueError):
    """Why a file is no film that can be shown, in a sentence."""


@dataclass(frozen=True)
class FilmStream:
    """What ffprobe says of a film."""

    width: int
    height: int
    rate: float
    clear: bool
    seconds: float | None
    sound: bool
    decoder: tuple[str, ...]

    @property
    def size(self) -> tuple[int, int]:
        """As it is kept: no larger than ``LARGEST``, of even sides."""
        by = min(1.0, LARGEST[0] / self.width, LARGEST[1] / self.height)
        return max(2, round(self.width * by / 2) * 2), max(2, round(self.height * by / 2) * 2)


def probe(source: Path) -> FilmStream:
    """Raises ClipError for what is no film."""
    words = [
        "ffprobe",
        *CAREFUL,
        "-show_entries",
        "format=format_name,duration:stream=codec_type,codec_name,width,height,avg_frame_rate,r_frame_rate,pix_fmt:stream_tags=alpha_mode:stream_side_data=rotation",
        "-of",
        "json",
        str(source),
    ]
    try:
        said = json.loads(
            subprocess.run(words, capture_output=True, timeout=60, stdin=subprocess.DEVNULL).stdout or b"{}"
        )
    except (OSError, ValueError, subprocess.TimeoutExpired) as error:
        raise ClipError("The film could not be looked at.") from error
    streams = said.get("streams", [])
    film = next(
        (stream for stream in streams if stream.get("codec_type") == "video" and stream.get("width")), None
    )
    names = said.get("format", {}).get("format_name", "").split(",")
    if film is None or not any(name in CONTAINERS for name in names):
        raise ClipError("That is no film that can be read: choose an MP4, MOV, WebM or GIF file.")
    width, height = int(film["width"]), int(film["height"])
    if (
        abs(int(next((side["rotation"] for side in film.get("side_data_list", []) if "rotation" in side), 0)))
        % 180
        == 90
    ):
        width, height = height, width
    if width * height > 100_000_000:
        raise ClipError("The film's pictures are too large.")
    rate = next(
        (
            value
            for name in ("avg_frame_rate", "r_frame_rate")
            if (value := _fraction(film.get(name, "0/0"))) > 0.0
        ),
        25.0,
    )
    length = float(said["format"].get("duration") or "nan")
    # ffmpeg's own decoders of VP8 and VP9 leave alpha out; libvpx, beside them, reads it.
    marked = film.get("tags", {}).get("alpha_mode") == "1"
    decoder = (
        ("-c:v", f"libvpx{'-vp9' if film['codec_name'] == 'vp9' else ''}")
        if marked and film.get("codec_name") in ("vp8", "vp9")
        else ()
    )
    return FilmStream(
        width,
        height,
        min(FASTEST, max(1.0, rate)),
        marked or film.get("pix_fmt", "").startswith(CLEAR) or film.get("codec_name") == "gif",
        length if np.isfinite(length) else None,
        any(stream.get("codec_type") == "audio" for stream in streams),
        decoder,
    )


def _fraction(text: str) -> float:
    try:
        return float(Fraction(text))
    except (ValueError, ZeroDivisionError):
        return 0.0


def pictures(source: Path, film: FilmStream) -> Iterator[NDArray]:
    """Its pictures at an even rate, uint8, shape (height, width, 4 if clear else 3); the top row first,
    straight alpha.

    ffmpeg decodes in a process of its own, which ends with this. A film that breaks off gives what there is
    of it.
    """
    (width, height), channels = film.size, 4 if film.clear else 3
    words = [
        "ffmpeg",
        "-nostdin",
        *CAREFUL,
        *film.decoder,
        "-i",
        str(source),
        "-map",
        "0:v:0",
        "-t",
        str(LONGEST_S),
        "-vf",
        f"fps={film.rate:.6f},scale={width}:{height}:flags=bicubic",
        "-f",
        "rawvideo",
        "-pix_fmt",
        "rgba" if film.clear else "rgb24",
        "-",
    ]
    process = subprocess.Popen(
        words, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, stdin=subprocess.DEVNULL
    )
    try:
        assert process.stdout is not None
        size = width * height * channels
        while len(raw := process.stdout.read(size)) == size:
            yield np.frombuffer(raw, np.uint8).reshape(height, width, channels)
    finally:
        process.kill()
        process.communicate()


def import_clip(source: Path, folder: Path, told: Callable[[float], None] = lambda share: None) -> dict:
    """Writes the clip into a folder, by its content; returns key, width, height, frames, rate, sound (whether
    it has any) and cut (a sentence, where it was too long). told: is told how far it is, 0..1.

    Raises ClipError, OSError.
    """
    film = probe(source)
    draft, content = folder / f"{source.stem}.new", hashlib.sha256()
    expected = min(film.seconds or LONGEST_S, LONGEST_S) * film.rate
    try:
        with Writer(draft, *film.size, film.rate) as intra_clip:
            for number, pixels in enumerate(pictures(source, film)):
                content.update(pixels.tobytes())
                intra_clip.add(premultiplied(pixels) if film.clear else pixels)
                if number % 10 == 0:
                    told(min(1.0, number / expected))
        if intra_clip.frames == 0:
            raise ClipError("The film is damaged: no picture of it can be read.")
        digest = hashlib.sha256(content.digest() + repr((film.size, film.rate)).encode()).hexdigest()
        key = f"clip-{digest[:24]}"
        put_in_place(draft, folder / f"{key}.zip")
    finally:
        draft.unlink(missing_ok=True)
    return {
        "key": key,
        "width": film.size[0],
        "height": film.size[1],
        "frames": intra_clip.frames,
        "rate": film.rate,
        "sound": film.sound,
        "cut": (
            f"It is longer than {LONGEST_S / 60:g} minutes: the rest is left out."
            if intra_clip.frames >= LONGEST_S * film.rate
            else ""
        ),
    }

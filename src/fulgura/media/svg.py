"""Drawings in SVG: taken apart to what draws, and drawn by librsvg, through ffmpeg.

Scripts, and everything that names a place outside the file, are left out before anything draws it.
"""

import re
import subprocess
import tempfile
from pathlib import Path
from xml.etree.ElementTree import Element, ParseError, register_namespace, tostring

import numpy as np
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from numpy.typing import NDArray

from fulgura.media.sound_file import CAREFUL

register_namespace("", "http://www.w3.org/2000/svg")
register_namespace("xlink", "http://www.w3.org/1999/xlink")

LONGER_SIDE = 1600
"""Texels along the longer side of what is drawn."""
LARGEST = 20 * 2**20
LONGEST_S = 30
LEFT_OUT = {
    "script",
    "foreignObject",
    "iframe",
    "object",
    "embed",
    "audio",
    "video",
    "handler",
    "listener",
    "a-script",
}
_NAMES_A_PLACE = re.compile(r"@import|url\(\s*['\"]?(?!#|data:image/)", re.IGNORECASE)


class PictureError(ValueError):
    """Why a file is no picture that can be shown, in a sentence."""


def is_svg(path: Path) -> bool:
    """Whether a file begins as XML with an svg element does."""
    with open(path, "rb") as file:
        start = file.read(4096).lstrip(b"\xef\xbb\xbf \t\r\n")
    return start.startswith(b"<") and b"<svg" in start


def cleaned(text: bytes) -> Element:
    """The drawing without scripts, handlers and links to the outside. Raises PictureError."""
    try:
        root = fromstring(text)
    except (ParseError, DefusedXmlException, ValueError) as error:
        raise PictureError("The drawing is damaged and cannot be read.") from error
    if _plain(root.tag) != "svg":
        raise PictureError("That is no drawing in SVG.")
    _clean(root)
    return root


def _plain(name: str) -> str:
    """A tag's or attribute's name without its namespace."""
    return name.rpartition("}")[2]


def _clean(element: Element) -> None:
    for name, value in list(element.attrib.items()):
        plain = _plain(name)
        away = plain == "href" and not value.strip().startswith(("#", "data:image/"))
        if plain.lower().startswith("on") or away or _NAMES_A_PLACE.search(value):
            del element.attrib[name]
    if _plain(element.tag) == "style" and element.text and _NAMES_A_PLACE.search(element.text):
        element.text = ""
    for child in list(element):
        if not isinstance(child.tag, str) or _plain(child.tag) in LEFT_OUT:
            element.remove(child)
        else:
            _clean(child)


def _size(root: Element) -> tuple[float, float]:
    """Its own width and height, by its view box or else by what it says; 300 x 150 where it says nothing (CSS
    2.1, 10.3.2).
    """
    box = [float(number) for number in re.findall(r"-?[0-9.]+(?:e-?[0-9]+)?", root.get("viewBox", ""))]
    if len(box) == 4 and box[2] > 0 and box[3] > 0:
        return box[2], box[3]
    sides = [
        re.fullmatch(r"\s*([0-9.]+)(px|mm|cm|in|pt|pc)?\s*", root.get(name, ""))
        for name in ("width", "height")
    ]
    width, height = (float(side[1]) if side else otherwise for side, otherwise in zip(sides, (300.0, 150.0)))
    if width <= 0 or height <= 0:
        raise PictureError("The drawing has no size.")
    root.set("viewBox", f"0 0 {width} {height}")
    return width, height


def drawn(path: Path) -> NDArray:
    """A drawing as pixels, straight sRGB and alpha, uint8, shape (height, width, 4), the top row first.
    Raises PictureError.
    """
    if path.stat().st_size > LARGEST:
        raise PictureError("The drawing is too large: it may have up to 20 MB.")
    root = cleaned(path.read_bytes())
    wide, high = _size(root)
    by = LONGER_SIDE / max(wide, high)
    width, height = max(1, round(wide * by)), max(1, round(high * by))
    root.set("width", str(width))
    root.set("height", str(height))
    try:
        with tempfile.NamedTemporaryFile(suffix=".svg") as clean:
            clean.write(tostring(root))
            clean.flush()
            words = [
                "ffmpeg",
                "-nostdin",
                *CAREFUL,
                "-f",
                "svg_pipe",
                "-i",
                clean.name,
                "-f",
                "rawvideo",
                "-pix_fmt",
                "rgba",
                "-",
            ]
            raw = subprocess.run(
                words, capture_output=True, timeout=LONGEST_S, stdin=subprocess.DEVNULL
            ).stdout
    except (OSError, subprocess.TimeoutExpired) as error:
        raise PictureError("The drawing could not be drawn.") from error
    if len(raw) != width * height * 4:
        raise PictureError("The drawing is damaged and cannot be drawn.")
    # It is drawn multiplied by alpha, as it is encoded; a picture file is not.
    pixels = np.frombuffer(raw, np.uint8).reshape(height, width, 4)
    alpha = np.maximum(pixels[..., 3:].astype(np.uint16), 1)
    straight = np.minimum((pixels[..., :3] * np.uint16(255) + alpha // 2) // alpha, 255).astype(np.uint8)
    return np.concatenate([straight, pixels[..., 3:]], axis=-1)

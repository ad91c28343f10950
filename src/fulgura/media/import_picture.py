"""Takes a picture file in: whatever it was, it becomes bare texels that both executors read as they are.

Four bytes a texel, the bottom row first: sRGB (IEC 61966-2-1) of light that is already multiplied by alpha,
and alpha.
"""

import hashlib
import warnings
from functools import cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageOps, UnidentifiedImageError

from fulgura.kept_file import put_in_place
from fulgura.media.svg import PictureError, drawn, is_svg

LARGEST = 2048
"""Texels along the longer side; what is larger is made smaller."""
MOST_PIXELS = 500_000_000
FORMATS = ("PNG", "JPEG", "WEBP")
WORDS = "choose a PNG, JPEG, WebP or SVG file."


def prepared(source: Path) -> tuple[NDArray, int, int]:
    """(texels (height, width, 4) uint8 with the bottom row first, width, height). Raises PictureError."""
    Image.MAX_IMAGE_PIXELS = MOST_PIXELS
    if is_svg(source):
        rgba = drawn(source)
        return premultiplied(rgba)[::-1], rgba.shape[1], rgba.shape[0]
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(source, formats=FORMATS) as opened:
                if opened.format == "JPEG":
                    opened.draft("RGB", (LARGEST, LARGEST))  # A large photograph need not be read in full.
                upright = ImageOps.exif_transpose(opened)
                upright.thumbnail((LARGEST, LARGEST), Image.Resampling.LANCZOS)
                rgba = np.asarray(upright.convert("RGBA"))
    except (Image.DecompressionBombError, Image.DecompressionBombWarning) as error:
        raise PictureError("The picture is too large: it has more than 500 million pixels.") from error
    except UnidentifiedImageError as error:
        raise PictureError(f"That is no picture that can be read: {WORDS}") from error
    except (OSError, SyntaxError, ValueError) as error:
        raise PictureError("The picture is damaged and cannot be read.") from error
    return premultiplied(rgba)[::-1], rgba.shape[1], rgba.shape[0]


def premultiplied(rgba: NDArray) -> NDArray:
    """Straight sRGB and alpha to sRGB of the light that is left: multiplied where light adds up, not where it
    is encoded.
    """
    return np.concatenate([_multiplied()[rgba[..., :3], rgba[..., 3:]], rgba[..., 3:]], axis=-1)


@cache
def _multiplied() -> NDArray:
    """What becomes of each of 256 levels at each of 256 alphas, shape (256, 256), uint8."""
    shown, alpha = np.arange(256)[:, None] / 255.0, np.arange(256)[None, :] / 255.0
    light = np.where(shown <= 0.04045, shown / 12.92, ((shown + 0.055) / 1.055) ** 2.4) * alpha
    encoded = np.where(light <= 0.0031308, light * 12.92, 1.055 * light ** (1 / 2.4) - 0.055)
    return np.round(encoded * 255.0).astype(np.uint8)


def import_picture(source: Path, folder: Path) -> dict:
    """Writes the texels into a folder, by their content; returns key, width and height. Raises PictureError,
    OSError.
    """
    texels, width, height = prepared(source)
    raw = texels.tobytes()
    key = f"file-{hashlib.sha256(raw + f'{width}x{height}'.encode()).hexdigest()[:24]}"
    draft, target = folder / f"{key}.new", folder / f"{key}.rgba"
    draft.write_bytes(raw)
    put_in_place(draft, target)
    return {"key": key, "width": width, "height": height}

"""The letters of the shipped fonts, on one sheet, as distances to their outlines: sharp at any size.

Signed distance fields as in C. Green, "Improved alpha-tested magnification for vector textures and special
effects", SIGGRAPH 2007 courses: a texel is 0.5 on the outline, more inside, and changes by 1 over twice
SPREAD.
"""

from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import NamedTuple

import numpy as np
from PIL import Image, ImageDraw, ImageFont

KEY = "glyphs"
FONTS = Path(__file__).parent / "fonts"
FACES = {"plain": ("sans.woff2", 400), "heavy": ("sans.woff2", 800), "even": ("even.woff2", 500)}
"""Name -> file and weight. Both fonts are under the SIL Open Font License, which lies beside them."""
LETTERS = "".join(chr(code) for code in (*range(33, 127), *range(161, 256)) if code != 173)
EM, SPREAD, FINER = 48, 6, 3
"""Texels of an em on the sheet; how far distances reach; how much finer the letters are drawn to measure
them.
"""
SHEET = 1024


class Glyph(NamedTuple):
    """Where a letter stands on the sheet (texels, from the top left), and how it sits on the line, in em:
    advance to the next, left edge from the pen, top above the base line. Its box has a margin of SPREAD all
    round.
    """

    x: int
    y: int
    width: int
    height: int
    advance: float
    left: float
    top: float


@dataclass(frozen=True)
class Sheet:
    """Where the letters are. size: texels across and down; glyphs: by face and letter."""

    size: tuple[int, int]
    glyphs: dict[tuple[str, str], Glyph]
    spaces: dict[str, float]
    """Advance of a space in each face, in em."""


def _font(face: str, em: int) -> ImageFont.FreeTypeFont:
    file, weight = FACES[face]
    font = ImageFont.truetype(FONTS / file, em, layout_engine=ImageFont.Layout.BASIC)
    font.set_variation_by_axes([weight])
    return font


@lru_cache
def sheet() -> Sheet:
    """Where every letter is: packed row by row, the tallest first."""
    boxes = []
    for face in FACES:
        font = _font(face, EM)
        for letter in LETTERS:
            left, top, right, bottom = font.getbbox(letter, anchor="ls")
            boxes.append(
                (
                    bottom - top + 2 * SPREAD,
                    right - left + 2 * SPREAD,
                    face,
                    letter,
                    font.getlength(letter) / EM,
                    left,
                    top,
                )
            )
    boxes.sort(key=lambda box: (-box[0], box[2], box[3]))
    found: dict[tuple[str, str], Glyph] = {}
    x = y = row = 0
    for high, wide, face, letter, advance, left, top in boxes:
        height, width = int(high), int(wide)
        if x + width > SHEET:
            x, y, row = 0, y + row, 0
        row = max(row, height)
        found[face, letter] = Glyph(x, y, width, height, advance, (left - SPREAD) / EM, (-top + SPREAD) / EM)
        x += width
    return Sheet((SHEET, y + row), found, {face: _font(face, EM).getlength(" ") / EM for face in FACES})


def texels() -> bytes:
    """The sheet, one byte a texel, the bottom row first."""
    from scipy.ndimage import distance_transform_edt

    whole = np.zeros((sheet().size[1], SHEET), dtype=np.uint8)
    fonts = {face: _font(face, EM * FINER) for face in FACES}
    for (face, letter), glyph in sheet().glyphs.items():
        drawn = Image.new("L", (glyph.width * FINER, glyph.height * FINER))
        ImageDraw.Draw(drawn).text(
            (-glyph.left * EM * FINER, glyph.top * EM * FINER),
            letter,
            fill=255,
            font=fonts[face],
            anchor="ls",
        )
        inside = np.asarray(drawn) > 127
        distance = np.where(inside, distance_transform_edt(inside), -distance_transform_edt(~inside)) / FINER
        # The middle of each texel of the sheet lies between four of the finer ones.
        middle = distance.reshape(glyph.height, FINER, glyph.width, FINER).mean((1, 3))
        whole[glyph.y : glyph.y + glyph.height, glyph.x : glyph.x + glyph.width] = np.clip(
            128 + middle * (127 / SPREAD), 0, 255
        )
    return whole[::-1].tobytes()

from collections.abc import Mapping
from typing import Any, Literal

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.kinds import glyphs
from fulgura.core.kinds.drawn import Mesh, Own, Source
from fulgura.core.kinds.parameters import Colour, Factor, Length, Number, Ratio, Words, param
from fulgura.core.kinds.providers import TickInput

MOST_LETTERS = 64
LEADING = 1.15
"""Lines stand this many em apart."""
SHOWS = ("words", "track", "look", "tempo", "cue")
WIDE = 3.4
"""How wide a fitted line becomes: nearly all of a 16:9 picture."""


class Lines:
    """Letters set in lines: for each two cells: its box (left, bottom, width, height; half-heights), and its
    box on the sheet (0..1).
    """

    def __init__(self, seed: int) -> None:
        self.beats = 0

    def step(self, values: Mapping[str, Any], heard: TickInput) -> Array:
        shows = SHOWS[int(values["shows"])]
        words = str(values["words"]) if shows == "words" else heard.names.get(shows, "")
        self.beats += heard.context.fallen
        if values["one_by_one"]:
            each = words.replace("/", " ").split()
            words = each[self.beats % len(each)] if each else ""
        return set_lines(
            words,
            tuple(glyphs.FACES)[int(values["face"])],
            values["size_of_letters"],
            values["spacing"],
            bool(values["fit"]),
        ).reshape(-1)


def set_lines(words: str, face: str, size: float, spacing: float, fit: bool) -> Array:
    """Cells (2 * MOST_LETTERS, 4) of words in lines that a stroke parts, each line in the middle. size: an
    em; spacing: more room after each letter, in em; fit: so large that the longest line is as wide as the
    picture.
    """
    sheet = glyphs.sheet()
    width, height = sheet.size
    cells = np.zeros((2 * MOST_LETTERS, 4), dtype=np.float32)
    lines = [line.strip() for line in words.split("/")]

    def advance(letter: str) -> float:
        return (
            sheet.glyphs[face, letter].advance if (face, letter) in sheet.glyphs else sheet.spaces[face]
        ) + spacing

    lengths = [max(0.0, sum(advance(letter) for letter in line) - spacing) for line in lines]
    em = WIDE / max(lengths) if fit and max(lengths) > 0 else size
    placed = 0
    for number, (line, length) in enumerate(zip(lines, lengths)):
        pen, base = -0.5 * length, (0.5 * (len(lines) - 1) - number) * LEADING - 0.35
        for letter in line:
            glyph = sheet.glyphs.get((face, letter))
            if glyph is not None and placed < MOST_LETTERS:
                wide, high = glyph.width / glyphs.EM, glyph.height / glyphs.EM
                cells[2 * placed] = (
                    em * (pen + glyph.left),
                    em * (base + glyph.top - high),
                    em * wide,
                    em * high,
                )
                cells[2 * placed + 1] = (
                    glyph.x / width,
                    1.0 - (glyph.y + glyph.height) / height,
                    glyph.width / width,
                    glyph.height / height,
                )
                placed += 1
            pen += advance(letter)
    return cells


class Text(Source):
    """Words in the picture: your own, or the name of the track, the look or the cue. A stroke / begins a new
    line.
    """

    shader = "text.frag"
    own = Own("rows", 2 * MOST_LETTERS, Lines)
    mesh = Mesh("text.vert", vertices=6, instances=MOST_LETTERS, blend="over")
    images = (glyphs.KEY,)

    shows: Literal[*SHOWS] = param("words", help="What is written", group="Words")  # type: ignore[valid-type]
    words: Words = param(
        "VESPER POINT",
        help="A stroke / begins a new line; 64 letters",
        group="Words",
        when=("shows", "words"),
    )
    one_by_one: bool = param(False, help="One word a beat", group="Words")
    face: Literal[*glyphs.FACES] = param("heavy", help="The letters", group="Words")  # type: ignore[valid-type]
    size_of_letters: Length = param(0.4, 0.03, 3.0, "Height of an em", group="Words", title="Size")
    fit: bool = param(False, help="As wide as the picture, whatever is written", group="Words")
    spacing: Number = param(0.04, -0.3, 2.0, "More room between letters, in em", group="Words")
    weight: Number = param(0.0, -0.35, 0.45, "Thinner or bolder", group="Light")
    outline: Ratio = param(0.0, help="0 is filled; more leaves only the outline", group="Light")
    glow: Ratio = param(0.2, help="Light around the letters", group="Light")
    wave: Length = param(0.0, 0.0, 1.0, "How far letters move up and down in turn", group="Motion")
    pace: Factor = param(1.0, 0.0, 8.0, "How fast they do", group="Motion")
    tint: Colour = param("#f4efe0", help="Colour of the light", group="Light")
    level: Number = param(1.0, 0.0, 4.0, "Brightness", group="Light")

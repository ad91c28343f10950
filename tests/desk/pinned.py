"""Pinned pictures: how every source and effect looks, small, in one PNG. ``python -m tests.desk.pinned``
draws it anew; look at it then.
"""

import json
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from PIL.PngImagePlugin import PngInfo

SHEET = Path(__file__).with_name("pinned.png")
SIZE, COLUMNS = (80, 45), 8


def small(picture: NDArray) -> NDArray:
    """A drawn picture (180, 320, 3) as it is pinned, uint8, shape (45, 80, 3): the means of 4x4 pixels."""
    return np.round(picture.reshape(SIZE[1], 4, SIZE[0], 4, 3).mean(axis=(1, 3))).astype(np.uint8)


def pinned() -> dict[str, NDArray]:
    """Name -> its pinned picture; none before the sheet was ever drawn."""
    if not SHEET.exists():
        return {}
    with Image.open(SHEET) as sheet:
        names, whole = json.loads(sheet.text["names"]), np.asarray(sheet.convert("RGB"))

    def at(i):
        return (i // COLUMNS * SIZE[1], i % COLUMNS * SIZE[0])

    return {
        name: whole[at(i)[0] : at(i)[0] + SIZE[1], at(i)[1] : at(i)[1] + SIZE[0]]
        for i, name in enumerate(names)
    }


def pin(pictures: dict[str, NDArray]) -> None:
    """Write the sheet."""
    rows = -(-len(pictures) // COLUMNS)
    sheet, names = Image.new("RGB", (SIZE[0] * COLUMNS, SIZE[1] * rows)), PngInfo()
    for i, picture in enumerate(pictures.values()):
        sheet.paste(Image.fromarray(picture), (i % COLUMNS * SIZE[0], i // COLUMNS * SIZE[1]))
    names.add_text("names", json.dumps(list(pictures)))
    sheet.save(SHEET, pnginfo=names, optimize=True)


if __name__ == "__main__":
    from fulgura.demo.tracks import lamp_room
    from tests.desk.parity_looks import LOOKS, how_many
    from tests.desk.test_parity import SECONDS_HEARD, frames, in_python

    heard = lamp_room().finished()[SECONDS_HEARD]
    pin({name: small(in_python(*frames(look, heard, how_many(name)))) for name, look in LOOKS.items()})

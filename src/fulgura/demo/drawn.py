"""The demo's own drawing and film, made here: the tower of Vesper Point, and its beam sweeping over
the sea.
"""

from collections.abc import Iterator
from math import pi
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fulgura.demo.media import BEAM, DRAWING, TOWER
from fulgura.media.import_picture import prepared
from fulgura.media.intra_clip import Writer


def beam() -> Iterator[NDArray]:
    """One turn of the lamp, picture after picture, uint8, shape (360, 640, 3): the last leads into
    the first.
    """
    y, x = np.mgrid[0 : BEAM.height, 0 : BEAM.width].astype(np.float32)
    p, q = (x - BEAM.width / 2) / (BEAM.height / 2), (BEAM.height * 0.42 - y) / (BEAM.height / 2)
    angle, away, sea = np.arctan2(q, p), np.hypot(p, q), q < -0.12
    rng = np.random.default_rng(5)
    swell = (
        sum(
            np.sin(p * rng.uniform(2, 9) / (0.25 - q).clip(0.2) + q * rng.uniform(20, 70) + rng.uniform(0, 6))
            for _ in range(5)
        )
        / 5.0
    )
    night = np.stack(
        [
            0.008 + 0.02 * (1 - away).clip(0),
            0.010 + 0.02 * (1 - away).clip(0),
            0.03 + 0.05 * (1.2 - away).clip(0),
        ],
        axis=-1,
    )
    lamp = np.exp(-((away / 0.05) ** 2)) + 0.25 * np.exp(-away / 0.12)
    for number in range(BEAM.frames):
        turn = 2.0 * pi * number / BEAM.frames
        # Seen from the side: a beam that points at us is wide and bright, one that points away narrow.
        light = np.zeros_like(p)
        for side in (turn, turn + pi):
            towards = np.sin(side)
            along = 0.0 if np.cos(side) > 0 else pi
            off = np.abs((angle - along + pi) % (2 * pi) - pi)
            light += (
                np.exp(-((off / (0.05 + 0.16 * max(0.0, towards))) ** 2))
                * np.abs(np.cos(side)) ** 0.5
                * np.exp(-away / 1.6)
                * (0.9 + 0.5 * towards)
            )
        glint = np.where(
            sea, 0.35 * (swell * 0.5 + 0.5) ** 3 * (light[::-1] * 0.8 + 0.25 * np.exp(-(p**2) / 0.15)), 0.0
        )
        picture = night + (light * (~sea) + glint + lamp * (1.0 + 0.6 * max(0.0, np.sin(turn))))[
            ..., None
        ] * np.array([1.0, 0.82, 0.5])
        yield (255.0 * np.clip(picture, 0.0, 1.0) ** (1 / 2.2)).astype(np.uint8)


def prepare(folder: Path) -> None:
    """Draw what is missing into a folder. Raises OSError for one that cannot be written."""
    drawing, film = folder / f"{TOWER.key}.rgba", folder / f"{BEAM.key}.zip"
    if not drawing.is_file():
        draft = drawing.with_suffix(".new")
        draft.write_bytes(prepared(DRAWING)[0].tobytes())
        draft.replace(drawing)
    if not film.is_file():
        draft = film.with_suffix(".new")
        with Writer(draft, BEAM.width, BEAM.height, BEAM.rate) as intra_clip:
            for picture in beam():
                intra_clip.add(picture)
        draft.replace(film)

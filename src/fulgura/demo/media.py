"""What the demo's drawing and film are called in its show. They are made by drawn.py."""

import hashlib
from pathlib import Path

from fulgura.core.show.document import Stored, StoredClip


def _key(kind: str, name: str) -> str:
    """By its name, not by its content: the show is written before either is drawn."""
    return f"{kind}-{hashlib.sha256(name.encode()).hexdigest()[:24]}"


DRAWING = Path(__file__).parent / "tower.svg"
TOWER = Stored(id="the-tower", name="The tower", key=_key("file", "tower of Vesper Point, 1"), width=1067, height=1600)
BEAM = StoredClip(id="the-beam", name="Sweeping beam", key=_key("clip", "beam of Vesper Point, 1"), width=640, height=360, frames=96, rate=24.0)

"""What the demo's drawing, film and tracks are called. They are made by drawn.py and tracks.py, which take
longer to import.
"""

import hashlib
from pathlib import Path

from fulgura.core.show.looks import Stored, StoredClip


def _key(kind: str, name: str) -> str:
    """By its name, not by its content: the show is written before either is drawn."""
    return f"{kind}-{hashlib.sha256(name.encode()).hexdigest()[:24]}"


DRAWING = Path(__file__).parent / "tower.svg"
TOWER = Stored(
    id="the-tower", name="The tower", key=_key("file", "tower of Vesper Point, 1"), width=1067, height=1600
)
BEAM = StoredClip(
    id="the-beam",
    name="Sweeping beam",
    key=_key("clip", "beam of Vesper Point, 1"),
    width=640,
    height=360,
    frames=96,
    rate=24.0,
)
TITLES = {
    "lamp-room": "Lamp Room",
    "fog-signal": "Fog Signal",
    "undertow": "Undertow",
    "slack-water": "Slack Water",
}
"""Track id -> title."""

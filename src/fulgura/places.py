"""Where things lie: the data folder and what is in it."""

import hashlib
import os
import tempfile
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
DESK = ROOT / "desk" / "dist"


@dataclass(frozen=True)
class Places:
    """One data folder. Shows live in its database, sound files beside it, sockets in a short private folder."""

    data: Path

    @property
    def database(self) -> Path:
        return self.data / "database"

    @property
    def tracks(self) -> Path:
        return self.data / "tracks"

    @property
    def logs(self) -> Path:
        return self.data / "logs"

    @property
    def unsaved(self) -> Path:
        """Edits that could not be saved yet, kept across a crash."""
        return self.data / "unsaved.json"

    @property
    def run(self) -> Path:
        """Unix sockets allow about 100 characters, so they are not in the data folder itself."""
        name = hashlib.sha256(str(self.data.resolve()).encode()).hexdigest()[:12]
        return Path(tempfile.gettempdir()) / f"fulgura-{os.getuid()}-{name}"

    @property
    def database_socket(self) -> Path:
        return self.run / "database.sock"

    def make(self) -> None:
        for folder in (self.data, self.tracks, self.logs, self.run):
            folder.mkdir(parents=True, exist_ok=True, mode=0o700)

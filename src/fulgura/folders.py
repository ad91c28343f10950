"""Where things lie: the data folder and what is in it."""

import contextlib
import hashlib
import os
import tempfile
from dataclasses import dataclass
from pathlib import Path
from uuid import uuid4

ROOT = Path(__file__).resolve().parents[2]
DESK = ROOT / "desk" / "dist"
RECORDING, RECORDED = ".recording", ".recorded"
"""Endings in the tracks' folder: what an engine is writing, and what waits to be taken into the library."""
INCOMING = "incoming-"
"""How files begin that are being uploaded."""


@dataclass(frozen=True)
class Folders:
    """One data folder. Shows live in its database, sound files beside it, sockets in a short private
    folder.
    """

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
    def pictures(self) -> Path:
        """Pictures that were taken in, by their content, as bare texels."""
        return self.data / "pictures"

    @property
    def rig_file(self) -> Path:
        """The rig as a file, for the stand-in."""
        return self.data / "rig.json"

    @property
    def thumbnails(self) -> Path:
        """Small pictures of looks, by their content; made again when they are gone."""
        return self.data / "thumbnails"

    @property
    def journal(self) -> Path:
        """Edits, on disk before they are answered; cut when the database has them."""
        return self.data / "journal"

    @property
    def run(self) -> Path:
        """Unix sockets allow about 100 characters, so they are not in the data folder itself."""
        name = hashlib.sha256(str(self.data.resolve()).encode()).hexdigest()[:12]
        return Path(tempfile.gettempdir()) / f"fulgura-{os.getuid()}-{name}"

    @property
    def database_socket(self) -> Path:
        return self.run / "database.sock"

    @property
    def alive(self) -> Path:
        """Where processes say that they live."""
        return self.run / "alive"

    @property
    def healed(self) -> Path:
        """Which processes were replaced, a line each."""
        return self.run / "healed"

    @property
    def kept_state(self) -> Path:
        """What the engine's successor goes on from: in memory, where the system has a folder for that."""
        shared = Path("/dev/shm")
        holder = shared / self.run.name if os.access(shared, os.W_OK) else self.run / "state"
        return holder / "engine"

    def incoming(self, folder: Path) -> Path:
        """A new name for what is being uploaded into a folder."""
        return folder / f"{INCOMING}{uuid4().hex}.part"

    def forget_uploads(self) -> None:
        """Remove what a web process left that died during an upload: nobody will ever end it."""
        for folder in (self.tracks, self.pictures):
            for left in folder.glob(f"{INCOMING}*"):
                with contextlib.suppress(OSError):
                    left.unlink()

    @property
    def _kept(self) -> tuple[Path, ...]:
        return self.data, self.tracks, self.logs, self.pictures, self.thumbnails

    def make(self) -> None:
        for folder in (*self._kept, self.run, self.kept_state.parent):
            folder.mkdir(parents=True, exist_ok=True, mode=0o700)

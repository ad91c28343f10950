"""Small pictures of looks and layers: kept by their content, drawn by a process of its own when they are
asked for.
"""

import asyncio
import hashlib
import tempfile
from pathlib import Path

import orjson

from fulgura.core.show.document import Show
from fulgura.core.show.looks import Look
from fulgura.folders import Folders
from fulgura.web.children import ChildFailed, run
from fulgura.web.problems import Refused

LONGEST_S = 300
GATHER_S = 0.3
"""How long is waited for more to be asked for."""
KEPT = 500
"""Pictures that are kept; the oldest go first."""


class Thumbnails:
    """Drawn by one child at a time, all that was asked for meanwhile together: a show is never disturbed by
    more than that, and nobody waits: a browser has few connections, and what it asks next may be urgent.
    """

    def __init__(self, folders: Folders) -> None:
        self.folder, self.pictures = folders.thumbnails, folders.pictures
        self.wanted: dict[Path, tuple[str, str]] = {}
        self.failed: set[Path] = set()
        self.work: asyncio.Task | None = None

    def picture(self, show: Show, look: str, layer: str = "") -> Path | None:
        """The PNG file of a look of this show, or of one layer of it; None while it is being drawn. Raises
        Refused.
        """
        found = next((one for one in show.looks if one.id == look), None)
        if found is None or (layer and layer not in {one.id for one in found.layers}):
            raise Refused(404, "There is no such look or layer", "Someone may have taken it away.")
        file = self.folder / f"{_digest(found, layer)}.png"
        if file.is_file():
            return file
        if file in self.failed:
            raise Refused(404, "There is no picture of it", "It could not be drawn.")
        self.wanted[file] = (look, layer)
        if self.work is None or self.work.done():
            self.work = asyncio.create_task(self._draw(show))
        return None

    async def _draw(self, show: Show) -> None:
        await asyncio.sleep(GATHER_S)
        wanted, self.wanted = self.wanted, {}
        with tempfile.TemporaryDirectory() as folder:
            job = Path(folder) / "job.json"
            job.write_bytes(
                orjson.dumps(
                    {
                        "show": show.model_dump(),
                        "pictures": str(self.pictures),
                        "wanted": [[*names, str(file)] for file, names in wanted.items()],
                    }
                )
            )
            try:
                await run("thumbnails", str(job), longest_s=LONGEST_S)
            except ChildFailed:
                self.failed |= {file for file in wanted if not file.is_file()}
        kept = sorted(self.folder.glob("*.png"), key=lambda one: one.stat().st_mtime)
        for old in kept[:-KEPT]:
            old.unlink(missing_ok=True)


def _digest(look: Look, layer: str) -> str:
    """What the picture shows: the look's content, and of a layer also what it may read of the others."""
    content = [look.model_dump(exclude={"name"}), layer]
    return hashlib.sha256(orjson.dumps(content)).hexdigest()[:24]

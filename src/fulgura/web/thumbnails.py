"""Small pictures of looks, layers and kinds: kept by their content, drawn by a process of its own when they
are asked for.
"""

import asyncio
import tempfile
from pathlib import Path
from typing import NamedTuple

import orjson

from fulgura.core.show.document import Show
from fulgura.core.show.kind_looks import kind_show
from fulgura.folders import Folders
from fulgura.web.children import BY_AND_BY, ChildFailed, run
from fulgura.web.problems import Refused


class Subject(NamedTuple):
    """A look, or one layer of it alone."""

    look: str
    layer: str


LONGEST_S = 300
GATHER_S = 1.0
"""How long is waited for more to be asked for."""
KEPT = 500
"""Pictures that are kept; the oldest go first."""


class Thumbnails:
    """Drawn by one child at a time, all that was asked for meanwhile together: a show is never disturbed by
    more than that, and nobody waits: a browser has few connections, and what it asks next may be urgent.
    """

    def __init__(self, folders: Folders) -> None:
        self.folder, self.pictures = folders.thumbnails, folders.pictures
        self.wanted: dict[Path, tuple[Show, Subject]] = {}
        self.failed: set[Path] = set()
        self.work: asyncio.Task | None = None

    def picture(self, show: Show, look: str, layer: str = "") -> Path | None:
        """The PNG file of a look of this show, or of one layer of it; None while it is being drawn. Raises
        Refused.
        """
        found = next((other for other in show.looks if other.id == look), None)
        if found is None or (layer and layer not in {layer.id for layer in found.layers}):
            raise Refused(404, "There is no such look or layer", "Someone may have taken it away.")
        return self._file(show, Subject(look, layer), self.folder / f"{found.fingerprint(layer)}.png")

    def kind(self, family: str, kind: str) -> Path | None:
        """The WebP file, moving, of what a source or an effect does; None while it is being drawn. Raises
        Refused.
        """
        try:
            show = kind_show(family, kind)
        except KeyError:
            raise Refused(404, "There is no such source or effect", "Nothing of that name draws.") from None
        return self._file(show, Subject(show.look, ""), self.folder / f"{show.looks[0].fingerprint()}.webp")

    def _file(self, show: Show, wanted: Subject, file: Path) -> Path | None:
        if file.is_file():
            return file
        if file in self.failed:
            return None
        self.wanted[file] = (show, wanted)
        if self.work is None or self.work.done():
            self.work = asyncio.create_task(self._draw())
        return None

    async def _draw(self) -> None:
        await asyncio.sleep(GATHER_S)
        while self.wanted:
            wanted, self.wanted = self.wanted, {}
            await self._draw_together(wanted)
            self._forget_oldest()

    async def _draw_together(self, wanted: dict[Path, tuple[Show, Subject]]) -> None:
        with tempfile.TemporaryDirectory() as folder:
            job = Path(folder) / "job.json"
            rows = [
                {
                    "show": show.model_dump(),
                    "look": thumbnail.look,
                    "layer": thumbnail.layer,
                    "file": str(file),
                }
                for file, (show, thumbnail) in wanted.items()
            ]
            job.write_bytes(orjson.dumps({"pictures": str(self.pictures), "wanted": rows}))
            try:
                await run("thumbnails", str(job), longest_s=LONGEST_S, nice=BY_AND_BY)
            except ChildFailed:
                self.failed |= {file for file in wanted if not file.is_file()}

    def _forget_oldest(self) -> None:
        kept = sorted(self.folder.glob("*.*"), key=lambda file: file.stat().st_mtime)
        for old in kept[:-KEPT]:
            old.unlink(missing_ok=True)

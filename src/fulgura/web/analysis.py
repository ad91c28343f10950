"""What the analyser hears in a whole track, asked of a process of its own: for files to keep, and to find its
rhythm.
"""

import json
import tempfile
from pathlib import Path

from fulgura.core.sound.rhythm import rhythmic_part
from fulgura.folders import Folders
from fulgura.web.children import ChildFailed, run
from fulgura.web.problems import Refused

LONGEST_S = 900
MEDIA = {".jams": "application/json", ".csv": "text/csv", ".mid": "audio/midi", ".txt": "text/plain"}


async def export(folders: Folders, track: str, ending: str) -> bytes:
    """The analysis of a track as a file with this ending."""
    with tempfile.TemporaryDirectory() as folder:
        target = Path(folder) / f"analysis{ending}"
        await _analyze(folders, track, "--export", str(target))
        return target.read_bytes()


async def rhythm(folders: Folders, track: str) -> tuple[float, float]:
    """Where a track's steady beat begins and ends, in seconds."""
    heard = json.loads(await _analyze(folders, track, "--json"))
    found = rhythmic_part(heard["tempo"], heard["beats"])
    if found is None:
        raise Refused(422, "No steady beat was found", "The track stays as it is.")
    return found


async def _analyze(folders: Folders, track: str, *words: str) -> bytes:
    file = folders.tracks / f"{track}.flac"
    if file.parent != folders.tracks or not file.is_file():
        raise Refused(404, "No such track", "It is not in the library any more.")
    try:
        return await run("analyze", str(file), *words, longest_s=LONGEST_S)
    except ChildFailed as error:
        raise Refused(422, "That track cannot be analysed", str(error)) from error

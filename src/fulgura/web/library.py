"""The library of tracks: taking in what is uploaded, in pieces, through a process of its own."""

import asyncio
import json
import re
from collections.abc import Callable
from pathlib import Path

from starlette.requests import ClientDisconnect, Request

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.folders import RECORDED, Folders
from fulgura.store import tracks
from fulgura.store.connection import StoreError
from fulgura.web.children import ChildFailed, run
from fulgura.web.problems import Refused

LARGEST = 2 * 2**30
"""Bytes of one upload."""
LONGEST_S = 900
LOOK_EVERY_S, AGAIN_S = 0.5, 20.0


def an_id(title: str, taken: set[str]) -> str:
    """A track's id from its title: lower case, dashes, not yet taken."""
    plain = re.sub(r"[^a-z0-9]+", "-", title.lower()).strip("-")[:40] or "track"
    number = 2
    wanted = plain
    while wanted in taken:
        wanted, number = f"{plain}-{number}", number + 1
    return wanted


async def receive(folders: Folders, title: str, request: Request) -> dict:
    """Take an upload in; returns the track's row. Nothing is left behind when it is refused or broken off."""
    part = folders.incoming(folders.tracks)
    try:
        await store_body(
            request,
            part,
            LARGEST,
            "A track may have up to 2 GB.",
            "Choose a sound file: WAV, FLAC, OGG, MP3 or M4A.",
        )
        return await add(folders, title, part)
    except ClientDisconnect as gone:
        raise Refused(499, "Broken off", "The upload was broken off; nothing was kept.") from gone
    finally:
        part.unlink(missing_ok=True)


_ONE_AT_A_TIME = asyncio.Lock()


async def add(folders: Folders, title: str, part: Path) -> dict:
    """Take a whole file in and note it down; returns the track's row. Raises Refused.

    One at a time: two of the same title are two tracks, and the engine keeps its share of the processor.
    """
    async with _ONE_AT_A_TIME:
        return await _add(folders, title, part)


async def _add(folders: Folders, title: str, part: Path) -> dict:
    """Take a whole file in and note it down."""
    taken = {row["id"] for row in await asyncio.to_thread(tracks.list_tracks, folders.database_socket)} | {
        file.stem for file in folders.tracks.glob("*.flac")
    }
    track = an_id(title, taken)
    found = await _import(part, folders.tracks / f"{track}.flac")
    try:
        await asyncio.to_thread(
            tracks.put, folders.database_socket, track, title, found["seconds"], found["bpm"]
        )
    except Exception:
        _forget(folders, track)
        raise
    return {"id": track, "title": title, **found}


async def watch_recordings(folders: Folders, changed: Callable[[Fault | None], None]) -> None:
    """Take recordings into the library as they become whole, for ever; changed is told of each, and why one
    has to wait.

    One that cannot be taken in (a full disk, the database away) stays where it is and is tried again.
    """
    while True:
        await asyncio.sleep(LOOK_EVERY_S)
        for file in sorted(folders.tracks.glob(f"*{RECORDED}")):
            try:
                async with _ONE_AT_A_TIME:
                    await _add(folders, file.stem, file)
                file.unlink(missing_ok=True)
                changed(None)
            except (Refused, StoreError, OSError) as error:
                changed(Fault.of(FaultCode.RECORDING_WAITS, name=file.stem, why=error))
                await asyncio.sleep(AGAIN_S)


async def store_body(request: Request, part: Path, largest: int, too_large: str, empty: str) -> None:
    """Write the body to a file as it comes. Raises Refused, with these words where it is too large or
    empty.
    """
    size = 0
    try:
        with open(part, "wb") as file:
            async for piece in request.stream():
                size += len(piece)
                if size > largest:
                    raise Refused(413, "That file is too large", too_large)
                await asyncio.to_thread(file.write, piece)
    except OSError as error:
        raise Refused(
            507,
            "There is no room for it",
            f"The disk could not keep the file ({error.strerror}). Nothing was changed.",
        ) from error
    if size == 0:
        raise Refused(422, "That file is empty", empty)


async def _import(part: Path, target: Path) -> dict:
    """Decode it; returns seconds and bpm."""
    try:
        return json.loads(await run("import-sound", str(part), str(target), longest_s=LONGEST_S))
    except ChildFailed as error:
        raise Refused(
            422,
            "That file cannot be played",
            str(error).replace(str(part), "it").replace(part.name, "The file"),
        ) from error


def _forget(folders: Folders, track: str) -> None:
    for ending in (".flac", ".wave.json", ".json"):
        (folders.tracks / f"{track}{ending}").unlink(missing_ok=True)


async def remove(folders: Folders, track: str) -> bool:
    """Take a track out of the library; whether there was one."""
    if not await asyncio.to_thread(tracks.remove, folders.database_socket, track):
        return False
    _forget(folders, track)
    return True


def waveform(folders: Folders, track: str) -> dict | None:
    """{"seconds", "peaks"} of a track; None when there is none."""
    file = folders.tracks / f"{track}.wave.json"
    if file.parent != folders.tracks or not file.is_file():
        return None
    return json.loads(file.read_text())

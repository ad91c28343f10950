"""Pictures and films that are uploaded: taken in by a process of its own, so that a damaged file can hurt
nothing else.
"""

import asyncio
import json
import re
from collections.abc import Callable
from pathlib import Path

from starlette.requests import ClientDisconnect, Request

from fulgura.folders import Folders
from fulgura.web import library
from fulgura.web.children import ChildFailed, follow, run
from fulgura.web.library import store_body
from fulgura.web.problems import Refused

LARGEST = 200 * 2**20
LARGEST_CLIP = 4 * 2**30
LONGEST_S = 120
LONGEST_CLIP_S = 2 * 3600
_BROKEN_OFF = "The upload was broken off; nothing was kept."


async def receive(folders: Folders, request: Request) -> dict:
    """Take a picture in; returns key, width and height. Nothing is left behind when it is refused or broken
    off.
    """
    part = folders.incoming(folders.pictures)
    try:
        await store_body(
            request,
            part,
            LARGEST,
            "A picture may have up to 200 MB.",
            "Choose a picture: PNG, JPEG, WebP or SVG.",
        )
        return json.loads(await run("import-picture", str(part), str(folders.pictures), longest_s=LONGEST_S))
    except ClientDisconnect as gone:
        raise Refused(499, "Broken off", _BROKEN_OFF) from gone
    except ChildFailed as error:
        raise Refused(422, "That picture cannot be shown", str(error)) from error
    finally:
        part.unlink(missing_ok=True)


async def receive_clip(
    folders: Folders, request: Request, title: str, with_sound: bool, told: Callable[[float], None]
) -> tuple[dict, str]:
    """Take a film in; returns (what import_clip does, the id of the track that its sound became, empty
    for none).

    told: hears how far it is, 0..1, once the upload is there. Nothing is left behind when it is refused or
    broken off.
    """
    part = folders.incoming(folders.pictures)
    try:
        await store_body(
            request,
            part,
            LARGEST_CLIP,
            "A film may have up to 4 GB.",
            "Choose a film: MP4, MOV, WebM or GIF.",
        )
        async with _ONE_AT_A_TIME:
            said = await follow(
                "import-clip",
                str(part),
                str(folders.pictures),
                longest_s=LONGEST_CLIP_S,
                told=lambda line: _heard(line, told),
                gone=request.is_disconnected,
            )
        found = json.loads(said)
        return found, (await library.add(folders, title, part))["id"] if with_sound and found["sound"] else ""
    except ClientDisconnect as gone:
        raise Refused(499, "Broken off", _BROKEN_OFF) from gone
    except ChildFailed as error:
        if await request.is_disconnected():
            raise Refused(499, "Broken off", _BROKEN_OFF) from error
        raise Refused(422, "That film cannot be shown", str(error)) from error
    finally:
        _clean(part)


_ONE_AT_A_TIME = asyncio.Lock()
"""Two films at once would take the engine's share of the processor."""


def _heard(line: str, told: Callable[[float], None]) -> bool:
    """Whether a line says how far it is."""
    if not re.fullmatch(r"[01]\.\d+", line):
        return False
    told(float(line))
    return True


def _clean(part: Path) -> None:
    for left in (part, part.with_suffix(".new")):  # A child that was stopped leaves its draft.
        left.unlink(missing_ok=True)

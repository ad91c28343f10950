"""Copying and pasting: what is copied lies on the system's clipboard as JSON."""

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from fulgura.core.show.clipping import MOST_BYTES, Clipping, clip, read
from fulgura.core.show.commands.copying import Pasted, paste
from fulgura.web.api.dependencies import OpenSession, commit
from fulgura.web.described import takes
from fulgura.web.live.session import Session
from fulgura.web.problems import Refused

router = APIRouter()


class Chosen(BaseModel):
    """Paths of what is copied. where: path that copies go to; empty for beside what they were made from."""

    paths: list[str] = Field(min_length=1, max_length=200)
    where: str = Field("", max_length=400)


class Copied(BaseModel):
    """made: paths of what was made; left: what could not be brought along, in words."""

    made: list[str]
    left: list[str]


@router.post("/copies")
async def copy(chosen: Chosen, session: OpenSession) -> Clipping:
    """What stands at these places, with all that moves it, for the clipboard."""
    return clip(session.show, chosen.paths)


@router.post("/copies/twins", status_code=201)
async def double(chosen: Chosen, session: OpenSession) -> Copied:
    """Copy and paste in one: beside the first."""
    found = clip(session.show, chosen.paths)
    return await _made(session, paste(session.show, found, chosen.where), "Copy")


@router.post(
    "/copies/pasted", status_code=201, openapi_extra=takes("What lies on the clipboard", "text/plain")
)
async def take(request: Request, session: OpenSession, where: str = "") -> Copied:
    """Paste what lies on the clipboard: the body, as text, whatever it is."""
    body, size = bytearray(), 0
    async for piece in request.stream():
        size += len(piece)
        # What is too much is read to its end, and forgotten: who sends it hears why it is refused.
        if size <= MOST_BYTES:
            body += piece
    if size > MOST_BYTES:
        raise Refused(
            413,
            "That is too much",
            "What is on the clipboard is too large to be pasted. Nothing was changed.",
        )
    found = read(body.decode(errors="replace"))
    return await _made(session, paste(session.show, found, where), "Paste")


async def _made(session: Session, pasted: Pasted, name: str) -> Copied:
    await commit(session, pasted.edit, name)
    return Copied(made=pasted.made, left=pasted.left)

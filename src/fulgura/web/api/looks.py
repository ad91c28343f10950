"""Looks: made, copied, taken away; small pictures of them."""

from fastapi import APIRouter, Query, Request, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel, Field

from fulgura.core.show.commands.looks import new_look, without_look
from fulgura.core.show.document import Show
from fulgura.core.show.part import Name
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit
from fulgura.web.described import gives

router = APIRouter()


class NewLook(BaseModel):
    """of: the look that it begins as a copy of; empty for an empty one."""

    name: Name
    of: str = Field("", max_length=60)


@router.post("/looks", status_code=201)
async def add_look(wanted: NewLook, session: OpenSession) -> Created:
    """Make a look, empty or as a copy with all that moves it, and show it."""
    edit, look = new_look(session.show, wanted.name, wanted.of)
    await commit(session, edit, "New look")
    return Created(id=look)


@router.delete("/looks/{look}")
async def remove_look(look: str, session: OpenSession) -> EditAnswer:
    """Take a look away; cues that go to it say so."""
    return await commit(session, without_look(session.show, look), "Remove look")


@router.get("/looks/{look}/thumbnail", response_class=FileResponse, responses=gives("image/png", later=True))
async def thumbnail(
    look: str, request: Request, session: OpenSession, layer: str = Query("", max_length=60)
) -> Response:
    """A small picture of a look, or of one layer of it, drawn in Python."""
    return drawn(request, session.show, look, layer)


def drawn(request: Request, show: Show, look: str, layer: str = "") -> Response:
    """The answer with a small picture: its file, or, while it is being drawn, nothing yet."""
    file = request.app.state.thumbnails.picture(show, look, layer)
    if file is None:
        return Response(status_code=204, headers={"Cache-Control": "no-store"})
    return FileResponse(file, media_type="image/png", headers={"Cache-Control": "no-cache"})

"""Pages of pads and faders."""

from typing import Any

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fulgura.core.show.commands.pages import add_action, change_action, move_pad, new_fader, new_pad, new_page
from fulgura.web.api.dependencies import Created, OpenSession, commit

router = APIRouter()


class NewPage(BaseModel):
    """Numbered without a name."""

    name: str = Field("", max_length=80)


@router.post("/pages", status_code=201)
async def add_page(wanted: NewPage, session: OpenSession) -> Created:
    """Add an empty page."""
    edit, page = new_page(session.show, wanted.name)
    await commit(session, edit, "New page")
    return Created(id=page)


class NewAction(BaseModel):
    """What is done: a kind of action, and its values."""

    kind: str = Field(max_length=60)
    values: dict[str, Any] = {}


class NewPad(NewAction):
    """at: its place on the page, from 0 on."""

    at: int


@router.post("/pages/{page}/pads", status_code=201)
async def add_pad(page: str, wanted: NewPad, session: OpenSession) -> Created:
    """Put a pad with one action into a place of a page."""
    edit, pad = new_pad(session.show, page, wanted.at, wanted.kind, wanted.values)
    await commit(session, edit, "New pad")
    return Created(id=pad)


@router.post("/pads/{pad}/actions", status_code=204)
async def more(pad: str, wanted: NewAction, session: OpenSession) -> Response:
    """Let a pad do one thing more."""
    await commit(session, add_action(session.show, pad, wanted.kind, wanted.values), "Action of a pad")
    return Response(status_code=204)


class OtherAction(BaseModel):
    """kind: what it does from now on."""

    kind: str = Field(max_length=60)


@router.put("/pads/{pad}/actions/{action}", status_code=204)
async def become(pad: str, action: str, wanted: OtherAction, session: OpenSession) -> Response:
    """Let an action be another one; a pad's only one brings its usual way of playing."""
    await commit(session, change_action(session.show, pad, action, wanted.kind), "Action of a pad")
    return Response(status_code=204)


class PadMoved(BaseModel):
    """Where to, from 0 on."""

    at: int


@router.put("/pads/{pad}/at", status_code=204)
async def move(pad: str, wanted: PadMoved, session: OpenSession) -> Response:
    """Move a pad; what is there goes where it was."""
    await commit(session, move_pad(session.show, pad, wanted.at), "Move pad")
    return Response(status_code=204)


class NewReach(BaseModel):
    """at: place of the fader, from 0 on; target: path of a number of the document."""

    at: int
    target: str = Field(max_length=400)


@router.post("/pages/{page}/faders", status_code=201)
async def add_fader(page: str, wanted: NewReach, session: OpenSession) -> Created:
    """Let a fader move a number, beside what it moves already."""
    edit, fader = new_fader(session.show, page, wanted.at, wanted.target)
    await commit(session, edit, "Fader")
    return Created(id=fader)

"""Shows: listed, made, opened; the open one edited, undone and redone."""

import asyncio

from fastapi import APIRouter
from pydantic import AwareDatetime, BaseModel, Field

from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit
from fulgura.core.show.part import Name
from fulgura.core.show.starter import starter_show
from fulgura.store import shows
from fulgura.web.api.dependencies import ASession, EditAnswer, OpenSession, answer, commit, from_store
from fulgura.web.live.session import Session
from fulgura.web.open_show import OpenShow
from fulgura.web.problems import Refused

router = APIRouter()


class ShowSummary(BaseModel):
    """A show in the list of all."""

    id: int
    name: str
    updated_at: AwareDatetime


class NewShow(BaseModel):
    """What a new show is called."""

    name: Name


class ShowState(BaseModel):
    """The open show. undo, redo: name of the step that would be taken; empty when there is none."""

    id: int
    version: int
    head: int
    undo: str
    redo: str
    document: Show
    names: dict[str, str]
    """What the desk calls each part, by its id."""
    palette: str
    """Id of the palette in use; empty while the show has none of colours."""
    colours: list[str]
    """Its colours, which parameters point at as @1, @2 and so on, counted round."""


class EditRequest(BaseModel):
    """An edit with the name that undo shows. Edits of one gesture (one drag) make one step."""

    edit: Edit
    name: str = Field(min_length=1, max_length=120)
    gesture: str = Field("", max_length=64)
    glide_ms: float = Field(0.0, ge=0, le=60_000)
    """How long live values take to get there, beside glide_beats."""
    glide_beats: float = Field(0.0, ge=0, le=64)


def _state(session: Session) -> ShowState:
    state = session.show_state()
    assert state is not None
    return ShowState.model_validate(state)


@router.get("/shows")
async def list_shows(session: ASession) -> list[ShowSummary]:
    """All shows, newest change first."""
    return [ShowSummary(**row) for row in await from_store(shows.list_shows, session.folders.database_socket)]


@router.post("/shows", status_code=201)
async def create_show(new: NewShow, session: ASession) -> ShowState:
    """Make a show with a first look and three routes to start from, and open it."""
    document = starter_show(new.name).model_dump_json()
    made = await from_store(shows.create, session.folders.database_socket, new.name, document)
    return await open_a_show(made, session)


@router.post("/shows/{show}/open")
async def open_a_show(show: int, session: ASession) -> ShowState:
    """Open a show; every desk and the engine change to it."""
    await asyncio.to_thread(session.saver.wait, 2.0)
    stored = await from_store(shows.load, session.folders.database_socket, show) if 0 < show < 2**63 else None
    if stored is None:
        raise Refused(404, "No such show", "It may have been removed. Choose another one from the list.")
    await from_store(shows.set_setting, session.folders.database_socket, "open-show", str(show))
    session.take(OpenShow(session.saver, stored))
    return _state(session)


@router.get("/show")
async def get_show(session: OpenSession) -> ShowState:
    """The open show."""
    return _state(session)


@router.post("/show/edits")
async def edit_show(request: EditRequest, session: OpenSession) -> EditAnswer:
    """Make an edit. It is live at once; saved says whether it is in the database already."""
    return await commit(
        session, request.edit, request.name, request.gesture, request.glide_ms, request.glide_beats
    )


@router.post("/show/undo")
async def undo(session: OpenSession) -> EditAnswer:
    """Take the last step back."""
    session.step("undo")
    return await answer(session)


@router.post("/show/redo")
async def redo(session: OpenSession) -> EditAnswer:
    """Take the last undone step again."""
    session.step("redo")
    return await answer(session)

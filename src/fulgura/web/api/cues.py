"""Cues: kept, described, rehearsed and recalled."""

from fastapi import APIRouter, Request, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel, Field

from fulgura.core.show.commands.cues import find_cue, new_cue, recall_cue
from fulgura.core.show.cue_words import cue_words, go_words
from fulgura.core.show.edits import apply
from fulgura.core.show.events import ActionDone
from fulgura.core.show.night import Duration
from fulgura.core.show.part import Part
from fulgura.web.api.dependencies import Created, OpenSession, commit
from fulgura.web.api.looks import drawn
from fulgura.web.described import gives

router = APIRouter()


class NewCue(BaseModel):
    """name: numbered without one; over: how long it takes; changed: keep only what was changed since the
    last.
    """

    name: str = Field("", max_length=80)
    over: Duration = Duration(amount=4.0)
    changed: bool = False


@router.post("/cues", status_code=201)
async def add_cue(wanted: NewCue, session: OpenSession) -> Created:
    """Keep the shown look and the light as a cue, or what changed, after the one recalled last."""
    since = session.opened.since if wanted.changed else None
    edit, cue = new_cue(session.show, wanted.over, wanted.name, since)
    await commit(session, edit, "New cue")
    return Created(id=cue)


class CueRecall(BaseModel):
    """cue: empty for the one that comes next."""

    cue: str = Field("", max_length=60)


@router.post("/cues/recall", status_code=204)
async def recall(wanted: CueRecall, session: OpenSession) -> Response:
    """Ask for a cue: it goes at once, or with the beat or bar that it waits for."""
    find_cue(session.show, wanted.cue)
    values = {"which": "a certain one", "cue": wanted.cue} if wanted.cue else {"which": "the next"}
    session.engine.act(ActionDone(action=Part(id="cue", family="action", kind="go-cue", values=values)))
    return Response(status_code=204)


class CueTold(BaseModel):
    """does: a line for each thing that it changes; goes: when; gone: what it meant and is not there."""

    does: list[str]
    goes: str
    gone: list[str]


@router.get("/cues/words")
async def words(session: OpenSession, ids: str = "") -> dict[str, CueTold]:
    """What cues do, in words: those that are named, with commas between, or all."""
    show, wanted = session.show, set(filter(None, ids.split(",")))
    return {
        cue.id: CueTold(
            does=cue_words(show, cue), goes=go_words(show, cue.go), gone=recall_cue(show, cue.id).gone
        )
        for cue in show.cues
        if not wanted or cue.id in wanted
    }


@router.get("/cues/{cue}/picture", response_class=FileResponse, responses=gives("image/png", later=True))
async def picture(cue: str, request: Request, session: OpenSession) -> Response:
    """A small picture of what a cue would bring."""
    recalled = recall_cue(session.show, find_cue(session.show, cue).id)
    then, _ = apply(session.show, recalled.edit)
    return drawn(request, then, then.look)

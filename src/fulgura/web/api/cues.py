"""Cues: kept and recalled."""

from fastapi import APIRouter
from pydantic import BaseModel, Field

from fulgura.core.show.commands.cues import new_cue, recall_cue
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit

router = APIRouter()


class NewCue(BaseModel):
    """name: numbered without one; over_beats: how long its look takes to come."""

    name: str = Field("", max_length=80)
    over_beats: float = Field(4.0, ge=0, le=64)


@router.post("/cues", status_code=201)
async def add_cue(wanted: NewCue, session: OpenSession) -> Created:
    """Keep the shown look as a cue, after the one that was recalled last."""
    edit, cue = new_cue(session.show, wanted.over_beats, wanted.name)
    await commit(session, edit, "New cue")
    return Created(id=cue)


class CueRecall(BaseModel):
    """cue: empty for the one that comes next."""

    cue: str = Field("", max_length=60)


@router.post("/cues/recall")
async def recall(wanted: CueRecall, session: OpenSession) -> EditAnswer:
    """Recall a cue: its look comes over its beats."""
    edit, cue = recall_cue(session.show, wanted.cue)
    return await commit(session, edit, f"Cue {cue.name}", glide_beats=cue.over_beats)

"""Ramps: colours along a line that the show keeps by name."""

from fastapi import APIRouter
from pydantic import BaseModel, Field

from fulgura.core.show.commands import ramps
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit

router = APIRouter()


class NewRamp(BaseModel):
    """like: a ramp whose stops it begins with."""

    name: str = Field("", max_length=80)
    like: str = Field("", max_length=60)


@router.post("/ramps", status_code=201)
async def add_ramp(wanted: NewRamp, session: OpenSession) -> Created:
    """Make a ramp."""
    edit, ramp = ramps.new_ramp(session.show, wanted.name, wanted.like)
    await commit(session, edit, "New ramp")
    return Created(id=ramp)


@router.delete("/ramps/{ramp}")
async def remove_ramp(ramp: str, session: OpenSession) -> EditAnswer:
    """Take a ramp away; what took its colours has its own again."""
    return await commit(session, ramps.without_ramp(session.show, ramp), "Remove ramp")

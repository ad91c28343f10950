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


class NewStop(BaseModel):
    place: float = Field(ge=0, le=1)


@router.post("/ramps/{ramp}/stops")
async def add_stop(ramp: str, wanted: NewStop, session: OpenSession) -> EditAnswer:
    """Another stop, as the nearest one is."""
    return await commit(session, ramps.new_stop(session.show, ramp, wanted.place), "New stop")


@router.delete("/ramps/{ramp}/stops/{number}")
async def remove_stop(ramp: str, number: int, session: OpenSession) -> EditAnswer:
    """Take a stop away; those behind it move up."""
    return await commit(session, ramps.without_stop(session.show, ramp, number), "Remove stop")


@router.delete("/ramps/{ramp}")
async def remove_ramp(ramp: str, session: OpenSession) -> EditAnswer:
    """Take a ramp away; what took its colours has its own again."""
    return await commit(session, ramps.without_ramp(session.show, ramp), "Remove ramp")

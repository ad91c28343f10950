"""Signals that are made."""

from fastapi import APIRouter
from pydantic import BaseModel, Field

from fulgura.core.kinds.modulator import Modulator
from fulgura.core.show.commands.modulators import new_modulator
from fulgura.web.api.dependencies import Created, OpenSession, commit
from fulgura.web.problems import Refused

router = APIRouter()


class NewModulator(BaseModel):
    kind: str = Field(max_length=40)
    name: str = Field("", max_length=80)


@router.post("/modulators", status_code=201)
async def add_modulator(wanted: NewModulator, session: OpenSession) -> Created:
    """Make a signal: an LFO, an envelope, a pattern, a fader or an expression."""
    if wanted.kind not in Modulator.kinds:
        raise Refused(422, "No such modulator", f"There are {', '.join(Modulator.kinds)}.")
    edit, modulator = new_modulator(session.show, wanted.kind, wanted.name)
    await commit(session, edit, "New modulator")
    return Created(id=modulator)

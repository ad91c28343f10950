"""Controllers: which fader moves what."""

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fulgura.core.show.commands.mappings import bind
from fulgura.web.api.dependencies import OpenSession

router = APIRouter()


class Learning(BaseModel):
    """target: a path in the document, like /inputs/main/gain_db."""

    target: str = Field(max_length=400)


@router.put("/mappings/learning", status_code=204)
async def learn(wanted: Learning, session: OpenSession) -> Response:
    """The next fader that moves is bound to this path; an empty one ends the waiting."""
    if wanted.target:
        bind(session.show, "osc /", wanted.target)  # Refused at once when no fader could ever move it.
    session.controllers.learning = wanted.target
    return Response(status_code=204)

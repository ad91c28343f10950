"""What a page says by its socket can be said by a call as well."""

from fastapi import APIRouter, Response
from pydantic import BaseModel

from fulgura.core.show.events import PageEvent
from fulgura.web.api.dependencies import OpenSession

router = APIRouter()


class Act(BaseModel):
    """Something that a hand does."""

    event: PageEvent


@router.post("/events", status_code=204)
async def act(wanted: Act, session: OpenSession) -> Response:
    """Do something with the show that plays: press a pad, move a fader, hold a value."""
    session.engine.act(wanted.event)
    return Response(status_code=204)

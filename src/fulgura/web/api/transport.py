"""Where in its track an input is."""

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fulgura.core.show.inputs import MAIN
from fulgura.core.show.part import Id
from fulgura.web.api.dependencies import ASession

router = APIRouter()


class Seek(BaseModel):
    """Where an input's track goes on."""

    input: Id = MAIN
    seconds: float = Field(ge=0, le=24 * 3600, allow_inf_nan=False)


@router.post("/transport/seek", status_code=204)
async def seek(where: Seek, session: ASession) -> Response:
    """Go to a place in the track that plays."""
    session.engine.send("seek", seconds=where.seconds, input=where.input)
    return Response(status_code=204)

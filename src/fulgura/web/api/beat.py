"""Hands on the beat."""

from typing import Literal

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fulgura.core.show.events import ActionDone, BeatTurned, Tapped
from fulgura.core.show.part import Part
from fulgura.web.api.dependencies import OpenSession

router = APIRouter()


class BeatTurn(BaseModel):
    """What a hand does to the beat."""

    what: Literal["half", "double", "nudge", "downbeat", "anew"]
    milliseconds: float = Field(0.0, ge=-250, le=250)
    """How much later; only nudge looks at it."""


@router.post("/beat/tap", status_code=204)
async def tap(session: OpenSession) -> Response:
    """One tap on the beat. From the third on the tempo is held, with a beat at each tap."""
    session.engine.act(Tapped())
    return Response(status_code=204)


@router.post("/beat", status_code=204)
async def turn_beat(turn: BeatTurn, session: OpenSession) -> Response:
    """A hand on the beat: half, double, nudge it, mark the one, or let it be heard anew."""
    if turn.what in ("half", "double"):
        action = Part(id="beat", family="action", kind="turn-beat", values={"what": turn.what})
        session.engine.act(ActionDone(action=action))
    else:
        session.engine.act(BeatTurned(what=turn.what, value=turn.milliseconds / 1000))
    return Response(status_code=204)

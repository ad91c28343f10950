"""Hands on the beat."""

import time
from typing import Literal

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fulgura.core.show.edits import SetValue, Together
from fulgura.core.show.events import BeatTurned
from fulgura.web.api.dependencies import OpenSession

router = APIRouter()


class Tapped(BaseModel):
    """How many taps there were. bpm: the tempo, from the third tap on."""

    taps: int
    bpm: float | None


class BeatTurn(BaseModel):
    """What a hand does to the beat."""

    what: Literal["half", "double", "nudge", "downbeat", "anew"]
    milliseconds: float = Field(0.0, ge=-250, le=250)
    """How much later; only nudge looks at it."""


@router.post("/beat/tap")
async def tap(session: OpenSession) -> Tapped:
    """One tap on the beat. From the third on the tempo is held, with a beat at each tap."""
    bpm = session.taps.tap(time.monotonic())
    if bpm is None:
        return Tapped(taps=len(session.taps.times), bpm=None)
    bpm = round(bpm, 2)
    edits = [SetValue(path="/tempo/mode", value="held"), SetValue(path="/tempo/bpm", value=bpm)]
    session.commit(Together(edits=edits), "Tapped tempo", f"taps-{session.taps.times[0]}")
    session.engine.act(BeatTurned(what="align", value=60.0 / bpm))
    return Tapped(taps=len(session.taps.times), bpm=bpm)


@router.post("/beat", status_code=204)
async def turn_beat(turn: BeatTurn, session: OpenSession) -> Response:
    """A hand on the beat: half, double, nudge it, mark the one, or let it be heard anew."""
    tempo = session.show.tempo
    if turn.what in ("half", "double") and tempo.mode == "held":
        bpm = tempo.bpm * (0.5 if turn.what == "half" else 2.0)
        session.commit(SetValue(path="/tempo/bpm", value=bpm), f"{turn.what.capitalize()} tempo")
    else:
        session.engine.act(BeatTurned(what=turn.what, value=turn.milliseconds / 1000))
    return Response(status_code=204)

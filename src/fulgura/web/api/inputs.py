"""Inputs: opened, closed, recorded, measured."""

from datetime import datetime

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fulgura.core.show.commands.inputs import new_input, without_input
from fulgura.core.show.events import RoomHeard
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.part import Id
from fulgura.web import devices
from fulgura.web.api.dependencies import ASession, Created, EditAnswer, OpenSession, commit
from fulgura.web.problems import Refused

router = APIRouter()


class NewInput(BaseModel):
    name: str = Field("", max_length=80)


class Recording(BaseModel):
    """on: whether what comes is kept."""

    on: bool


class SoundDevice(BaseModel):
    """A device of the engine's machine, and how many channels it brings."""

    name: str
    channels: int


@router.post("/room", status_code=204)
async def listen_to_room(session: ASession, input: Id = MAIN) -> Response:
    """Listen to the empty room for three seconds; what was heard comes with the state."""
    session.engine.act(RoomHeard(input=input))
    return Response(status_code=204)


@router.post("/inputs", status_code=201)
async def add_input(wanted: NewInput, session: OpenSession) -> Created:
    """Open one more input, with an analysis of its own."""
    edit, input_id = new_input(session.show, wanted.name)
    session.commit(edit, "New input")
    return Created(id=input_id)


@router.delete("/inputs/{input_id}")
async def remove_input(input_id: str, session: OpenSession) -> EditAnswer:
    """Close an input, with its bands and hits."""
    return await commit(session, without_input(session.show, input_id), "Remove input")


@router.put("/inputs/{input_id}/recording", status_code=204)
async def record(input_id: str, wanted: Recording, session: OpenSession) -> Response:
    """Keep what an input brings in a file, or end that: the recording is in the library soon afterwards."""
    found = next((audio_input for audio_input in session.show.inputs if audio_input.id == input_id), None)
    if found is None:
        raise Refused(404, "No such input", "It may have been closed.")
    if wanted.on:
        printable = "".join(c for c in found.name if c.isprintable() and c not in "/\\")[:40]
        name = f"{printable} {datetime.now():%Y-%m-%d %H.%M.%S}".strip()
        session.engine.send("record", input=input_id, name=name)
    else:
        session.engine.send("end-recording", input=input_id)
    return Response(status_code=204)


@router.get("/devices")
async def list_devices() -> list[SoundDevice]:
    """Devices of the engine's machine that sound can come from."""
    return [SoundDevice(**device) for device in await devices.listed()]

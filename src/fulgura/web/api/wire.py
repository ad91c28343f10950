"""The wire out: what universes hold, where they go, the rig as a file."""

import asyncio
import json
import socket

import psutil
from fastapi import APIRouter
from pydantic import BaseModel

from fulgura.core.lights.channel_sheet import ChannelRow, channel_sheet
from fulgura.core.lights.rig_file import rig_file
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.edits import AddItem
from fulgura.core.show.lights import LightOutput, Protocol
from fulgura.web.api.dependencies import Created, OpenSession, commit

router = APIRouter()


@router.get("/universes/{universe}")
async def universe_sheet(universe: int, session: OpenSession) -> list[ChannelRow]:
    """Which lamp and function each channel of a universe belongs to, and who sets it."""
    return channel_sheet(session.show, universe)


class NetworkCard(BaseModel):
    """A way out of this machine."""

    name: str
    address: str


@router.get("/network-cards")
async def network_cards() -> list[NetworkCard]:
    """Network cards of this machine that have an address."""
    return [
        NetworkCard(name=name, address=address.address)
        for name, addresses in psutil.net_if_addrs().items()
        for address in addresses
        if address.family == socket.AF_INET
    ]


class Told(BaseModel):
    """Where a file was written."""

    file: str


class NewOutput(BaseModel):
    protocol: Protocol = "sacn"


@router.post("/light-outputs", status_code=201)
async def add_output(wanted: NewOutput, session: OpenSession) -> Created:
    """One more place that universes are sent to."""
    id = free_id([output.id for output in session.show.light_outputs], "output-")
    name = "sACN" if wanted.protocol == "sacn" else "Art-Net"
    output = LightOutput(id=id, name=f"{name} {id.rpartition('-')[2]}", protocol=wanted.protocol, on=False)
    await commit(session, AddItem(path="/light_outputs", item=output.model_dump()), "New light output")
    return Created(id=id)


@router.put("/rig-file")
async def tell_rig(session: OpenSession) -> Told:
    """Write the rig file into the data folder, where the stand-in of a demo reads it."""
    file = session.folders.rig_file
    await asyncio.to_thread(file.write_text, json.dumps(rig_file(session.show)))
    return Told(file=str(file))


@router.get("/rig-file")
async def rig(session: OpenSession) -> dict:
    """The rig as a file for the stand-in."""
    return rig_file(session.show)

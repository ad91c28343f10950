"""What every resource needs: the hub, the open show, and the one way to make an edit."""

import asyncio
from typing import Annotated

from fastapi import Depends, Request
from pydantic import BaseModel

from fulgura.core.show.edits import Edit
from fulgura.web.live import Hub
from fulgura.web.problems import Refused
from fulgura.web.show import OpenShow


class Edited(BaseModel):
    version: int
    head: int
    saved: bool


class Created(BaseModel):
    """Id of what was made."""

    id: str


def hub_of(request: Request) -> Hub:
    return request.app.state.hub


def open_show(hub: Annotated[Hub, Depends(hub_of)]) -> OpenShow:
    if hub.show is None:
        raise Refused(404, "No show is open", "Make or open a show first.")
    return hub.show


AHub = Annotated[Hub, Depends(hub_of)]
AnOpenShow = Annotated[OpenShow, Depends(open_show)]


async def from_store(function, *arguments):
    """What the database says, without waiting in the loop."""
    return await asyncio.to_thread(function, *arguments)


async def make(
    hub: Hub,
    show: OpenShow,
    edit: Edit,
    name: str,
    gesture: str = "",
    glide_ms: float = 0.0,
    glide_beats: float = 0.0,
) -> Edited:
    """Make an edit and tell everyone. Live values take so long to get to where they now belong."""
    show.edit(edit, name, gesture)
    hub.changed(glide_ms, glide_beats)
    return await edited(hub, show)


async def edited(hub: Hub, show: OpenShow) -> Edited:
    """The answer to an edit; saved says whether it is in the database already."""
    version, head = show.version, show.head
    saved = not hub.saver.trouble and await asyncio.to_thread(hub.saver.wait, 0.3)
    return Edited(version=version, head=head, saved=saved)

"""What every resource needs: the session, the open show, and the one way to change it."""

import asyncio
from collections.abc import Callable
from typing import Annotated, Any, TypeVar

from fastapi import Depends, Request
from pydantic import BaseModel

from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit
from fulgura.core.show.routes import Route
from fulgura.web.live.session import Session
from fulgura.web.problems import Refused

Result = TypeVar("Result")


class EditAnswer(BaseModel):
    """What an edit made of the show. saved: whether it is on disk."""

    version: int
    head: int
    saved: bool


class Created(BaseModel):
    """Id of what was made."""

    id: str


def session_of(request: Request) -> Session:
    """The application's session."""
    session: Session = request.app.state.session
    return session


def open_session(session: Annotated[Session, Depends(session_of)]) -> Session:
    """The session, in which a show is open."""
    if session.open is None:
        raise Refused(404, "No show is open", "Make or open a show first.")
    return session


ASession = Annotated[Session, Depends(session_of)]
OpenSession = Annotated[Session, Depends(open_session)]


async def from_store(function: Callable[..., Result], *arguments: Any) -> Result:
    """What the database says, without waiting in the loop."""
    return await asyncio.to_thread(function, *arguments)


async def commit(
    session: Session,
    edit: Edit,
    name: str,
    gesture: str = "",
    glide_ms: float = 0.0,
    glide_beats: float = 0.0,
) -> EditAnswer:
    """Make an edit, and answer once it is saved, or soon when that takes long."""
    session.commit(edit, name, gesture, glide_ms, glide_beats)
    return await answer(session)


async def answer(session: Session) -> EditAnswer:
    """The answer to an edit that was made."""
    show = session.opened
    version, head = show.version, show.head
    return EditAnswer(version=version, head=head, saved=await session.saved())


def find_route(show: Show, route_id: str) -> Route:
    """A route of the show. Raises Refused."""
    found = next((route for route in show.routes if route.id == route_id), None)
    if found is None:
        raise Refused(404, "No such route", "It may have been removed.")
    return found

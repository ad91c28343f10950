"""Shapers that are kept under a name."""

from fastapi import APIRouter
from pydantic import BaseModel, Field

from fulgura.core.show.commands.chains import keep_chain, take_chain, users_of, with_chain
from fulgura.core.show.part import Name
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit, find_route

router = APIRouter()


class NewChain(BaseModel):
    route: str = Field(max_length=60)
    name: Name


class ChainUse(BaseModel):
    """route: the one whose shapers the chain becomes; users: whether the others that use it follow."""

    route: str = Field(max_length=60)
    users: bool = False


@router.post("/chains", status_code=201)
async def add_chain(wanted: NewChain, session: OpenSession) -> Created:
    """Keep a route's shapers under a name."""
    edit, chain = keep_chain(session.show, find_route(session.show, wanted.route), wanted.name)
    await commit(session, edit, "Keep shapers")
    return Created(id=chain)


@router.post("/chains/{chain}/take")
async def use_chain(chain: str, wanted: ChainUse, session: OpenSession) -> EditAnswer:
    """Put a saved chain's shapers in a route."""
    return await commit(
        session, take_chain(session.show, find_route(session.show, wanted.route), chain), "Take shapers"
    )


@router.get("/chains/{chain}/users")
async def chain_users(chain: str, session: OpenSession) -> list[str]:
    """Ids of the routes that use a saved chain."""
    return [route.id for route in users_of(session.show, chain)]


@router.put("/chains/{chain}")
async def change_chain(chain: str, wanted: ChainUse, session: OpenSession) -> EditAnswer:
    """Make a route's shapers the saved chain; the routes that use it follow when that is wanted."""
    return await commit(
        session,
        with_chain(session.show, chain, find_route(session.show, wanted.route), wanted.users),
        "Change saved shapers",
    )

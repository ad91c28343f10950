"""Controllers: which control does what; learnt, kept as sets by the controller's name, carried as JSON."""

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from fulgura.core.show.commands.mappings import add_mappings, conflicts, number_path, span_of
from fulgura.core.show.events import LearnAsked
from fulgura.core.show.surface import MOST_MAPPINGS, Mapping
from fulgura.store import mapping_sets
from fulgura.web.api.dependencies import EditAnswer, OpenSession, commit, from_store
from fulgura.web.problems import Refused

router = APIRouter()
Controller = Annotated[str, Query(max_length=120)]


@router.put("/mappings/learning", status_code=204)
async def learn(wanted: LearnAsked, session: OpenSession) -> Response:
    """The next control that says something does this; without ``does`` the waiting ends. A number is named by
    its path or, of a parameter, by its address.
    """
    if wanted.does == "value":
        # Refused at once when no fader could ever move it.
        wanted.target = number_path(session.show, wanted.target)
        wanted.low, wanted.high = span_of(session.show, wanted.target)
    session.engine.act(wanted)
    return Response(status_code=204)


@router.get("/mappings/conflicts")
async def clashing(session: OpenSession) -> dict[str, list[str]]:
    """Mappings whose control moves others too, by their ids."""
    return conflicts(session.show)


class MappingSet(BaseModel):
    """The mappings of one controller, as a file: open JSON."""

    format: str = Field("fulgura-mappings-1", pattern="^fulgura-mappings-1$")
    controller: str = Field("", max_length=120)
    mappings: list[Mapping] = Field(max_length=MOST_MAPPINGS)


def _set_of(session: OpenSession, controller: str) -> MappingSet:
    rows = [mapping for mapping in session.show.mappings if mapping.controller == controller]
    if not rows:
        raise Refused(404, "Nothing is mapped", f"No control of “{controller}” does anything in this show.")
    return MappingSet(controller=controller, mappings=rows)


@router.get("/mappings/set")
async def export(session: OpenSession, controller: Controller = "") -> MappingSet:
    """The mappings of a controller."""
    return _set_of(session, controller)


@router.put("/mappings/set")
async def take(wanted: MappingSet, session: OpenSession) -> EditAnswer:
    """Give a controller these mappings in place of its own."""
    edit = add_mappings(session.show, wanted.mappings, wanted.controller)
    return await commit(session, edit, "Mappings of a controller")


@router.get("/mappings/kept")
async def kept(session: OpenSession) -> list[str]:
    """Names of controllers of which mappings are kept."""
    return await from_store(mapping_sets.controllers, session.folders.database_socket)


@router.put("/mappings/kept", status_code=204)
async def keep(session: OpenSession, controller: Controller = "") -> Response:
    """Keep a controller's mappings by its name, for every show."""
    text = _set_of(session, controller).model_dump_json()
    await from_store(mapping_sets.keep, session.folders.database_socket, controller, text)
    return Response(status_code=204)


@router.post("/mappings/kept")
async def take_kept(session: OpenSession, controller: Controller = "") -> EditAnswer:
    """Take what was kept of this controller into the open show."""
    text = await from_store(mapping_sets.kept, session.folders.database_socket, controller)
    if text is None:
        raise Refused(404, "Nothing is kept", f"No mappings of “{controller}” were kept yet.")
    return await take(MappingSet.model_validate_json(text), session)

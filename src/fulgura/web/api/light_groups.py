"""Groups of lamps, and chases over them."""

from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from fulgura.core.show.commands import light_groups as groups
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit
from fulgura.web.api.lamps import ChosenLamps

router = APIRouter()


class NewGroup(ChosenLamps):
    name: str = Field("", max_length=80)


@router.post("/groups", status_code=201)
async def add_group(wanted: NewGroup, session: OpenSession) -> Created:
    """Make lamps a group, in the order in which they were chosen."""
    edit, group = groups.new_group(session.show, wanted.ids, wanted.name)
    await commit(session, edit, "New group")
    return Created(id=group)


@router.delete("/groups/{group}")
async def remove_group(group: str, session: OpenSession) -> EditAnswer:
    """Take a group away; its lamps stay."""
    return await commit(session, groups.without_group(session.show, group), "Remove group")


class NewChase(BaseModel):
    """values: of the chase's parameters, where they are not the usual ones."""

    groups: list[str] = Field([], max_length=64)
    name: str = Field("", max_length=80)
    values: dict[str, Any] = {}


@router.post("/chases", status_code=201)
async def add_chase(wanted: NewChase, session: OpenSession) -> Created:
    """Make a chase over groups."""
    edit, chase = groups.new_chase(session.show, wanted.groups, wanted.name, wanted.values)
    await commit(session, edit, "New chase")
    return Created(id=chase)


class ChaseGroup(BaseModel):
    group: str = Field(max_length=60)
    name: str = Field("", max_length=80)


@router.post("/chases/{chase}/runs")
async def add_run(chase: str, wanted: ChaseGroup, session: OpenSession) -> EditAnswer:
    """Let a chase run on one more group."""
    return await commit(session, groups.run_on(session.show, chase, wanted.group), "Chase on another group")


@router.post("/chases/{chase}/copies", status_code=201)
async def copy_chase(chase: str, wanted: ChaseGroup, session: OpenSession) -> Created:
    """Copy a chase with the group exchanged."""
    edit, made = groups.copy_chase(session.show, chase, wanted.group, wanted.name)
    await commit(session, edit, "Copy chase")
    return Created(id=made)


class Running(BaseModel):
    """group: empty for all that it runs on."""

    running: bool
    group: str = Field("", max_length=60)


@router.put("/chases/{chase}/running")
async def start_chase(chase: str, wanted: Running, session: OpenSession) -> EditAnswer:
    """Start or stop a chase."""
    edit = groups.start_chase(session.show, chase, wanted.running, wanted.group)
    return await commit(session, edit, "Start chase" if wanted.running else "Stop chase")

"""Layers and effects."""

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from fulgura.core.show.commands.layers import new_effect, new_layer, with_code, without_part
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit
from fulgura.web.shaders import ShaderFault, check

router = APIRouter()


class NewLayer(BaseModel):
    source: str = Field(max_length=40)


class NewEffect(BaseModel):
    """holder: path of the list of effects: a layer's, or the look's finish."""

    holder: str = Field(max_length=200)
    kind: str = Field(max_length=40)


@router.post("/looks/{look}/layers", status_code=201)
async def add_layer(look: str, wanted: NewLayer, session: OpenSession) -> Created:
    """Lay a new layer into a look."""
    edit, layer = new_layer(session.show, look, wanted.source)
    await commit(session, edit, f"New layer {edit.item['name']}")
    return Created(id=layer)


@router.post("/effects", status_code=201)
async def add_effect(wanted: NewEffect, session: OpenSession) -> Created:
    """Add an effect to a layer or to the whole look."""
    edit, effect = new_effect(session.show, wanted.holder, wanted.kind)
    await commit(session, edit, f"New {edit.item['kind'].replace('-', ' ')}")
    return Created(id=effect)


class Code(BaseModel):
    """path: of the part; code: a GLSL ES fragment, as it was pasted."""

    path: str = Field(max_length=200)
    code: str = Field(max_length=20_000)


class Checked(BaseModel):
    """faults: what is wrong, and at which line (0: all of it); none, and the show has the new text."""

    faults: list[ShaderFault]


@router.put("/code")
async def set_code(wanted: Code, session: OpenSession) -> Checked:
    """Try an own shader, and give it to the show when it compiles and is fast enough. The show never sees one
    that is not.
    """
    faults = await check(wanted.code)
    if not faults:
        await commit(session, with_code(session.show, wanted.path, wanted.code), "Own shader")
    return Checked(faults=faults)


@router.delete("/parts")
async def remove_part(path: str = Query(max_length=200), *, session: OpenSession) -> EditAnswer:
    """Take a layer or an effect away, with the routes that moved nothing else."""
    return await commit(session, without_part(session.show, path), "Remove")

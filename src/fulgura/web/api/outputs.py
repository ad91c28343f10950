"""Outputs: where the picture goes, and how it fits there."""

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from fulgura.core.picture.plan import Plan, plan_of
from fulgura.core.show.commands.outputs import (
    Shape,
    copy_output,
    fit_like,
    move_address,
    new_mask,
    new_output,
    new_wall,
    output_of,
    regrid,
    remove_output,
    rename_output,
    straighten,
)
from fulgura.web.api.dependencies import Created, OpenSession, commit
from fulgura.web.children import stream
from fulgura.web.described import gives
from fulgura.web.live.output_pages import OutputState
from fulgura.web.problems import Refused

router = APIRouter()


class NewOutput(BaseModel):
    """overlay: with a transparent ground, for the browser source of a streaming program."""

    name: str = Field("", max_length=80)
    overlay: bool = False


@router.post("/outputs", status_code=201)
async def add_output(wanted: NewOutput, session: OpenSession) -> Created:
    """Add an output."""
    edit, id = new_output(session.show, wanted.name, wanted.overlay)
    await commit(session, edit, "New overlay" if wanted.overlay else "New output")
    return Created(id=id)


@router.get("/outputs/states")
async def states(session: OpenSession) -> dict[str, OutputState]:
    """How each output is, by its id."""
    return session.outputs.states(session.show)


@router.get("/outputs/{output}/plan")
async def plan(output: str, session: OpenSession) -> Plan:
    """What draws it, for a page that shows it in small."""
    layout = session.engine.layout
    found = plan_of(layout, output_of(session.show, output).id) if layout is not None else None
    if found is None:
        raise Refused(503, "The engine is away", "It is being started again; the picture comes back with it.")
    return found


@router.get("/outputs/{output}/picture.png", response_class=Response, responses=gives("image/png"))
async def picture(
    output: str,
    session: OpenSession,
    width: Annotated[int | None, Query(ge=16, le=7680)] = None,
    height: Annotated[int | None, Query(ge=16, le=4320)] = None,
) -> Response:
    """This moment of it, drawn in Python: PNG, with alpha where its ground is transparent. In its own size,
    or in another one.
    """
    found = output_of(session.show, output)
    size = str(width or found.width), str(height or found.height)
    folders = session.folders
    words = "fulgura.render.moment", str(folders.run), str(folders.pictures), found.id, *size
    png = b"".join([chunk async for chunk in stream(*words)])
    if not png:
        raise Refused(503, "The engine is away", "It is being started again; ask once more in a moment.")
    named = {"Content-Disposition": f'attachment; filename="{found.address}.png"'}
    return Response(png, media_type="image/png", headers=named)


@router.delete("/outputs/{output}", status_code=204)
async def take_away(output: str, session: OpenSession) -> Response:
    """Take an output away; pages that show it say so."""
    await commit(session, remove_output(session.show, output), "Remove output")
    return Response(status_code=204)


class Words(BaseModel):
    text: str = Field(min_length=1, max_length=80)


@router.put("/outputs/{output}/name", status_code=204)
async def rename(output: str, wanted: Words, session: OpenSession) -> Response:
    """Name it anew; its address stays."""
    await commit(session, rename_output(session.show, output, wanted.text), "Rename output")
    return Response(status_code=204)


@router.put("/outputs/{output}/address", status_code=204)
async def readdress(output: str, wanted: Words, session: OpenSession) -> Response:
    """Give it another address."""
    await commit(session, move_address(session.show, output, wanted.text), "Address of an output")
    return Response(status_code=204)


@router.post("/outputs/{output}/copies", status_code=201)
async def copy(output: str, session: OpenSession) -> Created:
    """The same once more, at an address of its own."""
    edit, id = copy_output(session.show, output)
    await commit(session, edit, "Copy output")
    return Created(id=id)


class Like(BaseModel):
    """like: id of the output that is fitted already."""

    like: str = Field(max_length=60)


@router.put("/outputs/{output}/fitting", status_code=204)
async def fit(output: str, wanted: Like, session: OpenSession) -> Response:
    """Fit it as another one is."""
    await commit(session, fit_like(session.show, output, wanted.like), "Copy a fitting")
    return Response(status_code=204)


@router.delete("/outputs/{output}/fitting", status_code=204)
async def unfit(output: str, session: OpenSession) -> Response:
    """The picture straight and whole again."""
    await commit(session, straighten(session.show, output), "Straighten output")
    return Response(status_code=204)


class NewWall(BaseModel):
    name: str = Field("", max_length=80)


@router.post("/outputs/{output}/walls", status_code=201)
async def add_wall(output: str, wanted: NewWall, session: OpenSession) -> Created:
    """One more surface that it throws light on."""
    edit, id = new_wall(session.show, output, wanted.name)
    await commit(session, edit, "New wall")
    return Created(id=id)


class WantedGrid(BaseModel):
    columns: int
    rows: int


@router.put("/outputs/{output}/walls/{wall}/grid", status_code=204)
async def bend(output: str, wall: str, wanted: WantedGrid, session: OpenSession) -> Response:
    """Another number of points, bent as before."""
    await commit(session, regrid(session.show, output, wall, wanted.columns, wanted.rows), "Grid of a wall")
    return Response(status_code=204)


class NewMask(BaseModel):
    shape: Shape = "rectangle"


@router.post("/outputs/{output}/masks", status_code=201)
async def add_mask(output: str, wanted: NewMask, session: OpenSession) -> Created:
    """A shape outside of which, or inside of which, it is dark."""
    edit, id = new_mask(session.show, output, wanted.shape)
    await commit(session, edit, "New mask")
    return Created(id=id)


@router.post("/outputs/{output}/identify", status_code=204)
async def identify(output: str, session: OpenSession) -> Response:
    """Its pages show its name for some seconds."""
    session.outputs.identify(output_of(session.show, output))
    return Response(status_code=204)

"""Whether every part is there, and what frames mean."""

from fastapi import APIRouter, Response
from pydantic import BaseModel

from fulgura.core.kinds.faults import Fault
from fulgura.core.layout import Layout
from fulgura.core.picture.plan import Plan
from fulgura.core.wire import BlockId
from fulgura.web.api.dependencies import ASession
from fulgura.web.problems import Refused

router = APIRouter()


class Health(BaseModel):
    """How the machine is. unsaved: edits that wait for the database; fault: why they do."""

    engine: bool
    saved: bool
    unsaved: int
    fault: Fault | None
    show: int | None
    importing: dict[str, float]
    """How far films are that are being imported, 0..1, by their name."""


@router.get("/health")
async def health(session: ASession) -> Health:
    """Whether every part is there."""
    return Health(
        **{k: v for k, v in session.news().items() if k in Health.model_fields},
        show=session.open.id if session.open else None,
    )


@router.get("/blocks")
async def blocks() -> dict[str, int]:
    """Ids of the blocks that a live socket can ask for."""
    return {block.name.lower(): int(block) for block in BlockId}


class LayoutNews(BaseModel):
    """What a live socket sends as {"type": "layout"}: what the numbers in frames mean, and what to draw."""

    layout: Layout
    plan: Plan


@router.get("/layout")
async def layout(session: ASession) -> LayoutNews:
    """What frames mean now, and the draw plan."""
    if session.engine.layout is None:
        raise Refused(503, "The engine is away", "It is being started again; the show goes on where it was.")
    return LayoutNews.model_validate(session.engine.layout)


@router.post("/measure", status_code=204)
async def measure(session: ASession) -> Response:
    """Start the engine's own measurements anew (for the bench)."""
    session.engine.send("measure")
    return Response(status_code=204)

"""Why a thing does not move."""

from typing import Literal

from fastapi import APIRouter

from fulgura.core.routing.telemetry import Reason
from fulgura.core.routing.why import why_parameter, why_route, why_signal
from fulgura.web.api.dependencies import OpenSession, find_route

router = APIRouter()


@router.get("/why/{what}/{address}")
async def why(
    what: Literal["route", "parameter", "signal"], address: str, session: OpenSession
) -> list[Reason]:
    """Why a thing does not move, with what cures it; empty when it moves."""
    telemetry = session.diagnosis.telemetry(session.show, session.opened.version)
    if what == "parameter":
        return why_parameter(session.show, address, telemetry)
    reason = (
        why_route(session.show, find_route(session.show, address), telemetry)
        if what == "route"
        else why_signal(session.show, address, telemetry)
    )
    return [] if reason is None else [reason]

"""The guard: how often looks flash, drawn and counted beforehand."""

import asyncio
from pathlib import Path

import orjson
from fastapi import APIRouter
from fastapi.responses import HTMLResponse
from pydantic import BaseModel, Field

from fulgura.core.safety.report import FlashReport
from fulgura.web.api.dependencies import OpenSession
from fulgura.web.children import ChildFailed, follow
from fulgura.web.live.session import Session
from fulgura.web.problems import Refused

router = APIRouter()
LONGEST_S = 3600.0
_one_at_a_time = asyncio.Lock()


class ReportWanted(BaseModel):
    """look, track: by their ids; empty for every look, and for the house band."""

    look: str = Field("", max_length=60)
    track: str = Field("", max_length=200)
    seconds: float = Field(10.0, ge=1.0, le=600.0)


@router.post("/guard/report")
async def make_report(wanted: ReportWanted, session: OpenSession) -> FlashReport:
    """Draw looks without and with the guard, and count their flashes."""
    show = session.show
    looks = [look.id for look in show.looks if wanted.look in ("", look.id)]
    if not looks:
        raise Refused(404, "There is no such look", "Someone may have taken it away.")
    asked = {
        "show": show.model_dump(),
        "looks": looks,
        "seconds": wanted.seconds,
        "pictures": str(session.folders.pictures),
        "track": str(_file_of(session, wanted.track)) if wanted.track else "",
        "title": wanted.track,
    }
    async with _one_at_a_time:
        return await _count(session.folders.data / "guard.json", orjson.dumps(asked))


async def _count(job: Path, asked: bytes) -> FlashReport:
    """Count what is asked for, by a process of its own and files beside the job's."""
    await asyncio.to_thread(job.write_bytes, asked)
    try:
        await follow("guard-report", str(job), longest_s=LONGEST_S, told=lambda line: True)
    except ChildFailed as error:
        raise Refused(503, "The flashes could not be counted", str(error)) from error
    found = await asyncio.to_thread(job.with_suffix(".report.json").read_bytes)
    return FlashReport.model_validate_json(found)


def _file_of(session: Session, track: str) -> Path:
    """Raises Refused for a track that is not in the library."""
    path = session.folders.tracks / f"{track}.flac"
    if path.parent != session.folders.tracks or not path.is_file():
        raise Refused(404, "There is no such track", "It may have been taken away.")
    return path


@router.get("/guard/report.html", response_class=HTMLResponse)
async def report_page(session: OpenSession) -> HTMLResponse:
    """The report that was made last."""
    file = session.folders.data / "guard.html"
    if not file.is_file():
        raise Refused(404, "No report was made yet", "Let the flashes be counted first.")
    return HTMLResponse(await asyncio.to_thread(file.read_text))

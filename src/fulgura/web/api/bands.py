"""Bands and their hits."""

import asyncio
from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from fulgura.core.show.commands.band_sets import BAND_PRESETS, take_bands
from fulgura.core.show.commands.inputs import catch_hits, new_band, without_band
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.part import Id
from fulgura.core.sound.find import Proposal, propose
from fulgura.web.api.dependencies import ASession, Created, EditAnswer, OpenSession, commit
from fulgura.web.live.frame_history import FrameHistory
from fulgura.web.problems import Refused

router = APIRouter()
LEAST_FRAMES = 30
"""Frames without which nothing can be found."""


class ScorePoint(BaseModel):
    """A place in an input's score: stream seconds and Hz."""

    input: Id = MAIN
    t: float = Field(ge=0, allow_inf_nan=False)
    hz: float = Field(ge=20, le=20_000)


class NewBand(BaseModel):
    input: Id = MAIN
    low_hz: float = Field(ge=20, le=19_000)
    high_hz: float = Field(ge=30, le=20_000)
    name: str = Field("", max_length=80)


class Catch(BaseModel):
    """on: whether hits of the band are caught."""

    on: bool


class FoundBand(BaseModel):
    low_hz: float
    high_hz: float
    contrast_db: float


@router.post("/bands", status_code=201)
async def add_band(wanted: NewBand, session: OpenSession) -> Created:
    """Add a band; without a name it is numbered."""
    edit, band = new_band(session.show, wanted.low_hz, wanted.high_hz, wanted.name, wanted.input)
    session.commit(edit, "New band")
    return Created(id=band)


@router.delete("/bands/{band}")
async def remove_band(band: str, session: OpenSession) -> EditAnswer:
    """Take a band away, with the detector of its own."""
    return await commit(session, without_band(session.show, band), "Remove band")


@router.put("/bands/{band}/hits")
async def catch_band_hits(band: str, wanted: Catch, session: OpenSession) -> EditAnswer:
    """Give a band a detector of its own, or take it away."""
    return await commit(session, catch_hits(session.show, band, wanted.on), "Hits of a band")


@router.get("/bands/presets")
async def band_presets() -> list[str]:
    """Sets of bands to start from."""
    return list(BAND_PRESETS)


@router.post("/bands/presets/{name}")
async def take_preset(name: str, session: OpenSession, input: Id = MAIN) -> EditAnswer:
    """Put a preset's bands in place of all others of an input."""
    if name not in BAND_PRESETS:
        raise Refused(404, "No such set of bands", "Choose one from the list.")
    return await commit(session, take_bands(session.show, name, input), f"Bands: {name}")


@router.post("/bands/find")
async def find_band(point: ScorePoint, session: ASession) -> FoundBand:
    """The band that best separates a moment of the score from the rest."""
    history, layout = session.history.copy(), session.engine.layout
    found = await asyncio.to_thread(_propose, history, layout, point)
    if found is None:
        raise Refused(
            422,
            "Nothing stands out there",
            "Point at a drum or a voice that is louder than what is around it.",
        )
    return FoundBand(low_hz=max(20.0, found.low_hz), high_hz=found.high_hz, contrast_db=found.contrast_db)


def _propose(history: FrameHistory, layout: dict[str, Any] | None, point: ScorePoint) -> Proposal | None:
    levels, times = history.spectra(layout, point.input)
    return propose(levels, times, point.t, point.hz) if len(times) > LEAST_FRAMES else None

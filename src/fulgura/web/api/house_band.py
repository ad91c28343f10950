"""The house band as sound, for those who listen at a desk."""

import asyncio
import io
import wave
from functools import lru_cache
from typing import Annotated

from fastapi import APIRouter, Query, Response

from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.synthesis.house_band import loop
from fulgura.web.described import gives

router = APIRouter()


@lru_cache(8)
def _wav(tempo_bpm: float, density: float, level_db: float) -> bytes:
    settings = HouseBandSettings(tempo_bpm=tempo_bpm, density=density, level_db=level_db)
    file = io.BytesIO()
    with wave.open(file, "wb") as out:
        out.setnchannels(2)
        out.setsampwidth(2)
        out.setframerate(SAMPLE_RATE)
        out.writeframes((loop(settings) * 32767.0).astype("<i2").tobytes())
    return file.getvalue()


@router.get("/house-band/audio", response_class=Response, responses=gives("audio/wav"))
async def house_band_audio(
    tempo_bpm: Annotated[float, Query(ge=40, le=240)] = 120.0,
    density: Annotated[float, Query(ge=0, le=1)] = 0.6,
    level_db: Annotated[float, Query(ge=-60, le=0)] = -9.0,
) -> Response:
    """Eight bars of the house band as it is set, that join their own beginning."""
    sound = await asyncio.to_thread(_wav, tempo_bpm, density, level_db)
    return Response(sound, media_type="audio/wav", headers={"Accept-Ranges": "none"})

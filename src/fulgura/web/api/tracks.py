"""The library of tracks."""

import asyncio
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel

from fulgura.store import tracks
from fulgura.store.connection import StoreError
from fulgura.web import analysis, library
from fulgura.web.api.dependencies import ASession, from_store
from fulgura.web.described import gives, takes
from fulgura.web.problems import Refused

router = APIRouter()


class Track(BaseModel):
    """A track of the library."""

    id: str
    title: str
    seconds: float
    bpm: float | None


class TrackOutline(BaseModel):
    """peaks: the largest sample of each of many equal stretches, 0..1."""

    seconds: float
    peaks: list[float]


class Rhythm(BaseModel):
    """A stretch in seconds."""

    from_s: float
    to_s: float


@router.get("/tracks")
async def list_tracks(session: ASession) -> list[Track]:
    """The library."""
    return [Track(**row) for row in await from_store(tracks.list_tracks, session.folders.database_socket)]


@router.post("/tracks", status_code=201, openapi_extra=takes("A sound file"))
async def add_track(
    request: Request, session: ASession, title: Annotated[str, Query(min_length=1, max_length=120)]
) -> Track:
    """Add a sound file to the library; the body is the file."""
    try:
        return Track(**await library.receive(session.folders, title, request))
    except StoreError as error:
        raise Refused(503, "The database is away", "Nothing was kept. Try again in a moment.") from error


@router.delete("/tracks/{track}", status_code=204)
async def remove_track(track: str, session: ASession) -> Response:
    """Take a track out of the library."""
    if session.open is not None and any(
        audio_input.track.track == track for audio_input in session.show.inputs
    ):
        raise Refused(409, "That track is in use", "Choose another one for the show first.")
    if not await library.remove(session.folders, track):
        raise Refused(404, "No such track", "It is not in the library any more.")
    return Response(status_code=204)


@router.get("/tracks/{track}/waveform")
async def track_waveform(track: str, session: ASession) -> TrackOutline:
    """A track's outline."""
    found = await asyncio.to_thread(library.waveform, session.folders, track)
    if found is None:
        raise Refused(404, "No such track", "It is not in the library any more.")
    return TrackOutline(**found)


@router.get(
    "/tracks/{track}/analysis{ending}", response_class=Response, responses=gives(*analysis.MEDIA.values())
)
async def track_analysis(
    track: str, ending: Literal[".jams", ".csv", ".mid", ".txt"], session: ASession
) -> Response:
    """What the analyser hears in a track, as a file: JAMS, CSV, Standard MIDI File or labels."""
    made = await analysis.export(session.folders, track, ending)
    return Response(
        made,
        media_type=analysis.MEDIA[ending],
        headers={"Content-Disposition": f'attachment; filename="{track}{ending}"'},
    )


@router.get("/tracks/{track}/rhythm")
async def track_rhythm(track: str, session: ASession) -> Rhythm:
    """Where the track's steady beat begins and ends."""
    from_s, to_s = await analysis.rhythm(session.folders, track)
    return Rhythm(from_s=from_s, to_s=to_s)


@router.get(
    "/tracks/{track}/audio",
    response_class=FileResponse,
    responses={**gives("audio/flac"), 206: {"description": "A range of it"}},
)
async def track_audio(track: str, session: ASession) -> FileResponse:
    """A track's sound file, whole or in ranges."""
    path = session.folders.tracks / f"{track}.flac"
    if path.parent != session.folders.tracks or not path.is_file():
        raise Refused(404, "No such track", "It is not in the library any more.")
    return FileResponse(path, media_type="audio/flac")

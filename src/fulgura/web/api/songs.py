"""The set list."""

from fastapi import APIRouter
from pydantic import BaseModel, Field

from fulgura.core.show.commands.songs import new_song, without_song
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit

router = APIRouter()


class NewSong(BaseModel):
    """track: of the library; empty for a band that plays itself. length_s: 0 for as long as the track."""

    name: str = Field("", max_length=80)
    track: str = Field("", max_length=120)
    length_s: float = Field(0.0, ge=0, le=36_000)


@router.post("/songs", status_code=201)
async def add_song(wanted: NewSong, session: OpenSession) -> Created:
    """Put a song at the end of the set list."""
    edit, song = new_song(session.show, wanted.name, wanted.track, wanted.length_s)
    await commit(session, edit, "New song")
    return Created(id=song)


@router.delete("/songs/{song}")
async def remove_song(song: str, session: OpenSession) -> EditAnswer:
    """Take a song off the set list; its cues stay."""
    return await commit(session, without_song(session.show, song), "Remove song")

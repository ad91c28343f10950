"""Pictures and clips: imported, and given to executors."""

from fastapi import APIRouter, Query, Request, Response
from fastapi.responses import FileResponse

from fulgura.core.picture.images import NoImage, texels
from fulgura.core.show.commands.media import new_clip, new_picture
from fulgura.media.intra_clip import IntraClips, NoIntraClip
from fulgura.web import pictures
from fulgura.web.api.dependencies import Created, OpenSession, commit
from fulgura.web.described import ANY_FILE, gives, takes
from fulgura.web.problems import Refused

router = APIRouter()


@router.post("/pictures", status_code=201, openapi_extra=takes("A picture file"))
async def add_picture(
    request: Request, session: OpenSession, name: str = Query(min_length=1, max_length=80)
) -> Created:
    """Take a picture into the show: a PNG, JPEG or WebP file of up to 200 MB is the body."""
    stored = await pictures.receive(session.folders, request)
    edit, picture = new_picture(session.show, name, **stored)
    await commit(session, edit, "New picture")
    return Created(id=picture)


class ImportedClip(Created):
    """track: the library's track that the film's sound became; said: what the performer should know of it."""

    track: str
    said: str


@router.post("/clips", status_code=201, openapi_extra=takes("A film file"))
async def add_clip(
    request: Request,
    session: OpenSession,
    name: str = Query(min_length=1, max_length=80),
    sound: bool = False,
) -> ImportedClip:
    """Take a film into the show: an MP4, MOV, WebM or GIF file of up to 4 GB is the body. How far it is, the
    state says under ``importing``.

    sound: whether its sound becomes a track of the library, which an input can play, alone or locked
    to the film.
    """
    try:
        found, track = await pictures.receive_clip(
            session.folders, request, name, sound, lambda share: session.importing.__setitem__(name, share)
        )
    finally:
        session.importing.pop(name, None)
    edit, clip = new_clip(
        session.show,
        name,
        **{key: found[key] for key in ("key", "width", "height", "frames", "rate")},
        track=track,
    )
    await commit(session, edit, "New clip")
    silent = "It has no sound." if sound else ""
    said = (found["cut"], "Its sound is in the library, for an input." if track else silent)
    return ImportedClip(id=clip, track=track, said=" ".join(sentence for sentence in said if sentence))


@router.get("/clips/{key}/{number}", response_class=Response, responses=gives("image/jpeg", "image/webp"))
def clip_picture(key: str, number: int, request: Request) -> Response:
    """One picture of a clip, as JPEG or WebP. The same picture for ever."""
    intra_clips: IntraClips = request.app.state.intra_clips
    try:
        content = intra_clips.intra_clip(key).picture(number)
    except NoIntraClip as error:
        raise Refused(404, "There is no such picture", "The clip's file may have been taken away.") from error
    kind = "image/jpeg" if content[:2] == b"\xff\xd8" else "image/webp"
    return Response(
        content, media_type=kind, headers={"Cache-Control": "public, max-age=31536000, immutable"}
    )


@router.get("/images/{key}", response_class=Response, responses=gives(ANY_FILE))
def fixed_image(key: str, request: Request) -> Response:
    """A fixed picture that plans name: bare texels, as the plan says. The same key is the same picture for
    ever.
    """
    file = request.app.state.session.folders.pictures / f"{key}.rgba"
    if (
        key.startswith("file-")
        and file.parent == request.app.state.session.folders.pictures
        and file.is_file()
    ):
        return FileResponse(
            file,
            media_type="application/octet-stream",
            headers={"Cache-Control": "public, max-age=31536000, immutable"},
        )
    try:
        return Response(
            texels(key),
            media_type="application/octet-stream",
            headers={"Cache-Control": "public, max-age=31536000, immutable"},
        )
    except NoImage as error:
        raise Refused(
            404, "There is no such picture", "The look that shows it may have been changed."
        ) from error

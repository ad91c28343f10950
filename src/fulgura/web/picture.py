"""Resources of the picture: layers, effects and looks, made and taken away; cues, which go from look
to look.
"""

from fastapi import APIRouter, Query, Request, Response
from fastapi.responses import FileResponse, StreamingResponse
from pydantic import BaseModel, Field

from fulgura.core.picture.images import NoImage, texels
from fulgura.core.show.commands.cues import new_cue, recall_cue
from fulgura.core.show.commands.layers import new_effect, new_layer, with_code, without_part
from fulgura.core.show.commands.looks import new_look, without_look
from fulgura.core.show.commands.media import new_clip, new_picture
from fulgura.core.show.part import Name
from fulgura.media.intra_clip import NoReel, Reels
from fulgura.web import pictures
from fulgura.web.children import stream
from fulgura.web.common import AHub, AnOpenShow, Created, Edited, make
from fulgura.web.problems import Problem, Refused
from fulgura.web.shaders import Fault, check

api = APIRouter(
    prefix="/api/v1", responses={422: {"model": Problem}, 404: {"model": Problem}, 503: {"model": Problem}}
)


class NewLayer(BaseModel):
    source: str = Field(max_length=40)


class NewEffect(BaseModel):
    """holder: path of the list of effects: a layer's, or the look's finish."""

    holder: str = Field(max_length=200)
    kind: str = Field(max_length=40)


class NewLook(BaseModel):
    """of: the look that it begins as a copy of; empty for an empty one."""

    name: Name
    of: str = Field("", max_length=60)


@api.post("/looks", status_code=201)
async def add_look(wanted: NewLook, show: AnOpenShow, hub: AHub) -> Created:
    """Make a look, empty or as a copy with all that moves it, and show it."""
    edit, look = new_look(show.show, wanted.name, wanted.of)
    await make(hub, show, edit, "New look")
    return Created(id=look)


@api.delete("/looks/{look}")
async def remove_look(look: str, show: AnOpenShow, hub: AHub) -> Edited:
    """Take a look away, with the cues that go to it."""
    return await make(hub, show, without_look(show.show, look), "Remove look")


@api.post("/looks/{look}/layers", status_code=201)
async def add_layer(look: str, wanted: NewLayer, show: AnOpenShow, hub: AHub) -> Created:
    """Lay a new layer into a look."""
    edit, layer = new_layer(show.show, look, wanted.source)
    await make(hub, show, edit, "New layer")
    return Created(id=layer)


@api.post("/effects", status_code=201)
async def add_effect(wanted: NewEffect, show: AnOpenShow, hub: AHub) -> Created:
    """Add an effect to a layer or to the whole look."""
    edit, effect = new_effect(show.show, wanted.holder, wanted.kind)
    await make(hub, show, edit, "New effect")
    return Created(id=effect)


class NewCue(BaseModel):
    """name: numbered without one; over_beats: how long its look takes to come."""

    name: str = Field("", max_length=80)
    over_beats: float = Field(4.0, ge=0, le=64)


@api.post("/cues", status_code=201)
async def add_cue(wanted: NewCue, show: AnOpenShow, hub: AHub) -> Created:
    """Keep the shown look as a cue, after the one that was recalled last."""
    edit, cue = new_cue(show.show, wanted.over_beats, wanted.name)
    await make(hub, show, edit, "New cue")
    return Created(id=cue)


class Recall(BaseModel):
    """cue: empty for the one that comes next."""

    cue: str = Field("", max_length=60)


@api.post("/cues/recall")
async def recall(wanted: Recall, show: AnOpenShow, hub: AHub) -> Edited:
    """Recall a cue: its look comes over its beats."""
    edit, cue = recall_cue(show.show, wanted.cue)
    return await make(hub, show, edit, f"Cue {cue.name}", glide_beats=cue.over_beats)


class Code(BaseModel):
    """path: of the part; code: a GLSL ES fragment, as it was pasted."""

    path: str = Field(max_length=200)
    code: str = Field(max_length=20_000)


class Checked(BaseModel):
    """faults: what is wrong, and at which line (0: all of it); none, and the show has the new text."""

    faults: list[Fault]


@api.put("/code")
async def set_code(wanted: Code, show: AnOpenShow, hub: AHub) -> Checked:
    """Try an own shader, and give it to the show when it compiles and is fast enough. The show never sees one
    that is not.
    """
    faults = await check(wanted.code)
    if not faults:
        await make(hub, show, with_code(show.show, wanted.path, wanted.code), "Own shader")
    return Checked(faults=faults)


@api.get(
    "/looks/{look}/thumbnail",
    response_class=FileResponse,
    responses={204: {"description": "It is being drawn: ask again"}},
)
async def thumbnail(
    look: str, request: Request, show: AnOpenShow, layer: str = Query("", max_length=60)
) -> Response:
    """A small picture of a look, or of one layer of it, drawn in Python."""
    file = request.app.state.thumbnails.picture(show.show, look, layer)
    if file is None:
        return Response(status_code=204, headers={"Cache-Control": "no-store"})
    return FileResponse(file, media_type="image/png", headers={"Cache-Control": "no-cache"})


@api.get("/picture", response_class=StreamingResponse, include_in_schema=False)
def live_picture(request: Request) -> StreamingResponse:
    """The live picture, drawn in Python, as JPEG frames (multipart/x-mixed-replace): for browsers that cannot
    draw it.
    """
    return StreamingResponse(
        stream(
            "fulgura.render.stream", str(request.app.state.places.run), str(request.app.state.places.pictures)
        ),
        media_type="multipart/x-mixed-replace; boundary=picture",
        headers={"Cache-Control": "no-store"},
    )


@api.post("/pictures", status_code=201)
async def add_picture(
    request: Request, show: AnOpenShow, hub: AHub, name: str = Query(min_length=1, max_length=80)
) -> Created:
    """Take a picture into the show: a PNG, JPEG or WebP file of up to 200 MB is the body."""
    stored = await pictures.receive(request.app.state.places, request)
    edit, picture = new_picture(show.show, name, **stored)
    await make(hub, show, edit, "New picture")
    return Created(id=picture)


class TakenClip(Created):
    """track: the library's track that the film's sound became; said: what the performer should know of it."""

    track: str
    said: str


@api.post("/clips", status_code=201)
async def add_clip(
    request: Request,
    show: AnOpenShow,
    hub: AHub,
    name: str = Query(min_length=1, max_length=80),
    sound: bool = False,
) -> TakenClip:
    """Take a film into the show: an MP4, MOV, WebM or GIF file of up to 4 GB is the body. How far it is, the
    state says under ``taking``.

    sound: whether its sound becomes a track of the library, which an input can play.
    """
    try:
        found, track = await pictures.receive_clip(
            hub.places, request, name, sound, lambda share: hub.taking.__setitem__(name, share)
        )
    finally:
        hub.taking.pop(name, None)
    edit, clip = new_clip(
        show.show, name, **{one: found[one] for one in ("key", "width", "height", "frames", "rate")}
    )
    await make(hub, show, edit, "New clip")
    said = [
        found["cut"],
        "Its sound is in the library, for an input." if track else "It has no sound." if sound else "",
    ]
    return TakenClip(id=clip, track=track, said=" ".join(one for one in said if one))


@api.get("/clips/{key}/{number}", response_class=Response, responses={404: {"model": Problem}})
def clip_picture(key: str, number: int, request: Request) -> Response:
    """One picture of a clip, as JPEG or WebP. The same picture for ever."""
    reels: Reels = request.app.state.reels
    try:
        content = reels.reel(key).picture(number)
    except NoReel as error:
        raise Refused(404, "There is no such picture", "The clip's file may have been taken away.") from error
    kind = "image/jpeg" if content[:2] == b"\xff\xd8" else "image/webp"
    return Response(
        content, media_type=kind, headers={"Cache-Control": "public, max-age=31536000, immutable"}
    )


@api.get("/images/{key}", response_class=Response, responses={404: {"model": Problem}})
def fixed_image(key: str, request: Request) -> Response:
    """A fixed picture that plans name: bare texels, as the plan says. The same key is the same picture for
    ever.
    """
    file = request.app.state.places.pictures / f"{key}.rgba"
    if key.startswith("file-") and file.parent == request.app.state.places.pictures and file.is_file():
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


@api.delete("/parts")
async def remove_part(path: str = Query(max_length=200), *, show: AnOpenShow, hub: AHub) -> Edited:
    """Take a layer or an effect away, with the routes that moved nothing else."""
    return await make(hub, show, without_part(show.show, path), "Remove")

"""The web process: typed resources under /api/v1, live sockets, and the desk's files."""

import asyncio
import time
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import datetime
from typing import Annotated, Literal
from urllib.parse import urlsplit

from fastapi import APIRouter, FastAPI, Query, Request, Response, WebSocket
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from pydantic import BaseModel, Field
from starlette.types import ASGIApp, Receive, Scope, Send

from fulgura import VERSION
from fulgura.core.kinds.registry import FAMILIES, KindInfo
from fulgura.core.layout import Layout
from fulgura.core.picture.plan import Plan
from fulgura.core.show.commands.band_sets import BAND_PRESETS, take_bands
from fulgura.core.show.commands.inputs import catch_hits, new_band, new_input, without_band, without_input
from fulgura.core.show.commands.mappings import bind
from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, SetValue, Together
from fulgura.core.show.events import BeatTurned, RoomHeard
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.part import Id, Name
from fulgura.core.sound.find import propose
from fulgura.core.wire import BlockId
from fulgura.demo.show import starter_show
from fulgura.folders import DESK, Places
from fulgura.media.intra_clip import Reels
from fulgura.store import shows, tracks
from fulgura.store.connection import StoreError
from fulgura.web import analysis, devices, library, picture, problems, routing
from fulgura.web.common import AHub, AnOpenShow, Created, Edited, edited, from_store, make
from fulgura.web.live import Hub
from fulgura.web.problems import Problem, Refused
from fulgura.web.show import OpenShow
from fulgura.web.thumbnails import Thumbnails

HOSTS = {"127.0.0.1", "localhost", "[::1]", "testserver"}


class ShowSummary(BaseModel):
    id: int
    name: str
    updated_at: datetime


class NewShow(BaseModel):
    name: Name


class ShowState(BaseModel):
    """The open show. undo, redo: name of the step that would be taken; empty when there is none."""

    id: int
    version: int
    head: int
    undo: str
    redo: str
    document: Show


class EditRequest(BaseModel):
    """An edit with the name that undo shows. Edits of one gesture (one drag) make one step."""

    edit: Edit
    name: str = Field(min_length=1, max_length=120)
    gesture: str = Field("", max_length=64)
    glide_ms: float = Field(0.0, ge=0, le=60_000)
    """How long live values take to get there, beside glide_beats."""
    glide_beats: float = Field(0.0, ge=0, le=64)


class Track(BaseModel):
    id: str
    title: str
    seconds: float
    bpm: float | None


class Waveform(BaseModel):
    """peaks: the largest sample of each of many equal stretches, 0..1."""

    seconds: float
    peaks: list[float]


class Rhythm(BaseModel):
    """A stretch in seconds."""

    from_s: float
    to_s: float


class Seek(BaseModel):
    input: Id = MAIN
    seconds: float = Field(ge=0, le=24 * 3600, allow_inf_nan=False)


class Tapped(BaseModel):
    """bpm: the tempo, from the third tap on."""

    taps: int
    bpm: float | None


class BeatTurn(BaseModel):
    what: Literal["half", "double", "nudge", "one", "anew"]
    milliseconds: float = Field(0.0, ge=-250, le=250)
    """How much later; only nudge looks at it."""


class Moment(BaseModel):
    """A place in an input's score: stream seconds and Hz."""

    input: Id = MAIN
    t: float = Field(ge=0, allow_inf_nan=False)
    hz: float = Field(ge=20, le=20_000)


class NewInput(BaseModel):
    name: str = Field("", max_length=80)


class Recording(BaseModel):
    """on: whether what comes is kept."""

    on: bool


class Learning(BaseModel):
    """target: a place in the document, like /inputs/main/gain_db."""

    target: str = Field(max_length=400)


class SoundDevice(BaseModel):
    """A device of the engine's machine, and how many channels it brings."""

    name: str
    channels: int


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


class Health(BaseModel):
    engine: bool
    saved: bool
    unsaved: int
    trouble: str
    show: int | None
    taking: dict[str, float]
    """How far films are that are being taken in, 0..1, by their name."""


class LayoutNews(BaseModel):
    """What a live socket sends as {"type": "layout"}: what the numbers in frames mean, and what to draw."""

    layout: Layout
    plan: Plan


api = APIRouter(
    prefix="/api/v1", responses={422: {"model": Problem}, 404: {"model": Problem}, 503: {"model": Problem}}
)


def _state(hub: Hub) -> ShowState:
    state = hub.show_state()
    assert state is not None
    return ShowState.model_validate(state)


@api.get("/health")
async def health(hub: AHub) -> Health:
    """Whether every part is there."""
    return Health(
        **{k: v for k, v in hub.news().items() if k in Health.model_fields},
        show=hub.show.id if hub.show else None,
    )


@api.get("/shows")
async def list_shows(hub: AHub) -> list[ShowSummary]:
    """All shows, newest change first."""
    return [ShowSummary(**row) for row in await from_store(shows.list_shows, hub.places.database_socket)]


@api.post("/shows", status_code=201)
async def create_show(new: NewShow, hub: AHub) -> ShowState:
    """Make a show with a first look and three routes to start from, and open it."""
    document = starter_show(new.name).model_dump_json()
    made = await from_store(shows.create, hub.places.database_socket, new.name, document)
    return await open_a_show(made, hub)


@api.post("/shows/{show}/open")
async def open_a_show(show: int, hub: AHub) -> ShowState:
    """Open a show; every desk and the engine change to it."""
    hub.saver.wait(2.0)
    stored = await from_store(shows.load, hub.places.database_socket, show) if 0 < show < 2**63 else None
    if stored is None:
        raise Refused(404, "No such show", "It may have been removed. Choose another one from the list.")
    await from_store(shows.set_setting, hub.places.database_socket, "open-show", str(show))
    hub.open(OpenShow(hub.saver, stored))
    return _state(hub)


@api.get("/show")
async def get_show(show: AnOpenShow, hub: AHub) -> ShowState:
    """The open show."""
    return _state(hub)


@api.post("/show/edits")
async def edit_show(request: EditRequest, show: AnOpenShow, hub: AHub) -> Edited:
    """Make an edit. It is live at once; saved says whether it is in the database already."""
    return await make(
        hub, show, request.edit, request.name, request.gesture, request.glide_ms, request.glide_beats
    )


@api.post("/show/undo")
async def undo(show: AnOpenShow, hub: AHub) -> Edited:
    """Take the last step back."""
    show.step("undo")
    hub.changed()
    return await edited(hub, show)


@api.post("/show/redo")
async def redo(show: AnOpenShow, hub: AHub) -> Edited:
    """Take the last undone step again."""
    show.step("redo")
    hub.changed()
    return await edited(hub, show)


@api.get("/kinds")
async def kinds() -> list[KindInfo]:
    """Every kind of source, effect, fixture and shaper with its parameters: what controls are made from."""
    return [KindInfo.of(kind) for family in FAMILIES.values() for kind in family.kinds.values()]


@api.get("/blocks")
async def blocks() -> dict[str, int]:
    """Ids of the blocks that a live socket can ask for."""
    return {block.name.lower(): int(block) for block in BlockId}


@api.get("/layout")
async def layout(hub: AHub) -> LayoutNews:
    """What frames mean now, and the draw plan."""
    if hub.layout is None:
        raise Refused(503, "The engine is away", "It is being started again; the show goes on where it was.")
    return LayoutNews.model_validate(hub.layout)


@api.get("/tracks")
async def list_tracks(hub: AHub) -> list[Track]:
    """The library."""
    return [Track(**row) for row in await from_store(tracks.list_tracks, hub.places.database_socket)]


@api.post("/tracks", status_code=201)
async def add_track(
    request: Request, hub: AHub, title: Annotated[str, Query(min_length=1, max_length=120)]
) -> Track:
    """Add a sound file to the library; the body is the file."""
    try:
        return Track(**await library.receive(hub.places, title, request))
    except StoreError as error:
        raise Refused(503, "The database is away", "Nothing was kept. Try again in a moment.") from error


@api.delete("/tracks/{track}", status_code=204)
async def remove_track(track: str, hub: AHub) -> Response:
    """Take a track out of the library."""
    if hub.show is not None and any(one.track.track == track for one in hub.show.show.inputs):
        raise Refused(409, "That track is in use", "Choose another one for the show first.")
    if not await library.remove(hub.places, track):
        raise Refused(404, "No such track", "It is not in the library any more.")
    return Response(status_code=204)


@api.get("/tracks/{track}/waveform")
async def track_waveform(track: str, hub: AHub) -> Waveform:
    """A track's outline."""
    found = await asyncio.to_thread(library.waveform, hub.places, track)
    if found is None:
        raise Refused(404, "No such track", "It is not in the library any more.")
    return Waveform(**found)


@api.get("/tracks/{track}/analysis{ending}", response_class=Response)
async def track_analysis(track: str, ending: Literal[".jams", ".csv", ".mid", ".txt"], hub: AHub) -> Response:
    """What the analyser hears in a track, as a file: JAMS, CSV, Standard MIDI File or labels."""
    made = await analysis.export(hub.places, track, ending)
    return Response(
        made,
        media_type=analysis.MEDIA[ending],
        headers={"Content-Disposition": f'attachment; filename="{track}{ending}"'},
    )


@api.get("/tracks/{track}/rhythm")
async def track_rhythm(track: str, hub: AHub) -> Rhythm:
    """Where the track's steady beat begins and ends."""
    from_s, to_s = await analysis.rhythm(hub.places, track)
    return Rhythm(from_s=from_s, to_s=to_s)


@api.get("/tracks/{track}/audio", response_class=FileResponse)
async def track_audio(track: str, hub: AHub) -> FileResponse:
    """A track's sound file, whole or in ranges."""
    path = hub.places.tracks / f"{track}.flac"
    if path.parent != hub.places.tracks or not path.is_file():
        raise Refused(404, "No such track", "It is not in the library any more.")
    return FileResponse(path, media_type="audio/flac")


@api.post("/transport/seek", status_code=204)
async def seek(where: Seek, hub: AHub) -> Response:
    """Go to a place in the track that plays."""
    hub.seek(where.seconds, where.input)
    return Response(status_code=204)


@api.post("/beat/tap")
async def tap(show: AnOpenShow, hub: AHub) -> Tapped:
    """One tap on the beat. From the third on the tempo is held, with a beat at each tap."""
    bpm = hub.taps.tap(time.monotonic())
    if bpm is None:
        return Tapped(taps=len(hub.taps.times), bpm=None)
    bpm = round(bpm, 2)
    show.edit(
        Together(edits=[SetValue(path="/tempo/mode", value="held"), SetValue(path="/tempo/bpm", value=bpm)]),
        "Tapped tempo",
        f"taps-{hub.taps.times[0]}",
    )
    hub.changed()
    hub.act(BeatTurned(what="align", value=60.0 / bpm))
    return Tapped(taps=len(hub.taps.times), bpm=bpm)


@api.post("/beat", status_code=204)
async def turn_beat(turn: BeatTurn, show: AnOpenShow, hub: AHub) -> Response:
    """A hand on the beat: half, double, nudge it, mark the one, or let it be heard anew."""
    tempo = show.show.tempo
    if turn.what in ("half", "double") and tempo.mode == "held":
        bpm = tempo.bpm * (0.5 if turn.what == "half" else 2.0)
        show.edit(SetValue(path="/tempo/bpm", value=bpm), f"{turn.what.capitalize()} tempo")
        hub.changed()
    else:
        hub.act(BeatTurned(what=turn.what, value=turn.milliseconds / 1000))
    return Response(status_code=204)


@api.post("/room", status_code=204)
async def listen_to_room(hub: AHub, input: Id = MAIN) -> Response:
    """Listen to the empty room for three seconds; what was heard comes with the state."""
    hub.act(RoomHeard(input=input))
    return Response(status_code=204)


@api.post("/inputs", status_code=201)
async def add_input(wanted: NewInput, show: AnOpenShow, hub: AHub) -> Created:
    """Open one more input, with an analysis of its own."""
    edit, place = new_input(show.show, wanted.name)
    show.edit(edit, "New input")
    hub.changed()
    return Created(id=place)


@api.delete("/inputs/{place}")
async def remove_input(place: str, show: AnOpenShow, hub: AHub) -> Edited:
    """Close an input, with its bands and hits."""
    return await make(hub, show, without_input(show.show, place), "Remove input")


@api.put("/inputs/{place}/recording", status_code=204)
async def record(place: str, wanted: Recording, show: AnOpenShow, hub: AHub) -> Response:
    """Keep what an input brings in a file, or end that: the recording is in the library soon afterwards."""
    found = next((one for one in show.show.inputs if one.id == place), None)
    if found is None:
        raise Refused(404, "No such input", "It may have been closed.")
    if wanted.on:
        plain = "".join(c for c in found.name if c.isprintable() and c not in "/\\")[:40]
        hub.record(place, f"{plain} {datetime.now():%Y-%m-%d %H.%M.%S}".strip())
    else:
        hub.end_recording(place)
    return Response(status_code=204)


@api.put("/controls/learning", status_code=204)
async def learn(wanted: Learning, show: AnOpenShow, hub: AHub) -> Response:
    """The next fader that moves is bound to this place; an empty one ends the waiting."""
    if wanted.target:
        bind(show.show, "osc /", wanted.target)  # Refused at once when no fader could ever move it.
    hub.controls.learning = wanted.target
    return Response(status_code=204)


@api.get("/devices")
async def list_devices() -> list[SoundDevice]:
    """Devices of the engine's machine that sound can come from."""
    return [SoundDevice(**one) for one in await devices.listed()]


@api.post("/bands", status_code=201)
async def add_band(wanted: NewBand, show: AnOpenShow, hub: AHub) -> Created:
    """Add a band; without a name it is numbered."""
    edit, band = new_band(show.show, wanted.low_hz, wanted.high_hz, wanted.name, wanted.input)
    show.edit(edit, "New band")
    hub.changed()
    return Created(id=band)


@api.delete("/bands/{band}")
async def remove_band(band: str, show: AnOpenShow, hub: AHub) -> Edited:
    """Take a band away, with the detector of its own."""
    return await make(hub, show, without_band(show.show, band), "Remove band")


@api.put("/bands/{band}/hits")
async def catch_band_hits(band: str, wanted: Catch, show: AnOpenShow, hub: AHub) -> Edited:
    """Give a band a detector of its own, or take it away."""
    return await make(hub, show, catch_hits(show.show, band, wanted.on), "Hits of a band")


@api.get("/bands/presets")
async def band_presets() -> list[str]:
    """Sets of bands to start from."""
    return list(BAND_PRESETS)


@api.post("/bands/presets/{name}")
async def take_preset(name: str, show: AnOpenShow, hub: AHub, input: Id = MAIN) -> Edited:
    """Put a preset's bands in place of all others of an input."""
    if name not in BAND_PRESETS:
        raise Refused(404, "No such set of bands", "Choose one from the list.")
    return await make(hub, show, take_bands(show.show, name, input), f"Bands: {name}")


@api.post("/bands/find")
async def find_band(moment: Moment, hub: AHub) -> FoundBand:
    """The band that best separates a moment of the score from the rest."""
    levels, times = hub.heard_lately(moment.input)
    found = await asyncio.to_thread(propose, levels, times, moment.t, moment.hz) if len(times) > 30 else None
    if found is None:
        raise Refused(
            422,
            "Nothing stands out there",
            "Point at a drum or a voice that is louder than what is around it.",
        )
    return FoundBand(low_hz=max(20.0, found.low_hz), high_hz=found.high_hz, contrast_db=found.contrast_db)


@api.post("/measure", status_code=204)
async def measure(hub: AHub) -> Response:
    """Start the engine's own measurements anew (for the bench)."""
    hub.measure()
    return Response(status_code=204)


@api.websocket("/live")
async def live(socket: WebSocket) -> None:
    """Frames, meters and news; see docs/formats/frame.md."""
    await socket.accept()
    await socket.app.state.hub.view(socket)


@api.websocket("/audio")
async def audio(
    socket: WebSocket,
    input: Annotated[str, Query(max_length=48)] = MAIN,
    channels: Annotated[int, Query(ge=1, le=2)] = 1,
    rate: Annotated[int, Query(ge=8_000, le=192_000)] = 48_000,
) -> None:
    """Live sound in: interleaved little-endian float32."""
    await socket.accept()
    await socket.app.state.hub.listen(socket, input, channels, rate)


class SameOrigin:
    """Refuses what another site's page sends: foreign hosts (rebinding), and foreign origins of anything that
    acts.

    Programs that are no browser send no Origin and are let through; browsers always send one with these
    requests.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] not in ("http", "websocket"):
            return await self.app(scope, receive, send)
        headers = {name.decode().lower(): value.decode("latin-1") for name, value in scope["headers"]}
        host = headers.get("host", "")
        acts = scope["type"] == "websocket" or scope["method"] not in ("GET", "HEAD", "OPTIONS")
        origin = headers.get("origin")
        foreign = (host.rsplit(":", 1)[0] if not host.endswith("]") else host) not in HOSTS
        if acts and origin is not None and urlsplit(origin).netloc != host:
            foreign = True
        if not foreign:
            return await self.app(scope, receive, send)
        if scope["type"] == "websocket":
            await receive()
            await send({"type": "websocket.close", "code": 1008, "reason": "foreign origin"})
        else:
            await problems.answer(
                Problem(title="Refused", status=403, detail="This request comes from another site.")
            )(scope, receive, send)


def create_app(places: Places, osc_port: int | None = None) -> FastAPI:
    """The application over one data folder."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        places.forget_uploads()
        hub = Hub(places)
        app.state.hub = hub
        app.state.thumbnails = Thumbnails(places)
        app.state.places = places
        app.state.reels = Reels(places.pictures)
        await _open_last(hub)
        running = [
            asyncio.create_task(hub.run()),
            asyncio.create_task(library.watch_recordings(places, hub.library_changed)),
        ]
        if osc_port is not None:
            running.append(asyncio.create_task(hub.controls.listen(osc_port)))
        yield
        for task in running:
            task.cancel()
        await asyncio.to_thread(hub.saver.close)
        hub.close()

    app = FastAPI(
        title="Fulgura",
        version=VERSION,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/v1/openapi.json",
    )
    problems.install(app)
    app.add_middleware(SameOrigin)
    app.include_router(api)
    app.include_router(routing.api)
    app.include_router(picture.api)
    if (DESK / "assets").is_dir():  # A build that was broken off must not keep the next one from being made.
        _serve_desk(app)
    return app


async def _open_last(hub: Hub) -> None:
    """Open the show that was open last, once what was left unsaved is in."""
    await asyncio.to_thread(hub.saver.wait, 5.0)
    last = await from_store(shows.get_setting, hub.places.database_socket, "open-show")
    stored = await from_store(shows.load, hub.places.database_socket, int(last)) if last else None
    if stored is not None:
        hub.open(OpenShow(hub.saver, stored))


def _serve_desk(app: FastAPI) -> None:
    app.mount("/assets", StaticFiles(directory=DESK / "assets"))

    def page(name: str):
        async def serve() -> FileResponse:
            return FileResponse(DESK / name, headers={"Cache-Control": "no-cache", "X-Frame-Options": "DENY"})

        return serve

    for path, name in (("/", "index.html"), ("/output", "output.html"), ("/bench", "bench.html")):
        app.add_api_route(path, page(name), include_in_schema=False)

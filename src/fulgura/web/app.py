"""The web process: typed resources under /api/v1, live sockets, and the desk's files."""

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import datetime
from typing import Annotated
from urllib.parse import urlsplit

from fastapi import APIRouter, Depends, FastAPI, Query, Request, Response, WebSocket
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from pydantic import BaseModel, Field
from starlette.types import ASGIApp, Receive, Scope, Send

from fulgura.core.parameters import KindInfo
from fulgura.core.performer import Layout
from fulgura.core.picture.plan import Plan
from fulgura.core.show.document import FAMILIES, Name, Show
from fulgura.core.show.edits import Edit
from fulgura.core.wire import BlockId
from fulgura.demo.show import starter_show
from fulgura.places import DESK, Places
from fulgura.store import shows, tracks
from fulgura.web import problems
from fulgura.web.live import Hub
from fulgura.web.problems import Problem, Refused
from fulgura.web.show import OpenShow

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


class Edited(BaseModel):
    version: int
    head: int
    saved: bool


class Track(BaseModel):
    id: str
    title: str
    seconds: float
    bpm: float | None


class Seek(BaseModel):
    seconds: float = Field(ge=0, le=24 * 3600, allow_inf_nan=False)


class Health(BaseModel):
    engine: bool
    saved: bool
    unsaved: int
    trouble: str
    show: int | None


class LayoutNews(BaseModel):
    """What a live socket sends as {"type": "layout"}: what the numbers in frames mean, and what to draw."""

    layout: Layout
    plan: Plan


api = APIRouter(prefix="/api/v1", responses={422: {"model": Problem}, 404: {"model": Problem}, 503: {"model": Problem}})


def hub_of(request: Request) -> Hub:
    return request.app.state.hub


def open_show(hub: Annotated[Hub, Depends(hub_of)]) -> OpenShow:
    if hub.show is None:
        raise Refused(404, "No show is open", "Make or open a show first.")
    return hub.show


AHub = Annotated[Hub, Depends(hub_of)]
AnOpenShow = Annotated[OpenShow, Depends(open_show)]


async def _stored(function, *arguments):
    return await asyncio.to_thread(function, *arguments)


def _state(hub: Hub) -> ShowState:
    state = hub.show_state()
    assert state is not None
    return ShowState.model_validate(state)


@api.get("/health")
async def health(hub: AHub) -> Health:
    """Whether every part is there."""
    return Health(**{k: v for k, v in hub.news().items() if k in Health.model_fields}, show=hub.show.id if hub.show else None)


@api.get("/shows")
async def list_shows(hub: AHub) -> list[ShowSummary]:
    """All shows, newest change first."""
    return [ShowSummary(**row) for row in await _stored(shows.list_shows, hub.places.database_socket)]


@api.post("/shows", status_code=201)
async def create_show(new: NewShow, hub: AHub) -> ShowState:
    """Make a show with a first look and three routes to start from, and open it."""
    document = starter_show(new.name).model_dump_json()
    made = await _stored(shows.create, hub.places.database_socket, new.name, document)
    return await open_a_show(made, hub)


@api.post("/shows/{show}/open")
async def open_a_show(show: int, hub: AHub) -> ShowState:
    """Open a show; every desk and the engine change to it."""
    hub.saver.wait(2.0)
    stored = await _stored(shows.load, hub.places.database_socket, show) if 0 < show < 2**63 else None
    if stored is None:
        raise Refused(404, "No such show", "It may have been removed. Choose another one from the list.")
    await _stored(shows.set_setting, hub.places.database_socket, "open-show", str(show))
    hub.open(OpenShow(hub.saver, stored))
    return _state(hub)


@api.get("/show")
async def get_show(show: AnOpenShow, hub: AHub) -> ShowState:
    """The open show."""
    return _state(hub)


@api.post("/show/edits")
async def edit_show(request: EditRequest, show: AnOpenShow, hub: AHub) -> Edited:
    """Make an edit. It is live at once; saved says whether it is in the database already."""
    show.edit(request.edit, request.name, request.gesture)
    hub.changed()
    return await _edited(hub, show)


@api.post("/show/undo")
async def undo(show: AnOpenShow, hub: AHub) -> Edited:
    """Take the last step back."""
    show.step("undo")
    hub.changed()
    return await _edited(hub, show)


@api.post("/show/redo")
async def redo(show: AnOpenShow, hub: AHub) -> Edited:
    """Take the last undone step again."""
    show.step("redo")
    hub.changed()
    return await _edited(hub, show)


async def _edited(hub: Hub, show: OpenShow) -> Edited:
    version, head = show.version, show.head
    saved = not hub.saver.trouble and await asyncio.to_thread(hub.saver.wait, 0.3)
    return Edited(version=version, head=head, saved=saved)


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
    return [Track(**row) for row in await _stored(tracks.list_tracks, hub.places.database_socket)]


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
    hub.seek(where.seconds)
    return Response(status_code=204)


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
async def audio(socket: WebSocket, channels: Annotated[int, Query(ge=1, le=2)] = 1, rate: Annotated[int, Query(ge=8_000, le=192_000)] = 48_000) -> None:
    """Live sound in: interleaved little-endian float32."""
    await socket.accept()
    await socket.app.state.hub.listen(socket, channels, rate)


class SameOrigin:
    """Refuses what another site's page sends: foreign hosts (rebinding), and foreign origins of anything that acts.

    Programs that are no browser send no Origin and are let through; browsers always send one with these requests.
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
            await problems.answer(Problem(title="Refused", status=403, detail="This request comes from another site."))(scope, receive, send)


def create_app(places: Places) -> FastAPI:
    """The application over one data folder."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        hub = Hub(places)
        app.state.hub = hub
        await _open_last(hub)
        running = asyncio.create_task(hub.run())
        yield
        running.cancel()
        await asyncio.to_thread(hub.saver.close)
        hub.close()

    app = FastAPI(title="Fulgura", version="0.1.0", lifespan=lifespan, docs_url=None, redoc_url=None, openapi_url="/api/v1/openapi.json")
    problems.install(app)
    app.add_middleware(SameOrigin)
    app.include_router(api)
    if DESK.is_dir():
        _serve_desk(app)
    return app


async def _open_last(hub: Hub) -> None:
    """Open the show that was open last, once what was left unsaved is in."""
    await asyncio.to_thread(hub.saver.wait, 5.0)
    last = await _stored(shows.get_setting, hub.places.database_socket, "open-show")
    stored = await _stored(shows.load, hub.places.database_socket, int(last)) if last else None
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

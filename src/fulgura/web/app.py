"""The web process: typed resources under /api/v1, live sockets, and the desk's files."""

import asyncio
import logging
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager

from fastapi import APIRouter, FastAPI
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles

from fulgura import VERSION
from fulgura.folders import DESK, Folders
from fulgura.media.intra_clip import IntraClips
from fulgura.store import shows
from fulgura.web import described, library, problems
from fulgura.web.api import (
    bands,
    beat,
    chains,
    copies,
    cues,
    events,
    guard,
    health,
    house_band,
    inputs,
    kinds,
    lamps,
    layers,
    light_groups,
    live_picture,
    looks,
    mappings,
    media,
    modulators,
    outputs,
    pages,
    palettes,
    presets,
    ramps,
    routes,
    rules,
    sockets,
    songs,
    tracks,
    transport,
    why,
    wire,
)
from fulgura.web.api import shows as show_resources
from fulgura.web.api.dependencies import from_store
from fulgura.web.headers import SafeHeaders
from fulgura.web.live.session import Session
from fulgura.web.open_show import OpenShow
from fulgura.web.problems import Problem
from fulgura.web.same_origin import SameOrigin
from fulgura.web.saver import Saver
from fulgura.web.thumbnails import Thumbnails
from fulgura.web.well_formed import WellFormed

LOG = logging.getLogger(__name__)
RESOURCES = (
    health,
    show_resources,
    kinds,
    rules,
    tracks,
    transport,
    house_band,
    beat,
    inputs,
    bands,
    mappings,
    routes,
    modulators,
    chains,
    copies,
    presets,
    ramps,
    why,
    looks,
    layers,
    live_picture,
    cues,
    events,
    songs,
    pages,
    lamps,
    light_groups,
    palettes,
    wire,
    media,
    outputs,
    guard,
    sockets,
)
"""One module each, under web/api/."""


def create_app(folders: Folders, saver: Saver | None = None) -> FastAPI:
    """The application over one data folder. saver: keeps its shows; one of its own without."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        folders.forget_uploads()
        session = Session(folders, saver or Saver(folders))
        app.state.session = session
        app.state.thumbnails = Thumbnails(folders)
        app.state.intra_clips = IntraClips(folders.pictures)
        await _open_last(session)
        running = [
            asyncio.create_task(session.run()),
            asyncio.create_task(library.watch_recordings(folders, session.library_changed)),
        ]
        yield
        for task in running:
            task.cancel()
        await asyncio.to_thread(session.saver.close)
        session.close()

    app = FastAPI(
        title="Fulgura",
        version=VERSION,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/v1/openapi.json",
    )
    problems.install(app)
    described.install(app)
    for checks in (WellFormed, SameOrigin, SafeHeaders):
        app.add_middleware(checks)
    api = APIRouter(prefix="/api/v1", responses={code: {"model": Problem} for code in (404, 422, 503)})
    for resource in RESOURCES:
        api.include_router(resource.router)
    app.include_router(api)
    if (DESK / "assets").is_dir():  # A build that was broken off must not keep the next one from being made.
        _serve_desk(app)
    return app


async def _open_last(session: Session) -> None:
    """Open the show that was open last, once what was left unsaved is in."""
    await asyncio.to_thread(session.saver.recover, LOG.warning)
    await asyncio.to_thread(session.saver.wait, 5.0)
    last = await from_store(shows.get_setting, session.folders.database_socket, "open-show")
    stored = await from_store(shows.load, session.folders.database_socket, int(last)) if last else None
    if stored is not None:
        session.take(OpenShow(session.saver, stored))


def _serve_desk(app: FastAPI) -> None:
    app.mount("/assets", StaticFiles(directory=DESK / "assets"))

    def page(name: str) -> Callable[[], Awaitable[FileResponse]]:
        async def serve() -> FileResponse:
            # The page of overlays shows outputs within it; nobody else's page shows anything of ours.
            framed = "SAMEORIGIN" if name == "output.html" else "DENY"
            return FileResponse(DESK / name, headers={"Cache-Control": "no-cache", "X-Frame-Options": framed})

        return serve

    for path, name in (
        ("/", "index.html"),
        ("/output", "output.html"),
        ("/output/{address}", "output.html"),
        ("/overlays", "overlays.html"),
        ("/bench", "bench.html"),
    ):
        app.add_api_route(path, page(name), include_in_schema=False)

    async def icon() -> FileResponse:
        return FileResponse(DESK / "icon.svg")

    # Browsers ask for the second where a page names none, as answers of the API do.
    for path in ("/icon.svg", "/favicon.ico"):
        app.add_api_route(path, icon, include_in_schema=False)

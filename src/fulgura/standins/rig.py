"""A stand-in rig: receives sACN (ANSI E1.31) and Art-Net 4, and shows its lamps from the packets alone.

A separate process. It knows nothing of the engine: what the page shows has been on the wire; where lamps hang
and what their channels mean it reads from a file.
"""

import asyncio
import json
import time
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any

import numpy as np
import uvicorn
from fastapi import FastAPI, Query, WebSocket, WebSocketDisconnect
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from pydantic import BaseModel

from fulgura.folders import DESK
from fulgura.standins.light_receiver import Receiver, Stream
from fulgura.standins.rig_light import RigLight

FRAME_S, REPORT_S = 1 / 60, 0.5
LARGEST_FILE = 20_000_000


class UniverseReport(BaseModel):
    """One universe from one source, as it arrived."""

    protocol: str
    universe: int
    source: str
    priority: int
    packets: int
    packets_per_s: float
    lost: int
    late: int
    longest_gap_s: float
    age_s: float
    state: str
    channels: list[int]


class LampReport(BaseModel):
    """A lamp as it shines by what arrived. cells: linear red, green, blue, and intensity of each."""

    id: str
    name: str
    cells: list[list[float]]
    pan: float
    tilt: float
    zoom: float
    strobe: float


class StandInRig:
    """What arrives, and the lamps that it makes shine. file: where the rig is described, once it is there."""

    def __init__(self, receiver: Receiver, file: Path | None) -> None:
        self.receiver, self.file = receiver, file
        self.light: RigLight | None = None
        self.described: dict[str, Any] = {}
        self.fault = ""
        self._read_at = 0.0

    def look(self) -> None:
        """Read the rig's file when it is new."""
        try:
            changed = self.file.stat().st_mtime if self.file else 0.0
        except OSError:
            changed = 0.0
        if changed in (0.0, self._read_at) or self.file is None:
            return
        self._read_at = changed
        try:
            if self.file.stat().st_size > LARGEST_FILE:
                raise ValueError("it is too large")
            described = json.loads(self.file.read_text())
            self.light, self.described, self.fault = RigLight(described), described, ""
        except (OSError, ValueError, KeyError, TypeError, AttributeError) as error:
            self.fault = f"The rig file {self.file.name} cannot be read: {error}."

    def shining(self) -> tuple[Any, Any]:
        """(light, pose) as RigLight gives them; none without a rig."""
        if self.light is None:
            return np.zeros((0, 4), np.float32), np.zeros((0, 4), np.float32)
        return self.light.shine(self.receiver.universes())

    def lamps(self) -> list[LampReport]:
        """Each lamp as it shines."""
        light, pose = self.shining()
        found, row = [], 0
        for lamp, stands in zip(self.described.get("lamps", []), pose.tolist()):
            cells = light[row : row + len(lamp["cells"])].tolist()
            row += len(lamp["cells"])
            turned = dict(zip(("pan", "tilt", "zoom", "strobe"), stands))
            found.append(LampReport(id=lamp["id"], name=lamp["name"], cells=cells, **turned))
        return found

    def report(self, first: int, count: int) -> list[UniverseReport]:
        now = time.monotonic()
        with self.receiver.lock:
            streams = sorted(self.receiver.streams.values(), key=lambda s: (s.universe, s.protocol))
            return [_told(stream, now, first, count) for stream in streams]


def _told(stream: Stream, now: float, first: int, count: int) -> UniverseReport:
    return UniverseReport(
        protocol=stream.protocol,
        universe=stream.universe,
        source=stream.source,
        priority=stream.priority,
        packets=stream.packets,
        packets_per_s=stream.a_second(now),
        lost=stream.lost,
        late=stream.late,
        longest_gap_s=round(stream.longest_gap_s, 4),
        age_s=round(now - stream.at, 3),
        state=stream.state(now),
        channels=list(stream.channels[first - 1 : first - 1 + count]),
    )


def create_app(rig: StandInRig) -> FastAPI:
    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        looking = asyncio.create_task(_look_on(rig))
        yield
        looking.cancel()
        await asyncio.to_thread(rig.receiver.close)

    app = FastAPI(title="Fulgura stand-in rig", lifespan=lifespan, docs_url=None, redoc_url=None)

    @app.get("/universes")
    async def universes(
        first: int = Query(1, ge=1, le=512), count: int = Query(12, ge=1, le=512)
    ) -> list[UniverseReport]:
        """What arrived, straight from the packets."""
        return rig.report(first, count)

    @app.get("/lamps")
    async def lamps() -> list[LampReport]:
        """How each lamp shines by what arrived."""
        return rig.lamps()

    @app.get("/rig.json")
    async def described() -> dict[str, Any]:
        """The rig as the file says; empty without one."""
        return rig.described

    @app.websocket("/live")
    async def live(socket: WebSocket) -> None:
        """Light and pose as float32, sixty times a second; news of the wire as text."""
        await socket.accept()
        try:
            await _show(socket, rig)
        except (WebSocketDisconnect, RuntimeError):
            pass

    @app.get("/", include_in_schema=False)
    async def page() -> FileResponse:
        return FileResponse(DESK / "rig.html", headers={"Cache-Control": "no-cache"})

    app.mount("/assets", StaticFiles(directory=DESK / "assets", check_dir=False))
    return app


async def _look_on(rig: StandInRig) -> None:
    while True:
        await asyncio.to_thread(rig.look)
        await asyncio.sleep(0.5)


async def _show(socket: WebSocket, rig: StandInRig) -> None:
    """Frames: a float64 of the wall clock in milliseconds when the newest packet arrived, then light, then
    pose.
    """
    told_at = 0.0
    while True:
        now = time.monotonic()
        if now - told_at > REPORT_S:
            told_at = now
            universes = [row.model_dump() for row in rig.report(1, 1)]
            news = {"universes": universes, "strange": rig.receiver.strange, "fault": rig.fault}
            await socket.send_text(json.dumps({**news, "lamps": len(rig.described.get("lamps", []))}))
        light, pose = rig.shining()
        newest = max((stream.at for stream in list(rig.receiver.streams.values())), default=now)
        arrived = np.array([(time.time() - (time.monotonic() - newest)) * 1000.0])
        await socket.send_bytes(arrived.tobytes() + light.tobytes() + pose.tobytes())
        await asyncio.sleep(max(0.001, FRAME_S - (time.monotonic() - now)))


def main(
    http_port: int,
    host: str = "127.0.0.1",
    sacn_port: int = 5568,
    artnet_port: int | None = 6454,
    file: Path | None = None,
    groups: int = 0,
) -> None:
    """Run until it is stopped: sACN and Art-Net in on UDP ports, the page on an HTTP port.

    groups: how many universes, from the first on, are listened to by multicast too.
    """
    receiver = Receiver(host, sacn_port, artnet_port, range(1, 1 + groups))
    uvicorn.run(
        create_app(StandInRig(receiver, file)),
        host="127.0.0.1",
        port=http_port,
        log_level="error",
        timeout_graceful_shutdown=1,
    )

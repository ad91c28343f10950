"""A stand-in light node: receives sACN (ANSI E1.31) and shows its lamps from the packets alone.

A separate process. It knows nothing of the engine: what the page shows has been on the wire.
"""

import asyncio
import socket
import threading
import time
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

import sacn
import uvicorn
from fastapi import FastAPI, Query
from fastapi.responses import HTMLResponse
from pydantic import BaseModel

LOST_AFTER_S = 2.5
"""E131_NETWORK_DATA_LOSS_TIMEOUT, ANSI E1.31 appendix A."""


class UniverseReport(BaseModel):
    """One universe as the node heard it."""

    universe: int
    source: str
    priority: int
    packets: int
    packets_per_s: float
    lost: int
    age_s: float
    state: str
    channels: list[int]


class Node:
    """Counts and keeps what arrives on one UDP port."""

    def __init__(self, host: str, port: int) -> None:
        self.socket = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self.socket.settimeout(0.2)
        self.socket.bind((host, port))
        self.heard: dict[int, dict] = {}
        self.lock = threading.Lock()
        self.stop = False
        self.thread = threading.Thread(target=self._listen, daemon=True)
        self.thread.start()

    def _listen(self) -> None:
        while not self.stop:
            try:
                raw = self.socket.recv(2048)
            except TimeoutError:
                continue
            try:
                packet = sacn.DataPacket.make_data_packet(raw)
            except TypeError:
                continue  # Something else on this port.
            self.take(packet, time.monotonic())

    def take(self, packet: sacn.DataPacket, now: float) -> None:
        """Note one packet that arrived at a time (monotonic seconds)."""
        with self.lock:
            row = self.heard.setdefault(
                packet.universe, {"packets": 0, "lost": 0, "sequence": packet.sequence - 1, "times": []}
            )
            ahead = (packet.sequence - row["sequence"]) % 256
            # Late packets are discarded: the sequence rule of ANSI E1.31, 6.7.2.
            if ahead == 0 or ahead > 236:
                return
            row["lost"] += ahead - 1 if ahead < 128 else 0
            state = "ended by its source" if packet.option_StreamTerminated else "receiving"
            row.update(
                source=packet.sourceName,
                priority=packet.priority,
                sequence=packet.sequence,
                channels=list(packet.dmxData[:48]),
                at=now,
                state=state,
            )
            row["packets"] += 1
            row["times"] = [t for t in row["times"] if now - t < 2.0] + [now]

    def close(self) -> None:
        self.stop = True
        self.thread.join(1.0)
        self.socket.close()

    def report(self, first: int, count: int) -> list[UniverseReport]:
        now = time.monotonic()
        with self.lock:
            return [
                UniverseReport(
                    universe=u,
                    source=r["source"].rstrip("\0"),
                    priority=r["priority"],
                    packets=r["packets"],
                    lost=r["lost"],
                    age_s=round(now - r["at"], 3),
                    packets_per_s=len([t for t in r["times"] if now - t < 2.0]) / 2.0,
                    state=(
                        r["state"]
                        if now - r["at"] < LOST_AFTER_S or r["state"] != "receiving"
                        else "no data: holding the last levels"
                    ),
                    channels=r["channels"][first - 1 : first - 1 + count],
                )
                for u, r in sorted(self.heard.items())
            ]


def create_app(node: Node) -> FastAPI:
    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        yield
        await asyncio.to_thread(node.close)

    app = FastAPI(title="Fulgura stand-in light node", lifespan=lifespan, docs_url=None, redoc_url=None)

    @app.get("/universes")
    async def universes(
        first: int = Query(1, ge=1, le=48), count: int = Query(12, ge=1, le=48)
    ) -> list[UniverseReport]:
        """What arrived, straight from the packets."""
        return node.report(first, count)

    @app.get("/", response_class=HTMLResponse, include_in_schema=False)
    async def page() -> str:
        return PAGE

    return app


PAGE = Path(__file__).with_suffix(".html").read_text()


def main(http_port: int, host: str = "127.0.0.1", port: int = 5568) -> None:
    """Run the node until it is stopped: sACN in on a UDP port, the page on an HTTP port."""
    uvicorn.run(
        create_app(Node(host, port)),
        host="127.0.0.1",
        port=http_port,
        log_level="error",
        timeout_graceful_shutdown=1,
    )

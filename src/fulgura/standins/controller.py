"""A stand-in controller: a page with faders whose movements go out as OSC 1.0 over UDP, as a real one's
would.
"""

from pathlib import Path

import uvicorn
from fastapi import FastAPI
from fastapi.responses import HTMLResponse, Response
from pydantic import BaseModel, Field
from pythonosc.udp_client import SimpleUDPClient

FADERS = 4


class Moved(BaseModel):
    position: float = Field(ge=0, le=1)


def create_app(client: SimpleUDPClient) -> FastAPI:
    app = FastAPI(title="Fulgura stand-in controller", docs_url=None, redoc_url=None)

    @app.put("/faders/{fader}", status_code=204)
    async def move(fader: int, moved: Moved) -> Response:
        """Move a fader, from 1 on."""
        client.send_message(f"/fader/{fader}", moved.position)
        return Response(status_code=204)

    @app.get("/", response_class=HTMLResponse, include_in_schema=False)
    async def page() -> str:
        return PAGE

    return app


PAGE = Path(__file__).with_suffix(".html").read_text().replace("FADERS", str(FADERS))


def main(http_port: int, osc_port: int) -> None:
    """Run it until it is stopped: the page on an HTTP port, OSC to a UDP port of loopback."""
    uvicorn.run(
        create_app(SimpleUDPClient("127.0.0.1", osc_port)),
        host="127.0.0.1",
        port=http_port,
        log_level="error",
        timeout_graceful_shutdown=1,
    )

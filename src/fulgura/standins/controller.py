"""A stand-in controller: a page with faders whose movements go out as OSC 1.0 over UDP, as a real one's would."""

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


PAGE = """<!doctype html>
<html lang="en"><meta charset="utf-8"><title>Controller</title>
<style>
 body { margin: 0; padding: 24px; background: #0c0a12; color: #f1ecf6; font: 17px/1.5 sans-serif }
 h1 { font-size: 20px; margin: 0 0 4px } p { color: #aaa1b8; margin: 0 0 20px }
 main { display: flex; gap: 36px } label { text-align: center } input { writing-mode: vertical-lr; direction: rtl; height: 300px; width: 44px; display: block }
</style>
<h1>Controller (stand-in)</h1>
<p>Each movement goes out as an OSC message over UDP. This page does not know the desk.</p>
<main></main>
<script>
for (let n = 1; n <= """ + str(FADERS) + """; n++) {
  const label = document.createElement('label')
  label.innerHTML = `<input type="range" min="0" max="1" step="0.001" value="0" aria-label="Fader ${n}">${n}`
  label.firstChild.oninput = e => fetch(`/faders/${n}`, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ position: Number(e.target.value) }) })
  document.querySelector('main').append(label)
}
</script></html>"""


def main(http_port: int, osc_port: int) -> None:
    """Run it until it is stopped: the page on an HTTP port, OSC to a UDP port of loopback."""
    uvicorn.run(create_app(SimpleUDPClient("127.0.0.1", osc_port)), host="127.0.0.1", port=http_port, log_level="error", timeout_graceful_shutdown=1)

"""A stand-in controller: faders and pads that speak MIDI 1.0 over a TCP connection, faders that speak OSC
1.0 over UDP, an encoder, and a clock. It knows no more than two ports, and shows what it is told.
"""

import asyncio
import threading
import time
from pathlib import Path
from typing import Literal

import uvicorn
from fastapi import FastAPI
from fastapi.responses import HTMLResponse, Response
from pydantic import BaseModel, Field
from pythonosc.dispatcher import Dispatcher
from pythonosc.osc_server import ThreadingOSCUDPServer
from pythonosc.udp_client import SimpleUDPClient

from fulgura.core.timing.midi_stream import MidiStream
from fulgura.standins.midi_line import ClockSource, MidiLine

FADERS, PADS, FIRST_NOTE, FIRST_CONTROL, ENCODER = 8, 16, 36, 20, 60


class Moved(BaseModel):
    """position: 0..1; by: in which protocol it is said."""

    position: float = Field(ge=0, le=1)
    by: Literal["osc", "midi"] = "osc"


class Pressed(BaseModel):
    """down: whether the finger comes or goes; velocity: 1 to 127."""

    down: bool = True
    velocity: int = Field(100, ge=1, le=127)


class Turned(BaseModel):
    """steps: to the right, or, below 0, to the left."""

    steps: int = Field(ge=-63, le=63)


class ClockSet(BaseModel):
    """bpm: 0 for no clock; jitter_ms: how unevenly it ticks, on purpose."""

    bpm: float = Field(ge=0, le=400)
    jitter_ms: float = Field(0.0, ge=0, le=20)
    start: bool = True


class Shown(BaseModel):
    """What it was told: lights of pads (0..127), places of faders (0..1), the clock that it hears."""

    pads: dict[int, int]
    faders: dict[int, float]
    osc: dict[str, float]
    clocks: int
    clock_bpm: float
    starts: int


class Controller:
    """What the device remembers, and its two lines."""

    def __init__(self, osc: SimpleUDPClient, line: MidiLine) -> None:
        self.osc, self.line = osc, line
        self.shown = Shown(pads={}, faders={}, osc={}, clocks=0, clock_bpm=0.0, starts=0)
        self.ticks: list[float] = []
        self.stream = MidiStream()
        line.on_data = self.hear

    def hear(self, data: bytes) -> None:
        """Bytes came down the MIDI line."""
        for message in self.stream.feed(data):
            match message:
                case [0x90, note, light]:
                    self.shown.pads[note - FIRST_NOTE + 1] = light
                case [0xB0, number, value]:
                    self.shown.faders[number - FIRST_CONTROL + 1] = value / 127
                case [0xF8]:
                    self.shown.clocks += 1
                    self.ticks = [*self.ticks[-96:], time.monotonic()]
                case [0xFA]:
                    self.shown.starts += 1
        if len(self.ticks) > 24:
            self.shown.clock_bpm = round(2.5 * (len(self.ticks) - 1) / (self.ticks[-1] - self.ticks[0]), 2)

    def hear_osc(self, address: str, *values: object) -> None:
        """A number came by OSC."""
        if values and isinstance(values[0], int | float):
            self.shown.osc[address] = float(values[0])


def create_app(device: Controller, clock: ClockSource) -> FastAPI:
    app = FastAPI(title="Fulgura stand-in controller", docs_url=None, redoc_url=None)
    done = Response(status_code=204)

    @app.put("/faders/{fader}", status_code=204)
    async def move(fader: int, moved: Moved) -> Response:
        """Move a fader, from 1 on."""
        if moved.by == "osc":
            device.osc.send_message(f"/fader/{fader}", moved.position)
        else:
            device.line.send(bytes([0xB0, FIRST_CONTROL + fader - 1 & 127, round(moved.position * 127)]))
        return done

    @app.put("/pads/{pad}", status_code=204)
    async def press(pad: int, pressed: Pressed) -> Response:
        """Press a pad, from 1 on, or let it go."""
        note = FIRST_NOTE + pad - 1 & 127
        device.line.send(bytes([0x90, note, pressed.velocity] if pressed.down else [0x80, note, 0]))
        return done

    @app.put("/encoder", status_code=204)
    async def turn(turned: Turned) -> Response:
        """Turn the encoder (two's complement), a step at a time."""
        step = 1 if turned.steps > 0 else 127
        for _ in range(abs(turned.steps)):
            device.line.send(bytes([0xB0, ENCODER, step]))
            await asyncio.sleep(0.01)
        return done

    @app.put("/clock", status_code=204)
    async def set_clock(wanted: ClockSet) -> Response:
        """Let its clock tick."""
        clock.run(wanted.bpm, wanted.jitter_ms / 1000, wanted.start)
        return done

    @app.put("/line", status_code=204)
    async def plug(connected: bool) -> Response:
        """Pull its MIDI plug, or put it back."""
        device.line.plug(connected)
        return done

    @app.get("/shown")
    async def shown() -> Shown:
        """What it was told to show."""
        return device.shown

    @app.get("/", response_class=HTMLResponse, include_in_schema=False)
    async def page() -> str:
        return PAGE

    return app


PAGE = (
    Path(__file__).with_suffix(".html").read_text().replace("FADERS", str(FADERS)).replace("PADS", str(PADS))
)


def main(http_port: int, osc_port: int, midi_port: int, answers: int) -> None:
    """Run it until it is stopped: the page on an HTTP port, OSC to a UDP port of loopback, MIDI to a TCP
    port; answers: UDP port on which it hears OSC.
    """
    line = MidiLine(midi_port)
    device = Controller(SimpleUDPClient("127.0.0.1", osc_port), line)
    if answers:
        dispatcher = Dispatcher()
        dispatcher.set_default_handler(device.hear_osc)
        server = ThreadingOSCUDPServer(("127.0.0.1", answers), dispatcher)
        threading.Thread(target=server.serve_forever, daemon=True).start()
    uvicorn.run(
        create_app(device, ClockSource(line)),
        host="127.0.0.1",
        port=http_port,
        log_level="error",
        timeout_graceful_shutdown=1,
    )

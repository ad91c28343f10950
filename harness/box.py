"""The stand-in controller beside a running show."""

import socket
import subprocess
import sys
from urllib.request import urlopen

import httpx

from fulgura.children import child_environment
from harness.stack import Stack, free_port, wait_for


class Box:
    """The stand-in controller: a process of its own that knows no more than two ports."""

    def __init__(self, stack: Stack) -> None:
        self.port, self.answers = free_port(), free_port(socket.SOCK_DGRAM)
        words = ["--port", self.port, "--osc-port", stack.port, "--midi-port", stack.midi_port]
        words += ["--answers", self.answers]
        self.process = subprocess.Popen(
            [sys.executable, "-m", "fulgura", "standin", "controller", *map(str, words)],
            env=child_environment(),
        )
        self.page = f"http://127.0.0.1:{self.port}"
        wait_for(lambda: urlopen(self.page).status == 200, 15, "the controller's page")

    def put(self, path: str, **body) -> None:
        assert httpx.put(f"{self.page}{path}", json=body).status_code == 204

    def fader(self, number: int, position: float, by: str = "osc") -> None:
        self.put(f"/faders/{number}", position=position, by=by)

    def pad(self, number: int, down: bool = True) -> None:
        self.put(f"/pads/{number}", down=down)

    def shown(self) -> dict:
        return httpx.get(f"{self.page}/shown").json()

    def plug(self, connected: bool) -> None:
        assert httpx.put(f"{self.page}/line?connected={str(connected).lower()}").status_code == 204

    def close(self) -> None:
        self.process.terminate()
        self.process.wait(10)

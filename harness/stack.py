"""The application as ./fulgura starts it, over a fresh data folder."""

import json
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeVar

import psutil
from websockets.exceptions import WebSocketException
from websockets.sync.client import connect

from fulgura.children import child_environment
from fulgura.core import wire
from fulgura.folders import ROOT, Folders
from harness.calls import Calls

PATIENCE = 4
"""How many times longer than usual is waited: a host may lend its processors to others."""
Result = TypeVar("Result")


def free_port(kind: int = socket.SOCK_STREAM) -> int:
    with socket.socket(socket.AF_INET, kind) as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


def wait_for(check: Callable[[], Result], seconds: float = 15.0, what: str = "it") -> Result:
    """The first true result of a check, tried until then, or for longer where the host lends its processors
    to others.
    """
    until = time.monotonic() + PATIENCE * seconds
    while time.monotonic() < until:
        try:
            result = check()
            if result:
                return result
        except (
            OSError,
            urllib.error.URLError,
            KeyError,
            IndexError,
            AssertionError,
            StopIteration,
            psutil.Error,
            WebSocketException,
        ):
            pass
        time.sleep(0.05)
    raise AssertionError(f"{what} did not happen within {seconds} s")


@dataclass
class Stack(Calls):
    """The application as ./fulgura starts it."""

    folders: Folders
    port: int
    node_port: int | None
    process: subprocess.Popen
    output: Path
    midi_port: int = 0

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def call(
        self, method: str, path: str, body: object = None, headers: dict | None = None
    ) -> tuple[int, dict]:
        """(status, JSON) of a call to the API."""
        data = body if body is None or isinstance(body, bytes) else json.dumps(body).encode()
        kind = "octet-stream" if isinstance(body, bytes) else "json"
        request = urllib.request.Request(
            f"{self.url}/api/v1{path}",
            data,
            {"Content-Type": f"application/{kind}", **(headers or {})},
            method=method,
        )
        try:
            with urllib.request.urlopen(request, timeout=PATIENCE * 30) as response:
                raw = response.read()
                return response.status, json.loads(raw) if raw else {}
        except urllib.error.HTTPError as error:
            assert error.headers["content-type"].startswith("application/problem+json")
            return error.code, json.loads(error.read())

    def raw(self, path: str) -> bytes:
        """The bytes that the API answers to a GET."""
        with urllib.request.urlopen(f"{self.url}/api/v1{path}", timeout=PATIENCE * 30) as response:
            return bytes(response.read())

    def child(self, part: str) -> psutil.Process:
        """The child whose command line holds a word; of several the oldest: a spare is younger."""
        children = psutil.Process(self.process.pid).children()
        for child in sorted(children, key=lambda child: child.create_time()):
            try:
                if part in " ".join(child.cmdline()):
                    return child
            except psutil.Error:
                continue  # It has just ended and waits to be taken note of.
        raise AssertionError(f"no child process like {part}")

    def lamp(self) -> list[int]:
        """What the stand-in node read from the wire."""
        with urllib.request.urlopen(
            f"http://127.0.0.1:{self.node_port}/universes?count=3", timeout=5
        ) as response:
            rows = [row for row in json.loads(response.read()) if row["protocol"] == "sacn"]
        return rows[0]["channels"] if rows else []

    def stop(self) -> int:
        self.process.send_signal(signal.SIGINT)
        return self.process.wait(40)


def start_stack(data: Path, command: str = "demo", environment: dict[str, str] | None = None) -> Stack:
    """Start the application and wait until it says that it is ready. environment: what it gets besides."""
    port, node_port, midi_port = free_port(), free_port(), free_port()
    words = [sys.executable, "-m", "fulgura", command, "--port", str(port), "--data", str(data)]
    words += ["--midi-port", str(midi_port)]
    if command == "demo":
        sacn, art_net = free_port(socket.SOCK_DGRAM), free_port(socket.SOCK_DGRAM)
        words += ["--node-port", str(node_port), "--sacn-port", str(sacn), "--artnet-port", str(art_net)]
    output = data.parent / f"{data.name}.log"
    with open(output, "wb") as log:
        own = {**child_environment(), **(environment or {})}
        process = subprocess.Popen(words, stdout=log, stderr=log, env=own, cwd=ROOT)
    node = node_port if command == "demo" else None
    stack = Stack(Folders(data), port, node, process, output, midi_port)
    try:
        wait_for(lambda: "ready" in output.read_text() or process.poll() is not None, 90, "the start")
        assert process.poll() is None, output.read_text()
        wait_for(lambda: stack.call("GET", "/health")[1]["engine"], 20, "the engine's first frame")
    except BaseException:
        process.terminate()
        process.wait(30)
        raise
    return stack


def live(
    stack: Stack, seconds: float, want: list[int], say: Sequence[str] = ()
) -> tuple[list[wire.Packet], list[dict]]:
    """Frames and news that a page gets in some seconds, longer where not one frame came that is wanted. say:
    raw messages that it sends first.
    """
    packets: list[wire.Packet] = []
    news: list[dict[str, Any]] = []
    origin: Any = stack.url
    with connect(f"ws://127.0.0.1:{stack.port}/api/v1/live", origin=origin) as socket:
        for message in say:
            socket.send(message)
        socket.send(json.dumps({"want": want}))
        until = time.monotonic() + seconds
        while (left := until - time.monotonic()) > 0 or (want and not packets and left > -5):
            heard = socket.recv(timeout=5)
            if isinstance(heard, bytes):
                packets.append(wire.decode(heard))
            else:
                news.append(json.loads(heard))
    return packets, news


def told(stack: Stack, topic: str = "state", seconds: float = 0.6) -> Any:
    """The newest that a page is told about a topic within some seconds, or the first that comes later."""
    newest: list[Any] = []
    origin: Any = stack.url
    with connect(f"ws://127.0.0.1:{stack.port}/api/v1/live", origin=origin) as socket:
        until = time.monotonic() + seconds
        while (left := until - time.monotonic()) > 0 or not newest:
            assert left > -5, f"nothing was told about {topic}"
            heard = socket.recv(timeout=5)
            if isinstance(heard, str) and (news := json.loads(heard))["type"] == topic:
                newest = [news["data"]]
    return newest[-1]


def said(event: str, **what: Any) -> str:
    """A message of a page: something that its hand did."""
    return json.dumps({"event": {"event": event, **what}})


def say(socket: Any, event: str, **what: Any) -> None:
    """Say it over a page's socket."""
    socket.send(said(event, **what))

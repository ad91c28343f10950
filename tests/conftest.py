"""What many tests share: the whole application over a fresh data folder, and a browser that can draw."""

import json
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import psutil
import pytest
from hypothesis import settings
from playwright.sync_api import Browser, Playwright, expect, sync_playwright
from websockets.exceptions import WebSocketException

from fulgura.folders import ROOT, Folders
from fulgura.supervisor import child_environment

# --use-angle=gl-egl draws WebGL2 with the rasteriser that Python's EGL context uses; the page itself is put
# together without it, which is much faster where there is no graphics card.
CHROMIUM = [
    "--no-sandbox",
    "--use-angle=gl-egl",
    "--ignore-gpu-blocklist",
    "--disable-gpu-compositing",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
]


def free_port(kind: int = socket.SOCK_STREAM) -> int:
    with socket.socket(socket.AF_INET, kind) as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


# How long an example takes says more about the machine than about what is tested.
settings.register_profile("any machine", deadline=None)
settings.load_profile("any machine")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What needs the running demo comes last, so that it does not take a processor from the rest.

    What runs the whole application in real time is tried once more when it fails: on a host that lends its
    processors to others a browser or a clock may stand still for seconds. The summary names what needed it.
    """
    items.sort(key=lambda item: "stack" in item.fixturenames)
    for item in items:
        if {"stack", "own", "chromium"} & set(item.fixturenames):
            item.add_marker(pytest.mark.flaky(reruns=1))


@dataclass
class Stack:
    """The application as ./fulgura starts it."""

    folders: Folders
    port: int
    node_port: int | None
    process: subprocess.Popen
    output: Path

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def call(
        self, method: str, path: str, body: object = None, headers: dict | None = None
    ) -> tuple[int, dict]:
        """(status, JSON) of a call to the API."""
        data = None if body is None else body if isinstance(body, bytes) else json.dumps(body).encode()
        request = urllib.request.Request(
            f"{self.url}/api/v1{path}",
            data,
            {"Content-Type": "application/json", **(headers or {})},
            method=method,
        )
        try:
            with urllib.request.urlopen(request, timeout=PATIENCE * 10) as response:
                raw = response.read()
                return response.status, json.loads(raw) if raw else {}
        except urllib.error.HTTPError as error:
            assert error.headers["content-type"].startswith("application/problem+json")
            return error.code, json.loads(error.read())

    def show(self) -> dict:
        return self.call("GET", "/show")[1]

    def set(self, path: str, value: object, name: str = "test") -> dict:
        status, answer = self.call(
            "POST", "/show/edits", {"edit": {"edit": "set", "path": path, "value": value}, "name": name}
        )
        assert status == 200, answer
        return answer

    def child(self, part: str) -> psutil.Process:
        """The child whose command line holds a word."""
        for child in psutil.Process(self.process.pid).children(recursive=True):
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
            rows = json.loads(response.read())
        return rows[0]["indices"] if rows else []

    def stop(self) -> int:
        self.process.send_signal(signal.SIGINT)
        return self.process.wait(40)


PATIENCE = 4
expect.set_options(timeout=PATIENCE * 5_000)


def wait_for(check, seconds: float = 15.0, what: str = "it"):
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


def start_stack(data: Path, command: str = "demo") -> Stack:
    """Start the application and wait until it says that it is ready."""
    port, node_port = free_port(), free_port()
    words = [sys.executable, "-m", "fulgura", command, "--port", str(port), "--data", str(data)]
    if command == "demo":
        words += ["--node-port", str(node_port), "--sacn-port", str(free_port(socket.SOCK_DGRAM))]
    output = data.parent / f"{data.name}.log"
    with open(output, "wb") as log:
        process = subprocess.Popen(words, stdout=log, stderr=log, env=child_environment(), cwd=ROOT)
    stack = Stack(Folders(data), port, node_port if command == "demo" else None, process, output)
    try:
        wait_for(lambda: "ready" in output.read_text() or process.poll() is not None, 90, "the start")
        assert process.poll() is None, output.read_text()
        wait_for(lambda: stack.call("GET", "/health")[1]["engine"], 20, "the engine's first frame")
    except BaseException:
        process.terminate()
        process.wait(30)
        raise
    return stack


def pace(page) -> tuple[float, float]:
    """(frames a second, milliseconds that the page itself takes of each: script, style and layout), over
    three seconds.

    Sixty frames a second leave 16.7 ms each. Rasterising is the graphics card's where there is one; this must
    leave room.
    """
    session = page.context.new_cdp_session(page)
    session.send("Performance.enable")

    def spent() -> float:
        rows = {row["name"]: row["value"] for row in session.send("Performance.getMetrics")["metrics"]}
        return sum(rows[name] for name in ("ScriptDuration", "LayoutDuration", "RecalcStyleDuration"))

    before, frames = (
        spent(),
        page.evaluate(
            "() => new Promise(r => { let n = 0; const t = performance.now(); (function f() { n++;"
            " performance.now() - t < 3000 ? requestAnimationFrame(f) : r(n) })() })"
        ),
    )
    return frames / 3.0, 1000.0 * (spent() - before) / frames


def drag(page, grip, by: tuple[float, float], at: tuple[float, float] | None = None, steps: int = 5) -> None:
    """Take hold of an element once it rests and nothing covers it, and pull it by (x, y) pixels.

    at: where in it the hand takes hold, in pixels from its upper left corner; its middle without.
    """
    grip.hover(position=None if at is None else {"x": at[0], "y": at[1]})
    box = grip.bounding_box()
    x, y = at or (box["width"] / 2, box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + x + by[0], box["y"] + y + by[1], steps=steps)
    page.mouse.up()


@pytest.fixture(scope="session")
def stack(tmp_path_factory) -> Iterator[Stack]:
    """The demo, started once for all tests that leave it as they found it."""
    started = start_stack(tmp_path_factory.mktemp("stack") / "data")
    yield started
    assert started.stop() == 0


@pytest.fixture(scope="module")
def own(tmp_path_factory):
    """A stack of its own, whose processes may be killed."""
    started = start_stack(tmp_path_factory.mktemp("own") / "data")
    yield started
    if started.process.poll() is None:
        started.stop()


@pytest.fixture
def demo(stack) -> Iterator[Stack]:
    """The running demo; afterwards every step that the test made is undone."""
    head = stack.show()["head"]
    yield stack
    while stack.show()["head"] > head:
        stack.call("POST", "/show/undo")


@pytest.fixture(scope="session")
def playwright_driver() -> Iterator[Playwright]:
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def chromium(playwright_driver) -> Iterator[Browser]:
    browser = playwright_driver.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM)
    yield browser
    browser.close()

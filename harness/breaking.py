"""Hands that break things, and what must go on meanwhile: packets that arrive, edits that are answered."""

import signal
import socket
import struct
import threading
import time
from dataclasses import dataclass, field
from http.client import HTTPException

import psutil

from harness.stack import Stack, free_port

PARTS = {
    "engine": "fulgura.engine",
    "web": "fulgura.web",
    "control": "fulgura.control",
    "database": "mariadbd",
    "rig": "standin rig",
}
"""Processes by a word of their command lines."""

SO_TIMESTAMPNS = 35
"""Of Linux (asm-generic/socket.h); Python has no name for it."""


def processes(stack: Stack, part: str) -> list[psutil.Process]:
    """Those of a part that run, and the spare; not the copies of themselves that they make."""
    found = []
    for child in psutil.Process(stack.process.pid).children():
        try:
            words = " ".join(child.cmdline())
        except psutil.Error:
            continue
        if PARTS[part] in words:
            found.append(child)
    return found


def engine(stack: Stack) -> psutil.Process:
    """The one that plays: it has the sockets of the bus."""
    for process in processes(stack, "engine"):
        if any(str(link.laddr).endswith("/frames") for link in process.net_connections("unix")):
            return process
    raise AssertionError("no engine plays")


def victim(stack: Stack, part: str) -> psutil.Process:
    return engine(stack) if part == "engine" else processes(stack, part)[0]


class Packets:
    """Listens where a show sends its lights, and knows how long it was silent."""

    def __init__(self, stack: Stack) -> None:
        self.socket = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self.socket.bind(("127.0.0.1", free_port(socket.SOCK_DGRAM)))
        self.socket.settimeout(0.2)
        # When the kernel had it, not when this process got to it: that is what is hurt, not this.
        self.socket.setsockopt(socket.SOL_SOCKET, SO_TIMESTAMPNS, 1)
        self.times: list[float] = []
        self.packets: list[bytes] = []
        output = {
            "id": f"breaking-{self.socket.getsockname()[1]}",
            "name": "Breaking",
            "protocol": "sacn",
            "host": "127.0.0.1",
            "port": self.socket.getsockname()[1],
        }
        edit = {"edit": "add", "path": "/light_outputs", "item": output}
        assert stack.call("POST", "/show/edits", {"edit": edit, "name": "Listen"})[0] == 200
        self.stop = False
        self.thread = threading.Thread(target=self._listen, daemon=True)
        self.thread.start()

    def _listen(self) -> None:
        while not self.stop:
            try:
                raw, told, _, _ = self.socket.recvmsg(1024, 64)
            except TimeoutError:
                continue
            seconds, nanoseconds = struct.unpack("qq", told[0][2])
            ago = time.time() - seconds - nanoseconds * 1e-9
            self.times.append(time.monotonic() - ago)
            self.packets.append(raw)

    def silence(self, since: float) -> float:
        """The longest time without a packet since then, to now, in seconds."""
        times = [since, *sorted(t for t in list(self.times) if t >= since), time.monotonic()]
        return max(after - before for before, after in zip(times, times[1:], strict=False))

    def close(self) -> None:
        self.stop = True
        self.thread.join(2)
        self.socket.close()


@dataclass
class Editor:
    """Edits one value again and again, and remembers what was answered."""

    stack: Stack
    path: str
    every_s: float = 0.1
    answered: list[float] = field(default_factory=list)
    asked: list[float] = field(default_factory=list)
    took_s: list[float] = field(default_factory=list)
    kept: list[bool] = field(default_factory=list)
    stop: bool = False

    def __post_init__(self) -> None:
        self.thread = threading.Thread(target=self._edit, daemon=True)
        self.thread.start()

    def _edit(self) -> None:
        number = 0
        while not self.stop:
            number += 1
            value = round(0.1 + (number % 5000) / 10_000, 5)
            begun = time.monotonic()
            self.asked.append(value)
            try:
                answer = self.stack.set(self.path, value, f"edit {number}")
            except (OSError, HTTPException, AssertionError, ValueError):
                time.sleep(0.05)  # Nobody was there: it was not answered, and may be lost.
                continue
            self.answered.append(value)
            self.kept.append(answer["saved"])
            self.took_s.append(time.monotonic() - begun)
            time.sleep(max(0.0, self.every_s - self.took_s[-1]))

    def close(self) -> None:
        assert self.stop or self.thread.is_alive(), "it edited to the end"
        self.stop = True
        self.thread.join(60)


def hurt(process: psutil.Process, how: str) -> None:
    """kill: it ends; halt: it stands still until somebody ends it."""
    process.send_signal(signal.SIGKILL if how == "kill" else signal.SIGSTOP)

"""A MIDI 1.0 line over a TCP connection of loopback, and a clock that ticks on it."""

import random
import socket
import threading
import time
from collections.abc import Callable

RETRY_S = 0.3


class MidiLine:
    """Connects, and again whenever the other side is gone. A thread of its own hears what comes."""

    def __init__(self, port: int) -> None:
        self.port, self.on_data = port, _nobody
        self._plugged = bool(port)
        self._socket: socket.socket | None = None
        self._lock = threading.Lock()
        if port:
            threading.Thread(target=self._run, daemon=True).start()

    on_data: Callable[[bytes], None]

    @property
    def connected(self) -> bool:
        """Whether somebody hears it."""
        return self._socket is not None

    def send(self, data: bytes) -> bool:
        """Say something; False when nobody hears it."""
        with self._lock:
            if self._socket is None:
                return False
            try:
                self._socket.sendall(data)
            except OSError:
                return False
            return True

    def plug(self, connected: bool) -> None:
        """Pull the plug, or put it back."""
        self._plugged = connected
        with self._lock:
            if not connected and self._socket is not None:
                self._socket.shutdown(socket.SHUT_RDWR)

    def _run(self) -> None:
        while True:
            if self._plugged:
                try:
                    with socket.create_connection(("127.0.0.1", self.port), 2.0) as line:
                        line.settimeout(None)
                        line.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
                        with self._lock:
                            self._socket = line
                        while data := line.recv(4096):
                            self.on_data(data)
                except OSError:
                    pass
                with self._lock:
                    self._socket = None
            time.sleep(RETRY_S)


def _nobody(data: bytes) -> None:
    pass


class ClockSource:
    """Ticks 24 times a beat, as unevenly as it is told."""

    def __init__(self, line: MidiLine) -> None:
        self.line = line
        self._bpm, self._jitter_s, self._changed = 0.0, 0.0, threading.Event()
        threading.Thread(target=self._run, daemon=True).start()

    def run(self, bpm: float, jitter_s: float, start: bool) -> None:
        """Tick at a tempo, 0 for not at all; start: the song begins with the next tick."""
        if self._bpm and not bpm:
            self.line.send(b"\xfc")
        if bpm and start:
            self.line.send(b"\xfa")
        self._bpm, self._jitter_s = bpm, jitter_s
        self._changed.set()

    def _run(self) -> None:
        due, chance = time.monotonic(), random.Random(1)
        while True:
            if not self._bpm:
                self._changed.wait()
                self._changed.clear()
                due = time.monotonic()
                continue
            due += 2.5 / self._bpm
            late = due + chance.uniform(-self._jitter_s, self._jitter_s)
            time.sleep(max(0.0, late - time.monotonic()))
            self.line.send(b"\xf8")
            if time.monotonic() - due > 0.5:
                due = time.monotonic()  # The machine slept.

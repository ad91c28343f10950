"""The engine as the control process sees it: commands to it, from any thread, with the moment they are of."""

import threading
import time
from pathlib import Path
from typing import Any

import zmq

from fulgura import bus
from fulgura.core.show.events import Event


class EngineLink:
    """Sends what hands and machines did to the engine."""

    def __init__(self, folder: Path) -> None:
        self._caller = bus.Caller(folder, zmq.Context.instance())
        self._lock = threading.Lock()

    def act(self, event: Event, at: float | None = None) -> None:
        """Something was done at a monotonic time; now without one."""
        self._send("event", event=event.model_dump(), at=time.monotonic() if at is None else at)

    def ports(self, state: dict[str, Any]) -> None:
        """What desks show of this process."""
        self._send("ports", state=state)

    def _send(self, do: str, **what: Any) -> None:
        with self._lock:
            try:
                self._caller.send(do, **what)
            except zmq.Again:
                pass  # The engine is away, and ten thousand messages wait for it.

    def close(self) -> None:
        with self._lock:
            self._caller.close()

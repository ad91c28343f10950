"""Processes say that they live, from their own loops, the way services tell their manager: sd_notify(3) of
systemd, lines of text to a Unix datagram socket. Whoever falls silent is replaced, after it has told where
it stood.
"""

import contextlib
import faulthandler
import os
import signal
import socket
from pathlib import Path

ADDRESS = "NOTIFY_SOCKET"
STACKS = signal.SIGUSR2
"""Makes a process write the stacks of all its threads to its log."""


class Heart:
    """A process's own side. Says nothing where nobody listens."""

    def __init__(self) -> None:
        faulthandler.register(STACKS, file=2, all_threads=True)
        # A name that begins with @ is one that no file has.
        self._address = os.environ.get(ADDRESS, "").replace("@", "\0", 1)
        self._socket = socket.socket(socket.AF_UNIX, socket.SOCK_DGRAM)
        self._socket.setblocking(False)

    def beat(self) -> None:
        """It lives. Costs some microseconds and waits for nobody."""
        self.say("WATCHDOG=1")

    def busy(self, seconds: float) -> None:
        """It has something to do that may take so long: until then its silence means nothing."""
        self.say(f"EXTEND_TIMEOUT_USEC={seconds * 1e6:.0f}")

    def ready(self) -> None:
        """It has started."""
        self.say("READY=1")

    def say(self, what: str) -> None:
        if self._address:
            # Nobody there, or too many wait there already: then nobody hears.
            with contextlib.suppress(OSError):
                self._socket.sendto(f"{what}\nMAINPID={os.getpid()}".encode(), self._address)


class Hearing:
    """The manager's side."""

    def __init__(self, path: Path) -> None:
        path.unlink(missing_ok=True)
        self.path = path
        self.socket = socket.socket(socket.AF_UNIX, socket.SOCK_DGRAM)
        self.socket.setblocking(False)
        self.socket.bind(str(path))

    def heard(self) -> list[tuple[int, str, str]]:
        """(process, what it said, its value) since the last call."""
        said = []
        with contextlib.suppress(BlockingIOError):
            while True:
                lines = self.socket.recv(512).decode("ascii", "replace").split("\n")
                fields = dict(line.partition("=")[::2] for line in lines)
                if fields.get("MAINPID", "").isdigit():
                    process = int(fields.pop("MAINPID"))
                    said += [(process, word, value) for word, value in fields.items()]
        return said

    def close(self) -> None:
        self.socket.close()
        self.path.unlink(missing_ok=True)

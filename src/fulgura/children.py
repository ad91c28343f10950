"""The processes that are kept alive: how each is started, known to hang, ended and replaced."""

import contextlib
import ctypes
import os
import signal
import subprocess
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import BinaryIO

from fulgura.alive import ADDRESS, STACKS
from fulgura.folders import ROOT

TELL_S = 0.1
"""How long one that hangs has to write where it stands."""
GO, FRESH = b"go\n", b"fresh\n"
"""What a spare is told: go on where the last one was, or begin anew."""
START_S = 180.0
"""A process that has said nothing for so long after its start hangs."""


@dataclass
class Child:
    """One process that is kept alive.

    limit_s: for how long it may say nothing; 0: it says nothing. nice: how far it stands behind others.
    spare: whether one more waits, that has loaded everything.
    """

    name: str
    command: list[str]
    log: Path
    limit_s: float = 0.0
    nice: int = 0
    spare: bool = False
    environment: dict[str, str] = field(default_factory=dict)
    process: subprocess.Popen | None = None
    started: float = 0.0
    quick_ends: int = 0
    heard: float = 0.0
    """When it said last that it lives; 0 for not yet."""
    waiting: subprocess.Popen | None = None
    """The spare, and whether it has loaded everything."""
    warm: bool = False

    @property
    def ended(self) -> bool:
        """Whether it was started and is not running any more."""
        return self.process is not None and self.process.poll() is not None

    def hangs(self, now: float) -> bool:
        """Whether it runs and has said nothing for longer than it may. now: monotonic seconds."""
        if not self.limit_s or self.process is None or self.ended:
            return False
        if not self.heard:
            return now - self.started > START_S
        return now - self.heard > self.limit_s * (1.0 if self._halted() else _overload())

    def _halted(self) -> bool:
        """Whether somebody stopped it: then it will not answer, however long one waits."""
        assert self.process is not None
        try:
            return Path(f"/proc/{self.process.pid}/stat").read_text().rpartition(")")[2].split()[0] == "T"
        except OSError:
            return False

    def start(self) -> None:
        """Start it; a spare that is warm takes its place at once."""
        spare, self.waiting = self.waiting, None
        if spare is not None and self.warm and spare.poll() is None and spare.stdin is not None:
            with contextlib.suppress(OSError):
                # One that ends at once, again and again, may end of what it goes on with.
                spare.stdin.write(FRESH if self.quick_ends > 1 else GO)
                spare.stdin.flush()
            self.process, self.heard = spare, time.monotonic()
        else:
            end(spare, 0.5)
            self.process, self.heard = self._open(self.command), 0.0
        self.warm, self.started = False, time.monotonic()

    def keep_spare(self) -> None:
        """Start the spare, unless there is one."""
        if self.spare and (self.waiting is None or self.waiting.poll() is not None):
            self.waiting, self.warm = self._open([*self.command, "--spare"], stdin=subprocess.PIPE), False

    def said(self, process: int, what: str, value: str = "") -> None:
        """A process said something; perhaps this one."""
        if self.process is not None and process == self.process.pid:
            extra = float(value) / 1e6 if what == "EXTEND_TIMEOUT_USEC" and value.isdigit() else 0.0
            self.heard = time.monotonic() + min(extra, START_S)
        elif self.waiting is not None and process == self.waiting.pid and what == "READY":
            self.warm = True

    def kill(self) -> None:
        """End one that hangs, after it has written the stacks of all its threads to its log."""
        assert self.process is not None
        with contextlib.suppress(OSError):
            for number in (STACKS, signal.SIGCONT):
                self.process.send_signal(number)
            with contextlib.suppress(subprocess.TimeoutExpired):
                self.process.wait(TELL_S)
            self.process.kill()
            self.process.wait(2.0)

    def end(self, seconds: float) -> None:
        """Ask it and its spare to end, and wait."""
        end(self.waiting, 0.5)
        end(self.process, seconds)

    def _open(self, command: list[str], stdin: int = subprocess.DEVNULL) -> subprocess.Popen:
        with _opened(self.log) as log:
            return subprocess.Popen(
                command,
                stdin=stdin,
                stdout=log,
                stderr=log,
                env={**child_environment(), **self.environment},
                preexec_fn=self._child_of_this,
            )

    def _child_of_this(self) -> None:
        """In the child: own session, so that Ctrl-C reaches only the supervisor; ends when the supervisor
        dies.
        """
        os.setsid()
        os.nice(self.nice)
        ctypes.CDLL(None).prctl(1, signal.SIGTERM)  # PR_SET_PDEATHSIG


def _opened(log: Path) -> BinaryIO:
    """The log, or nothing where the disk takes none: whoever is started is more than its log."""
    try:
        return open(log, "ab")
    except OSError:
        return open(os.devnull, "ab")


def _overload() -> float:
    """How many times longer than usual everything takes: processes that want to run, for each processor."""
    return max(1.0, os.getloadavg()[0] / (os.cpu_count() or 1))


def child_environment() -> dict[str, str]:
    """Children find the package; numeric libraries use one thread: the tick does not wait for a pool; and
    memory that threads gave back is used again by others instead of lying in an arena of each.
    """
    threads = {name: "1" for name in ("OMP_NUM_THREADS", "OPENBLAS_NUM_THREADS", "MKL_NUM_THREADS")}
    found = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "MALLOC_ARENA_MAX": "2", **threads}
    found.pop(ADDRESS, None)  # Whose it is, the supervisor says.
    return found


def end(process: subprocess.Popen | None, seconds: float) -> None:
    """Ask a process to end, and end it when it does not."""
    if process is None or process.poll() is not None:
        return
    process.terminate()
    try:
        process.wait(seconds)
    except subprocess.TimeoutExpired:
        process.kill()
        process.wait()

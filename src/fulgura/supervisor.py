"""The supervisor: starts the processes, heals those that die, and ends every one it started, and nothing
else.
"""

import ctypes
import fcntl
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from fulgura.folders import ROOT, Folders
from fulgura.store import server
from fulgura.store.connection import migrate

NEEDED_BYTES = 400 * 1024 * 1024
MARK = "fulgura-data-1\n"
LONG_START_S, LONGEST_START_S = 20.0, 180.0
"""After how long a start is said to take long, and is given up: a cold disk or a busy machine is no reason to
stop a show.
"""
Say = Callable[[str], None]


class CannotStart(RuntimeError):
    """Why the application does not start, in a sentence."""


def check_port(port: int, kind: int = socket.SOCK_STREAM, what: str = "the desk") -> None:
    """Raise CannotStart when a port on loopback is taken."""
    with socket.socket(socket.AF_INET, kind) as probe:
        if kind == socket.SOCK_STREAM:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError as error:
            raise CannotStart(
                f"Port {port} for {what} is taken by another program. Stop that program or choose another"
                " port (see --help)."
            ) from error


def check_folder(folders: Folders) -> bool:
    """Raise CannotStart unless the data folder is ours and whole, or can be made; returns whether it
    is new.
    """
    data = folders.data
    mark = data / "README.fulgura"
    parent = next(p for p in [data, *data.parents] if p.exists())
    if not parent.is_dir():
        raise CannotStart(f"{parent} is a file, not a folder; choose another data folder.")
    if not os.access(parent, os.W_OK):
        raise CannotStart(f"The folder {parent} cannot be written to; choose another data folder.")
    free = shutil.disk_usage(parent).free
    if free < NEEDED_BYTES:
        raise CannotStart(
            f"The disk that holds {parent} is full: {free // 2**20} MB are free, {NEEDED_BYTES // 2**20} MB"
            " are needed. Nothing was changed."
        )
    if not data.exists() or not any(data.iterdir()):
        return True
    if not mark.is_file() or mark.read_text() != MARK:
        raise CannotStart(
            f"{data} is not a data folder of this version of Fulgura (its mark is missing or damaged)."
            " Nothing was changed; move it away or choose another folder."
        )
    if not (folders.database / "mysql").is_dir() or not (folders.database / "ibdata1").is_file():
        raise CannotStart(
            f"The database in {folders.database} is damaged: files are missing. Nothing was changed; put a"
            f" copy back, or move {data} away to start anew."
        )
    return False


@dataclass
class Child:
    """One process that is kept alive."""

    name: str
    command: list[str]
    log: Path
    process: subprocess.Popen | None = None
    started: float = 0.0
    quick_ends: int = 0

    @property
    def ended(self) -> bool:
        """Whether it was started and is not running any more."""
        return self.process is not None and self.process.poll() is not None

    def start(self) -> None:
        with open(self.log, "ab") as log:
            self.process = subprocess.Popen(
                self.command,
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                env=child_environment(),
                preexec_fn=_child_of_this,
            )
        self.started = time.monotonic()


def child_environment() -> dict[str, str]:
    """Children find the package, and numeric libraries use one thread: the tick does not wait for a pool."""
    threads = {name: "1" for name in ("OMP_NUM_THREADS", "OPENBLAS_NUM_THREADS", "MKL_NUM_THREADS")}
    return {**os.environ, "PYTHONPATH": str(ROOT / "src"), **threads}


def _child_of_this() -> None:
    """In the child: own session, so that Ctrl-C reaches only the supervisor; ends when the supervisor
    dies.
    """
    os.setsid()
    ctypes.CDLL(None).prctl(1, signal.SIGTERM)  # PR_SET_PDEATHSIG


@dataclass
class Supervisor:
    """All processes over one data folder. start(), then run() until stop()."""

    folders: Folders
    port: int
    node: tuple[int, int, int] | None
    """Ports of the stand-in rig's page, of its sACN and its Art-Net, when it is to run."""
    say: Say
    midi_port: int = 0
    """TCP port on which controllers speak MIDI; 0 for none."""
    children: list[Child] = field(default_factory=list)
    stopping: bool = False
    _lock: object = None

    def prepare(self) -> bool:
        """Check everything before anything is touched; returns whether the data folder is new."""
        check_port(self.port)
        if self.node is not None:
            check_port(self.node[0], what="the stand-in rig's page")
            check_port(self.node[1], socket.SOCK_DGRAM, "the stand-in rig (sACN)")
            check_port(self.node[2], socket.SOCK_DGRAM, "the stand-in rig (Art-Net)")
        new = check_folder(self.folders)
        server.program("mariadbd")
        self.folders.make()
        lock = open(self.folders.run / "lock", "w")  # noqa: SIM115 - held for life
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise CannotStart(f"Fulgura already runs with the data folder {self.folders.data}.") from error
        self._lock = lock
        return new

    def start(self, new: bool) -> None:
        """Start the database and all that does not need it; return when its tables are up to date."""
        folders = self.folders
        if new:
            self.say("Creating the database")
            server.create(folders.database)
            (folders.data / "README.fulgura").write_text(MARK)
        self.say("Starting the database")
        database = self._child("database", server.command(folders.database, folders.database_socket))
        assert database.process is not None
        if self.node is not None:
            page, sacn, art_net = map(str, self.node)
            words = [sys.executable, "-m", "fulgura", "standin", "rig", "--rig", str(folders.rig_file)]
            words += ["--port", page, "--sacn-port", sacn, "--artnet-port", art_net]
            self._child("rig", words)
        self.say("Starting the engine")
        self._child("engine", [sys.executable, "-m", "fulgura.engine", str(folders.data)])
        ports = [str(self.port), str(self.midi_port)]
        self._child("control", [sys.executable, "-m", "fulgura.control", str(folders.data), *ports])
        server.wait_until_ready(folders.database_socket, database.process, folders.data / "database.log")
        for name in migrate(folders.database_socket):
            self.say(f"Prepared tables: {name}")

    def start_desk(self) -> None:
        """Start the web process; return when it answers."""
        self.say("Starting the desk")
        self._child("web", [sys.executable, "-m", "fulgura.web", str(self.folders.data), str(self.port)])
        self._wait_for_desk()

    def _child(self, name: str, command: list[str]) -> Child:
        child = Child(name, command, self.folders.logs / f"{name.replace(' ', '-')}.log")
        child.start()
        self.children.append(child)
        return child

    def _wait_for_desk(self) -> None:
        begun, told = time.monotonic(), False
        while (waited := time.monotonic() - begun) < LONGEST_START_S:
            if waited > LONG_START_S and not told:
                self.say("The desk takes longer than usual on this machine; still waiting for it")
                told = True
            with socket.socket() as probe:
                probe.settimeout(0.5)
                if probe.connect_ex(("127.0.0.1", self.port)) == 0:
                    return
            if self.children[-1].ended:
                raise CannotStart(f"The desk did not start; see {self.children[-1].log}.")
            time.sleep(0.05)
        raise CannotStart(
            f"The desk did not answer within {LONGEST_START_S:.0f} s; see {self.children[-1].log}."
        )

    def run(self) -> None:
        """Watch the children until stop(); a child that ends is started again, slower each time it fails at
        once.
        """
        while not self.stopping:
            for child in self.children:
                if not child.ended or self.stopping:
                    continue
                lived = time.monotonic() - child.started
                child.quick_ends = child.quick_ends + 1 if lived < 5.0 else 0
                if lived < min(0.5 * child.quick_ends, 5.0):
                    continue
                self.say(f"The {child.name} process ended; starting it again")
                child.start()
            time.sleep(0.1)

    def stop(self) -> None:
        """End the children, last started first; the database last and with time to close its files."""
        self.stopping = True
        for child in reversed(self.children):
            _end(child.process, 20.0 if child.name == "database" else 4.0)
        shutil.rmtree(self.folders.run, ignore_errors=True)


def _end(process: subprocess.Popen | None, seconds: float) -> None:
    if process is None or process.poll() is not None:
        return
    process.terminate()
    try:
        process.wait(seconds)
    except subprocess.TimeoutExpired:
        process.kill()
        process.wait()

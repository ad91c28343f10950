"""The supervisor: starts the processes, heals those that die, and ends every one it started, and nothing
else.
"""

import fcntl
import os
import select
import shutil
import socket
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import TextIO

import orjson

from fulgura.alive import ADDRESS, Hearing, Heart
from fulgura.children import Child
from fulgura.folders import Folders
from fulgura.kept_file import put_in_place, sync
from fulgura.store import server
from fulgura.store.connection import migrate

NEEDED_BYTES = 400 * 1024 * 1024
MARK = "fulgura-data-1\n"
WHOLE, BEGUN = "README.fulgura", "README.new"
"""Files that hold the mark: of a whole data folder, and of one whose making was broken off."""
LONG_START_S, LONGEST_START_S = 20.0, 180.0
"""After how long a start is said to take long, and is given up: a cold disk or a busy machine is no reason to
stop a show.
"""
LOOK_S = 0.05
"""Between two looks at the children; one that ends is seen at once."""
STALLED_S = 0.5
"""When this process itself was not awake for so long, the machine slept or was halted: silence means
nothing.
"""
QUICK_S = 5.0
"""What ends sooner than that has failed at once."""
SPARE_AFTER_S = 3.0
"""How long an engine has run when its spare is made ready: not while it starts itself."""
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
    mark = data / WHOLE
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
    if not mark.exists() and (data / BEGUN).is_file():
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
class Supervisor:
    """All processes over one data folder. start(), then run() until stop()."""

    folders: Folders
    port: int
    node: tuple[int, int, int] | None
    """Ports of the stand-in rig's page, of its sACN and its Art-Net, when it is to run."""
    say: Say
    midi_port: int = 0
    """TCP port on which controllers speak MIDI; 0 for none."""
    spare: bool = True
    """Whether a second engine waits for the first one's end."""
    children: list[Child] = field(default_factory=list)
    stopping: bool = False
    _lock: TextIO | None = None
    _hearing: Hearing | None = None

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
        self._hearing = Hearing(folders.alive)
        if new:
            self.say("Creating the database")
            begun = folders.data / BEGUN
            begun.write_text(MARK)
            sync(begun)
            sync(begun.parent)
            shutil.rmtree(folders.database, ignore_errors=True)  # Of a start that was broken off here.
            server.create(folders.database)
            os.sync()  # What the database made is on disk before the mark says that all is whole.
            put_in_place(begun, folders.data / WHOLE)
        self.say("Starting the database")
        database = self._start(
            Child(
                "database",
                server.command(folders.database, folders.database_socket),
                self._log("database"),
                nice=5,
            )
        )
        assert database.process is not None
        if self.node is not None:
            page, sacn, art_net = map(str, self.node)
            words = [sys.executable, "-m", "fulgura", "standin", "rig", "--rig", str(folders.rig_file)]
            words += ["--port", page, "--sacn-port", sacn, "--artnet-port", art_net]
            self._start(Child("rig", words, self._log("rig"), nice=5))
        self.say("Starting the engine")
        self._start(self._ours("engine", "fulgura.engine", limit_s=1.0, spare=self.spare))
        self._start(
            self._ours("control", "fulgura.control", str(self.port), str(self.midi_port), limit_s=3.0)
        )
        server.wait_until_ready(folders.database_socket, database.process, folders.data / "database.log")
        for name in migrate(folders.database_socket):
            self.say(f"Prepared tables: {name}")

    def start_desk(self) -> None:
        """Start the web process; return when it answers."""
        self.say("Starting the desk")
        self._start(self._ours("web", "fulgura.web", str(self.port), limit_s=3.0, nice=2))
        self._wait_for_desk()

    def _ours(
        self, name: str, module: str, *words: str, limit_s: float, nice: int = 0, spare: bool = False
    ) -> Child:
        command = [sys.executable, "-m", module, str(self.folders.data), *words]
        spoken = {ADDRESS: str(self.folders.alive)}
        return Child(name, command, self._log(name), limit_s, nice, spare, spoken)

    def _log(self, name: str) -> Path:
        return self.folders.logs / f"{name}.log"

    def _start(self, child: Child) -> Child:
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
        """Watch the children until stop(): one that ends or hangs is started again, slower each time it
        fails at once.
        """
        itself, looked = Heart(), time.monotonic()
        itself.ready()
        while not self.stopping:
            self._wait()
            now = time.monotonic()
            if now - looked > STALLED_S:
                for child in self.children:
                    child.heard = now if child.heard else 0.0
                    child.started = max(child.started, now)
            looked = now
            for child in self.children:
                if not self.stopping:
                    self._look_after(child, now)
            itself.beat()

    def _wait(self) -> None:
        """Until a child ends, or some milliseconds; hear meanwhile who lives."""
        assert self._hearing is not None
        running = [child.process for child in self.children if child.process is not None]
        watched = []
        try:
            watched = [os.pidfd_open(process.pid) for process in running if process.poll() is None]
        except OSError:
            pass  # It is gone this very moment, which is seen in a moment.
        try:
            select.select(watched, [], [], LOOK_S)
        finally:
            for file in watched:
                os.close(file)
        for process, what, value in self._hearing.heard():
            for child in self.children:
                child.said(process, what, value)

    def _look_after(self, child: Child, now: float) -> None:
        lived = now - child.started
        if child.hangs(now):
            self._tell_healed(child, "hung")
            child.kill()
        elif not child.ended:
            if lived > SPARE_AFTER_S:
                child.keep_spare()
            if lived > QUICK_S:
                child.quick_ends = 0
            return
        else:
            # A quick end is counted once, and waited after: it would end again.
            if lived < min(0.5 * child.quick_ends, QUICK_S):
                return
            self._tell_healed(child, "ended")
        child.quick_ends += lived < QUICK_S
        child.start()

    def _tell_healed(self, child: Child, how: str) -> None:
        """Say it here, and to the desk by a line of a file that it reads."""
        self.say(f"The {child.name} process {how}; starting it again")
        row = {"at": time.time(), "process": child.name, "how": how}
        try:
            with open(self.folders.healed, "ab") as file:
                file.write(orjson.dumps(row) + b"\n")
        except OSError:
            pass  # A disk that is full must not end the one who heals.

    def stop(self) -> None:
        """End the children, last started first; the database last and with time to close its files."""
        self.stopping = True
        for child in reversed(self.children):
            child.end(20.0 if child.name == "database" else 4.0)
        if self._hearing is not None:
            self._hearing.close()
        shutil.rmtree(self.folders.run, ignore_errors=True)
        shutil.rmtree(self.folders.kept_state.parent, ignore_errors=True)

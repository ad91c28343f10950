"""Saving behind the show: steps in order, in a thread of its own. Nothing is lost while the database
is away.
"""

import os
import threading
import time
from collections import deque
from dataclasses import asdict, dataclass

import orjson

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.folders import Folders
from fulgura.store import shows
from fulgura.store.connection import StoreError
from fulgura.store.shows import Revision


@dataclass(frozen=True)
class Save:
    """One step that waits to be saved."""

    show: int
    name: str
    document: str
    head: int
    revision: Revision | None


class Saver:
    """Saves steps in order in a thread of its own; keeps trying, and keeps what waits on disk meanwhile."""

    def __init__(self, folders: Folders) -> None:
        self.folders = folders
        self.waiting: deque[Save] = deque()
        self.changed = threading.Condition()
        self.fault: Fault | None = None
        self.stop = False
        self._recover()
        self.thread = threading.Thread(target=self._run, daemon=True)
        self.thread.start()

    def put(self, save: Save) -> None:
        with self.changed:
            # A drag makes many steps of one revision: the newest stands for all that have not been saved yet.
            if (
                save.revision
                and len(self.waiting) > 1
                and self.waiting[-1].revision
                and self.waiting[-1].show == save.show
                and self.waiting[-1].revision.number == save.revision.number
            ):
                self.waiting.pop()
            self.waiting.append(save)
            self.changed.notify_all()

    def wait(self, seconds: float) -> bool:
        """Wait until all is saved; False when that takes longer."""
        with self.changed:
            return self.changed.wait_for(lambda: not self.waiting, seconds)

    def close(self) -> None:
        self.wait(3.0)
        self.stop = True
        with self.changed:
            self.changed.notify_all()

    def _run(self) -> None:
        while not self.stop:
            with self.changed:
                self.changed.wait_for(lambda: self.waiting or self.stop)
                if not self.waiting:
                    continue
                save = self.waiting[0]
            try:
                shows.save(self.folders.database_socket, **asdict(save) | {"revision": save.revision})
            except Exception as error:
                # Whatever it is, the thread must live on and the edit must not be lost.
                if isinstance(error, StoreError):
                    self.fault = Fault.of(FaultCode.DATABASE_AWAY, words=error)
                else:
                    self.fault = Fault.of(FaultCode.DATABASE_REFUSES, why=error)
                self._keep()
                time.sleep(0.5)
                continue
            with self.changed:
                if self.waiting and self.waiting[0] is save:
                    self.waiting.popleft()
                if not self.waiting:
                    self.fault = None
                    self.folders.unsaved.unlink(missing_ok=True)
                self.changed.notify_all()

    def _keep(self) -> None:
        """Write what waits beside the data, so that even a crash now loses nothing."""
        with self.changed:
            kept = orjson.dumps([asdict(save) for save in self.waiting])
        draft = self.folders.unsaved.with_suffix(".new")
        try:
            draft.write_bytes(kept)
            os.replace(draft, self.folders.unsaved)
        except OSError as error:
            self.fault = Fault.of(FaultCode.NOTHING_KEPT, why=error.strerror)

    def _recover(self) -> None:
        if self.folders.unsaved.exists():
            for row in orjson.loads(self.folders.unsaved.read_bytes()):
                self.waiting.append(
                    Save(**row | {"revision": Revision(**row["revision"]) if row["revision"] else None})
                )

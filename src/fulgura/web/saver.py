"""Saving behind the show: each step goes to the journal before it is answered, and to the database in
batches. Nothing is lost while the database is away, and nobody waits for it.
"""

import threading
import time
from collections import deque
from collections.abc import Callable
from concurrent.futures import Future
from dataclasses import dataclass

import orjson

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.show.document import Show
from fulgura.folders import Folders
from fulgura.store import shows
from fulgura.store.connection import KeptConnection, StoreError
from fulgura.store.journal import Journal
from fulgura.store.shows import Revision, Step, StoredShow
from fulgura.web.replay import replayed

GATHER_S = 1.0
"""Between two batches: what comes meanwhile goes together."""
AGAIN_S = 0.5


@dataclass(frozen=True)
class Save:
    """A step that waits for the database, and the document after it."""

    step: Step
    show: Show


class Saver:
    """Keeps steps in order, on disk at once and then in the database, which it tries for as long as it
    takes.
    """

    def __init__(self, folders: Folders) -> None:
        self.folders = folders
        self.journal = Journal(folders.journal)
        self.waiting: deque[Save] = deque()
        self.changed = threading.Condition()
        self.stop = False
        self.kept: Future[bool] = Future()
        """Whether the newest step is on disk."""
        self.kept.set_result(True)
        self._number = 0
        self._away: Fault | None = None
        self._connection = KeptConnection(folders.database_socket)
        self._thread = threading.Thread(target=self._run, daemon=True, name="saver")

    @property
    def fault(self) -> Fault | None:
        """Why steps are not where they belong."""
        why = self.journal.fault
        if why and self._away is not None:
            return Fault.of(FaultCode.NOTHING_KEPT, why=why)
        return Fault.of(FaultCode.JOURNAL_REFUSES, why=why) if why else self._away

    def recover(self, say: Callable[[str], None]) -> None:
        """Save what the journal has and the database lacks, once the database answers; then begin."""
        while True:
            try:
                with self._connection.transaction() as cursor:
                    self._number = shows.newest_number(cursor)
                break
            except StoreError as error:
                say(f"{error} The show opens as soon as it does.")
                time.sleep(AGAIN_S)
        if self.journal.broken:
            say(f"{self.journal.broken} bytes at the journal's end cannot be read; they are kept beside it.")

        def load(show: int) -> StoredShow | None:
            return shows.load(self.folders.database_socket, show)

        for step, document in replayed(self.journal.left, load, say):
            self._number = max(self._number, step.number)
            self.waiting.append(Save(step, document))
        # Each record of before that is not waiting is in the database already.
        self.journal.cut(len(self.journal.left) - len(self.waiting))
        self._thread.start()

    def put(self, show: int, document: Show, head: int, edit: str, revision: Revision | None) -> None:
        """A step: the edit as JSON text, and the document and its head after it."""
        with self.changed:
            self._number += 1
            step = Step(show, self._number, head, revision)
            self.waiting.append(Save(step, document))
            inverse = revision and {
                "number": revision.number,
                "name": revision.name,
                "inverse": revision.inverse,
            }
            row = {"show": show, "number": step.number, "head": head, "edit": edit, "revision": inverse}
            self.kept = self.journal.add(orjson.dumps(row))
            self.changed.notify_all()

    def wait(self, seconds: float) -> bool:
        """Wait until the database has all; False when that takes longer."""
        with self.changed:
            return self.changed.wait_for(lambda: not self.waiting, seconds)

    def close(self) -> None:
        self.wait(3.0)
        self.stop = True
        with self.changed:
            self.changed.notify_all()
        if self._thread.is_alive():
            self._thread.join(3.0)
        self.journal.close()

    def _run(self) -> None:
        while not self.stop:
            with self.changed:
                self.changed.wait_for(lambda: self.waiting or self.stop)
                batch = list(self.waiting)
            if not batch:
                continue
            try:
                self._save(batch)
            except Exception as error:
                # Whatever it is, the thread must live on and the edit must not be lost.
                if isinstance(error, StoreError):
                    self._away = Fault.of(FaultCode.DATABASE_AWAY, words=error)
                else:
                    self._away = Fault.of(FaultCode.DATABASE_REFUSES, why=error)
                time.sleep(AGAIN_S)
                continue
            with self.changed:
                for _ in batch:
                    self.waiting.popleft()
                self._away = None
                self.changed.notify_all()
            self.journal.cut(len(batch))
            with self.changed:
                self.changed.wait_for(lambda: self.stop, GATHER_S)
        self._connection.close()

    def _save(self, batch: list[Save]) -> None:
        """All in one transaction; of each show only the newest document."""
        newest = {save.step.show: save.show for save in batch}
        texts = {show: document.model_dump_json() for show, document in newest.items()}
        with self._connection.transaction() as cursor:
            for show, document in newest.items():
                steps = [save.step for save in batch if save.step.show == show]
                shows.save(cursor, show, document.name, texts[show], steps)

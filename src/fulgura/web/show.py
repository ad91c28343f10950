"""The open show: edits in memory at once, saved behind, in order. Nothing is lost while the database
is away.
"""

import os
import threading
import time
from collections import deque
from dataclasses import asdict, dataclass
from typing import Literal

import orjson
from pydantic import TypeAdapter

from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, EditError, SetValue, Together, apply
from fulgura.core.show.routes import Preset
from fulgura.folders import Places
from fulgura.store import shows
from fulgura.store.connection import StoreError
from fulgura.store.shows import Revision

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


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

    def __init__(self, places: Places) -> None:
        self.places = places
        self.waiting: deque[Save] = deque()
        self.changed = threading.Condition()
        self.trouble = ""
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
                shows.save(self.places.database_socket, **asdict(save) | {"revision": save.revision})
            except (
                Exception
            ) as error:  # Whatever it is, the thread must live on and the edit must not be lost.
                self.trouble = (
                    str(error)
                    if isinstance(error, StoreError)
                    else f"The database refuses to save ({error})."
                )
                self._keep()
                time.sleep(0.5)
                continue
            with self.changed:
                if self.waiting and self.waiting[0] is save:
                    self.waiting.popleft()
                if not self.waiting:
                    self.trouble = ""
                    self.places.unsaved.unlink(missing_ok=True)
                self.changed.notify_all()

    def _keep(self) -> None:
        """Write what waits beside the data, so that even a crash now loses nothing."""
        with self.changed:
            kept = orjson.dumps([asdict(save) for save in self.waiting])
        draft = self.places.unsaved.with_suffix(".new")
        try:
            draft.write_bytes(kept)
            os.replace(draft, self.places.unsaved)
        except OSError as error:
            self.trouble = (
                f"The database does not answer, and the data folder cannot be written ({error.strerror})."
            )

    def _recover(self) -> None:
        if self.places.unsaved.exists():
            for row in orjson.loads(self.places.unsaved.read_bytes()):
                self.waiting.append(
                    Save(**row | {"revision": Revision(**row["revision"]) if row["revision"] else None})
                )


class OpenShow:
    """The show that is being played and edited."""

    def __init__(self, saver: Saver, stored: shows.StoredShow) -> None:
        self.saver, self.id = saver, stored.id
        self.show = Show.model_validate(stored.document)
        self.head = stored.head
        self.revisions = {revision.number: revision for revision in stored.revisions}
        self.gesture = ""
        self.last: Edit | None = None
        """The change that made this version of the one before."""
        self.aside: dict[str, Preset] = {}
        """What stood at a place before a preset was tried there, for A/B."""
        self.version = 0
        """Counts every change of the document, undo and redo too; tells the engine and the desks what is
        newer.
        """

    @property
    def undo_name(self) -> str:
        return self.revisions[self.head].name if self.head in self.revisions else ""

    @property
    def redo_name(self) -> str:
        return self.revisions[self.head + 1].name if self.head + 1 in self.revisions else ""

    def edit(self, edit: Edit, name: str, gesture: str = "") -> None:
        """Make an edit. Edits of one gesture (one drag) are one step for undo. Raises EditError."""
        show, inverse = apply(self.show, edit)
        last = self.revisions.get(self.head)
        joined = _join(last, edit) if gesture and gesture == self.gesture and last is not None else None
        revision = joined or Revision(self.head + 1, name, _text(edit), _text(inverse))
        self.gesture = gesture
        self.head = revision.number
        self.revisions = {n: r for n, r in self.revisions.items() if n < self.head}
        self.revisions[self.head] = revision
        self._take(show, revision, edit)

    def step(self, direction: Literal["undo", "redo"]) -> str:
        """Undo or redo one step; returns its name. Raises EditError when there is none."""
        revision = self.revisions.get(self.head if direction == "undo" else self.head + 1)
        if revision is None:
            raise EditError(f"There is nothing to {direction}.")
        text = revision.inverse if direction == "undo" else revision.edit
        edit = EDIT.validate_json(text)
        show, _ = apply(self.show, edit)
        self.head += -1 if direction == "undo" else 1
        self.gesture = ""
        self._take(show, None, edit)
        return revision.name

    def _take(self, show: Show, revision: Revision | None, edit: Edit) -> None:
        self.show, self.last = show, edit
        self.version += 1
        self.saver.put(Save(self.id, show.name, show.model_dump_json(), self.head, revision))


def _text(edit: Edit) -> str:
    return EDIT.dump_json(edit).decode()


def _join(last: Revision, edit: Edit) -> Revision | None:
    """The last revision carried on by another edit of the same places; None when they do not match."""
    before = EDIT.validate_json(last.edit)
    same = isinstance(edit, SetValue) and isinstance(before, SetValue) and edit.path == before.path
    if isinstance(edit, Together) and isinstance(before, Together):
        same = [getattr(e, "path", "") for e in edit.edits] == [
            getattr(e, "path", "") for e in before.edits
        ] and all(isinstance(e, SetValue) for e in edit.edits)
    return Revision(last.number, last.name, _text(edit), last.inverse) if same else None

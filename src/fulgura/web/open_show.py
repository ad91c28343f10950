"""The open show: edits in memory at once, saved behind. What was done can be undone, also tomorrow."""

from typing import Literal

from pydantic import TypeAdapter

from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, EditError, SetValue, Together, apply, changed_paths
from fulgura.core.show.migrate import migrate, migrate_edit
from fulgura.core.show.routes import Preset
from fulgura.store import shows
from fulgura.store.shows import KEPT, Revision
from fulgura.web.saver import Saver

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


class OpenShow:
    """The show that is being played and edited."""

    def __init__(self, saver: Saver, stored: shows.StoredShow) -> None:
        self.saver, self.id = saver, stored.id
        self.show = Show.model_validate(migrate(stored.document))
        self.head = stored.head
        self.revisions = {revision.number: _migrated(revision) for revision in stored.revisions}
        self.gesture = ""
        self.since = self.show
        """The show as it was when a cue was recalled or kept last, or when it was opened."""
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
        self.revisions = {n: r for n, r in self.revisions.items() if self.head - KEPT < n < self.head}
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
        if any(path in ("/cue", "/cues") for path in changed_paths(edit)):
            self.since = show
        self.show, self.last = show, edit
        self.version += 1
        self.saver.put(self.id, show, self.head, _text(edit), revision)


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


def _migrated(revision: Revision) -> Revision:
    """A revision of a document of before, in the words of today."""
    edit, inverse = migrate_edit(revision.edit), migrate_edit(revision.inverse)
    return Revision(revision.number, revision.name, edit, inverse)

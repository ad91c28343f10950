"""What the journal has and the database lacks, made again on the documents that the database has."""

from collections.abc import Callable, Iterator, Sequence

import orjson
from pydantic import TypeAdapter

from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, EditError, apply
from fulgura.core.show.migrate import migrate, migrate_edit
from fulgura.store.shows import Revision, Step, StoredShow

EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


def replayed(
    records: Sequence[bytes], load: Callable[[int], StoredShow | None], say: Callable[[str], None]
) -> Iterator[tuple[Step, Show]]:
    """The steps that are not in the database yet, in order, and the document after each.

    A step that cannot be made any more is passed over and said; those after it are made all the same.
    """
    documents: dict[int, Show] = {}
    saved: dict[int, int] = {}
    for row in map(orjson.loads, records):
        show = row["show"]
        if show not in saved:
            stored = load(show)
            saved[show] = stored.journalled if stored is not None else row["number"]
            if stored is None:
                say(f"The journal has a step of show {show}, which is gone.")
                continue
            documents[show] = Show.model_validate(migrate(stored.document))
        if show not in documents or row["number"] <= saved[show]:
            continue
        edit = migrate_edit(row["edit"])
        try:
            documents[show], _ = apply(documents[show], EDIT.validate_json(edit))
        except EditError as error:
            say(f"A step of the journal cannot be made again: {error}")
        made = row["revision"]
        revision = made and Revision(made["number"], made["name"], edit, made["inverse"])
        yield Step(show, row["number"], row["head"], revision), documents[show]

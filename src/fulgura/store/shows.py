"""Shows and their revisions. Every write is one transaction."""

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import orjson
from pymysql.cursors import DictCursor

from fulgura.store.connection import transaction

KEPT, KEPT_DAYS = 500, 90
"""Steps that can be undone: so many, none older."""
OLD = f"created_at < NOW() - INTERVAL {KEPT_DAYS} DAY"


@dataclass(frozen=True)
class Revision:
    """One edit and its way back, as JSON text."""

    number: int
    name: str
    edit: str
    inverse: str


@dataclass(frozen=True)
class StoredShow:
    id: int
    name: str
    document: dict
    head: int
    revisions: list[Revision]
    journalled: int = 0
    """The number of its newest step in the journal that is in it."""


def list_shows(socket: Path) -> list[dict]:
    """All shows, newest change first: id, name, updated_at."""
    with transaction(socket) as cursor:
        cursor.execute("SELECT id, name, updated_at FROM shows ORDER BY updated_at DESC, id DESC")
        # The database says times of this machine without their zone.
        return [{**row, "updated_at": row["updated_at"].astimezone()} for row in cursor.fetchall()]


def create(socket: Path, name: str, document: str) -> int:
    """A new show from a document as JSON text; returns its id."""
    with transaction(socket) as cursor:
        cursor.execute("INSERT INTO shows (name, document) VALUES (%s, %s)", (name, document))
        return cursor.lastrowid


def load(socket: Path, show: int) -> StoredShow | None:
    """A show with its newest revisions in order; None when there is no such show."""
    with transaction(socket) as cursor:
        cursor.execute("SELECT id, name, document, head, journalled FROM shows WHERE id = %s", (show,))
        row = cursor.fetchone()
        if row is None:
            return None
        cursor.execute(
            "SELECT number, name, edit, inverse FROM revisions"
            f" WHERE show_id = %s AND number > %s AND NOT {OLD} ORDER BY number",
            (show, max(0, row["head"] - KEPT)),
        )
        revisions = [Revision(**r) for r in cursor.fetchall()]
    return StoredShow(
        row["id"], row["name"], orjson.loads(row["document"]), row["head"], revisions, row["journalled"]
    )


@dataclass(frozen=True)
class Step:
    """One step of a show that is to be saved: where head is after it, and the revision that it made
    or changed.
    """

    show: int
    number: int
    """In the journal: counts all steps of all shows."""
    head: int
    revision: Revision | None


def save(cursor: DictCursor, show: int, name: str, document: str, steps: Sequence[Step]) -> None:
    """Save steps of one show in one go, within a transaction: the document after them, where head is, and
    their revisions.

    A revision replaces the one with its number and every later one: after an undo, a new edit ends the redo.
    """
    rows: dict[int, Revision] = {}
    for step in steps:
        if step.revision is not None:
            rows = {number: row for number, row in rows.items() if number < step.revision.number}
            rows[step.revision.number] = step.revision
    numbers = [step.revision.number for step in steps if step.revision is not None]
    if numbers:
        cursor.execute("DELETE FROM revisions WHERE show_id = %s AND number >= %s", (show, min(numbers)))
        cursor.executemany(
            "INSERT INTO revisions (show_id, number, name, edit, inverse) VALUES (%s, %s, %s, %s, %s)",
            [(show, row.number, row.name[:120], row.edit, row.inverse) for row in rows.values()],
        )
    cursor.execute(
        "UPDATE shows SET name = %s, document = %s, head = %s, journalled = %s WHERE id = %s",
        (name, document, steps[-1].head, steps[-1].number, show),
    )
    cursor.execute(
        f"DELETE FROM revisions WHERE show_id = %s AND (number <= %s OR {OLD})",
        (show, max(0, steps[-1].head - KEPT)),
    )


def newest_number(cursor: DictCursor) -> int:
    """The number of the newest step that is saved, of all shows."""
    cursor.execute("SELECT COALESCE(MAX(journalled), 0) AS number FROM shows")
    row = cursor.fetchone()
    return int(row["number"]) if row else 0


def get_setting(socket: Path, name: str) -> str | None:
    with transaction(socket) as cursor:
        cursor.execute("SELECT value FROM settings WHERE name = %s", (name,))
        row = cursor.fetchone()
        return row["value"] if row else None


def set_setting(socket: Path, name: str, value: str) -> None:
    with transaction(socket) as cursor:
        cursor.execute("REPLACE INTO settings (name, value) VALUES (%s, %s)", (name, value))

"""Shows and their revisions. Every write is one transaction."""

from dataclasses import dataclass
from pathlib import Path

import orjson

from fulgura.store.connection import transaction

KEPT = 500
"""Revisions that can be undone."""


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


def list_shows(socket: Path) -> list[dict]:
    """All shows, newest change first: id, name, updated_at."""
    with transaction(socket) as cursor:
        cursor.execute("SELECT id, name, updated_at FROM shows ORDER BY updated_at DESC, id DESC")
        return list(cursor.fetchall())


def create(socket: Path, name: str, document: str) -> int:
    """A new show from a document as JSON text; returns its id."""
    with transaction(socket) as cursor:
        cursor.execute("INSERT INTO shows (name, document) VALUES (%s, %s)", (name, document))
        return cursor.lastrowid


def load(socket: Path, show: int) -> StoredShow | None:
    """A show with its newest revisions in order; None when there is no such show."""
    with transaction(socket) as cursor:
        cursor.execute("SELECT id, name, document, head FROM shows WHERE id = %s", (show,))
        row = cursor.fetchone()
        if row is None:
            return None
        cursor.execute(
            "SELECT number, name, edit, inverse FROM revisions WHERE show_id = %s AND number > %s ORDER BY"
            " number",
            (show, max(0, row["head"] - KEPT)),
        )
        revisions = [Revision(**r) for r in cursor.fetchall()]
    return StoredShow(row["id"], row["name"], orjson.loads(row["document"]), row["head"], revisions)


def save(socket: Path, show: int, name: str, document: str, head: int, revision: Revision | None) -> None:
    """Save a step: the document after it, where head is now, and the revision if the step made or changed
    one.

    A revision replaces the one with its number and every later one: after an undo, a new edit ends the redo.
    """
    with transaction(socket) as cursor:
        if revision is not None:
            cursor.execute(
                "DELETE FROM revisions WHERE show_id = %s AND number >= %s", (show, revision.number)
            )
            cursor.execute(
                "INSERT INTO revisions (show_id, number, name, edit, inverse) VALUES (%s, %s, %s, %s, %s)",
                (show, revision.number, revision.name[:120], revision.edit, revision.inverse),
            )
        cursor.execute(
            "UPDATE shows SET name = %s, document = %s, head = %s WHERE id = %s", (name, document, head, show)
        )


def get_setting(socket: Path, name: str) -> str | None:
    with transaction(socket) as cursor:
        cursor.execute("SELECT value FROM settings WHERE name = %s", (name,))
        row = cursor.fetchone()
        return row["value"] if row else None


def set_setting(socket: Path, name: str, value: str) -> None:
    with transaction(socket) as cursor:
        cursor.execute("REPLACE INTO settings (name, value) VALUES (%s, %s)", (name, value))

"""The library of sound files."""

from pathlib import Path

from fulgura.store.connection import transaction


def list_tracks(socket: Path) -> list[dict]:
    """All tracks by title: id, title, seconds, bpm."""
    with transaction(socket) as cursor:
        cursor.execute("SELECT id, title, seconds, bpm FROM tracks ORDER BY title")
        return list(cursor.fetchall())


def put(socket: Path, track: str, title: str, seconds: float, bpm: float | None) -> None:
    """Add a track, or bring its entry up to date."""
    with transaction(socket) as cursor:
        cursor.execute(
            "REPLACE INTO tracks (id, title, seconds, bpm) VALUES (%s, %s, %s, %s)",
            (track, title, seconds, bpm),
        )


def remove(socket: Path, track: str) -> bool:
    """Take a track's entry out; whether there was one."""
    with transaction(socket) as cursor:
        return bool(cursor.execute("DELETE FROM tracks WHERE id = %s", (track,)))

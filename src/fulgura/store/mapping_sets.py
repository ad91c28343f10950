"""Mappings of controllers, kept by the controller's name for every show."""

from pathlib import Path

from fulgura.store.connection import transaction


def keep(socket: Path, controller: str, mappings: str) -> None:
    """Keep a controller's mappings, as JSON text, in place of what was kept of it before."""
    with transaction(socket) as cursor:
        cursor.execute(
            "REPLACE INTO mapping_sets (controller, mappings) VALUES (%s, %s)", (controller, mappings)
        )


def kept(socket: Path, controller: str) -> str | None:
    """What was kept of a controller, as JSON text; None when nothing was."""
    with transaction(socket) as cursor:
        cursor.execute("SELECT mappings FROM mapping_sets WHERE controller = %s", (controller,))
        row = cursor.fetchone()
        return row["mappings"] if row else None


def controllers(socket: Path) -> list[str]:
    """Names of controllers of which something is kept."""
    with transaction(socket) as cursor:
        cursor.execute("SELECT controller FROM mapping_sets ORDER BY controller")
        return [row["controller"] for row in cursor.fetchall()]

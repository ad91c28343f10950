"""Connections to the private MariaDB, and the numbered migrations."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pymysql
from pymysql.cursors import DictCursor

DATABASE = "fulgura"
MIGRATIONS = Path(__file__).parent / "migrations"


AWAY = {1053, 1205, 1213, 1927, 2003, 2006, 2013, 2014, 2055}
"""MariaDB's error codes that pass: shut down, lock waits, lost connections. Any other is a fault of ours."""


class StoreError(RuntimeError):
    """The database cannot be reached or does not do what it was asked; the message is for the performer."""


@contextmanager
def transaction(socket: Path) -> Iterator[DictCursor]:
    """A cursor inside one transaction, on a connection of its own; see KeptConnection."""
    kept = KeptConnection(socket)
    try:
        with kept.transaction() as cursor:
            yield cursor
    finally:
        kept.close()


class KeptConnection:
    """One connection that is opened when it is needed, and again after it was lost."""

    def __init__(self, socket: Path) -> None:
        self.socket = socket
        self._connection: pymysql.Connection | None = None

    @contextmanager
    def transaction(self) -> Iterator[DictCursor]:
        """A cursor inside one transaction: committed at the end, rolled back when anything goes wrong.

        Raises StoreError when the database cannot be reached.
        """
        try:
            connection = self._connection = self._connection or self._connect()
        except pymysql.MySQLError as error:
            raise StoreError("The database does not answer.") from error
        try:
            with connection.cursor() as cursor:
                yield cursor
            connection.commit()
        except pymysql.OperationalError as error:
            self.close()
            if error.args[0] in AWAY:
                raise StoreError("The database broke off.") from error
            raise
        except BaseException:
            self.close()  # What was begun is rolled back.
            raise

    def close(self) -> None:
        if self._connection is None:
            return
        try:
            self._connection.close()
        except pymysql.MySQLError:
            pass
        self._connection = None

    def _connect(self) -> pymysql.Connection:
        return pymysql.connect(
            unix_socket=str(self.socket),
            user="root",
            database=DATABASE,
            charset="utf8mb4",
            cursorclass=DictCursor,
            connect_timeout=3,
            read_timeout=10,
            write_timeout=10,
            autocommit=False,
        )


def migrate(socket: Path) -> list[str]:
    """Create the database if need be and apply the migrations that are missing, in order; returns their
    names.
    """
    with (
        pymysql.connect(unix_socket=str(socket), user="root", connect_timeout=3) as connection,
        connection.cursor() as cursor,
    ):
        cursor.execute(f"CREATE DATABASE IF NOT EXISTS {DATABASE} CHARACTER SET utf8mb4")
    with transaction(socket) as cursor:
        cursor.execute(
            "CREATE TABLE IF NOT EXISTS migrations (name VARCHAR(80) PRIMARY KEY, applied_at TIMESTAMP"
            " DEFAULT CURRENT_TIMESTAMP) ENGINE = InnoDB"
        )
        cursor.execute("SELECT name FROM migrations")
        applied = {row["name"] for row in cursor.fetchall()}
    new = [path for path in sorted(MIGRATIONS.glob("*.sql")) if path.stem not in applied]
    for path in new:
        with transaction(socket) as cursor:
            for statement in _statements(path.read_text()):
                cursor.execute(statement)
            cursor.execute("INSERT INTO migrations (name) VALUES (%s)", (path.stem,))
    return [path.stem for path in new]


def _statements(text: str) -> list[str]:
    lines = [line for line in text.splitlines() if not line.lstrip().startswith("--")]
    return [statement for part in "\n".join(lines).split(";\n") if (statement := part.strip().rstrip(";"))]

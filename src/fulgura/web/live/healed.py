"""Which processes were replaced lately, for the desk: the one who heals writes a line of a file for each."""

import time
from pathlib import Path

import orjson

PARTS = {
    "engine": "The engine",
    "web": "The desk’s server",
    "control": "Controllers’ process",
    "database": "The database",
}
SAID_S = 20.0
"""What is older is no news, also for a process that has just begun."""


class Healed:
    """Reads what is new in the file; costs a look at its size."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self._read = 0

    def new(self) -> list[dict[str, str]]:
        """Title and detail of each process that was replaced since the last call."""
        try:
            size = self.path.stat().st_size
            if size == self._read:
                return []
            with open(self.path, "rb") as file:
                file.seek(self._read if size > self._read else 0)
                lines = file.read().splitlines()
        except OSError:
            return []
        self._read = size
        rows = [orjson.loads(line) for line in lines if line.endswith(b"}")]
        return [told(row) for row in rows if abs(time.time() - row["at"]) < SAID_S]


def told(row: dict[str, object]) -> dict[str, str]:
    """A line of the file in words."""
    part = PARTS.get(str(row["process"]), f"The process “{row['process']}”")
    title = f"{part} hung and was replaced" if row["how"] == "hung" else f"{part} ended and was started again"
    return {"title": title, "detail": "The show goes on. The log says why."}

"""The gates: what is quick and must hold before the long tests begin."""

import os
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from fulgura.folders import ROOT

PYTHON = ("src", "tests", "bench", "training", "harness")
TOOLS = Path(sys.executable).parent
NPM = ("npm", "--prefix", "desk", "run", "--silent")
GATES: dict[str, tuple[str, ...]] = {
    "ruff check": (str(TOOLS / "ruff"), "check", *PYTHON),
    "ruff format": (str(TOOLS / "ruff"), "format", "--check", *PYTHON),
    "import-linter": (str(TOOLS / "lint-imports"),),
    "mypy": (str(TOOLS / "mypy"),),
    "prettier, eslint, stylelint": (*NPM, "lint"),
    "vue-tsc": (*NPM, "check"),
    "vitest": (*NPM, "test"),
}
LONGEST_S = 300


def pass_all(say: Callable[[str], None]) -> bool:
    """Run every gate, two at a time; what one that is shut had to say is told. Whether all are open."""
    began = time.monotonic()
    environment = os.environ | {"PYTHONPATH": str(ROOT / "src"), "NO_COLOR": "1"}
    good = True
    waiting = list(GATES.items())
    while waiting:
        pair, waiting = waiting[:2], waiting[2:]
        running = [
            (
                name,
                subprocess.Popen(
                    words,
                    cwd=ROOT,
                    env=environment,
                    text=True,
                    stdout=subprocess.PIPE,
                    stderr=subprocess.STDOUT,
                ),
            )
            for name, words in pair
        ]
        for name, process in running:
            out, _ = process.communicate(timeout=LONGEST_S)
            if process.returncode:
                good = False
                say(f"{name}:\n{out}")
    say(f"The gates took {time.monotonic() - began:.0f} s")
    return good

"""Lies to a show about its machine: a clock that is set, a disk that keeps nothing. See shim.c."""

import mmap
import os
import shutil
import struct
import subprocess
from pathlib import Path

import pytest

SOURCE = Path(__file__).with_suffix(".c")


class Shim:
    """What starts under its environment believes what is said here. Needs a C compiler; without one the test
    is skipped.
    """

    def __init__(self, folder: Path) -> None:
        compiler = shutil.which("cc") or shutil.which("gcc")
        if compiler is None:
            pytest.skip("no C compiler")
        library, self.path = folder / "shim.so", folder / "shim"
        words = ["-Wall", "-Wextra", "-Werror", "-O2", "-shared", "-fPIC", str(SOURCE), "-o", str(library)]
        subprocess.run([compiler, *words, "-ldl"], check=True)
        self.path.write_bytes(bytes(16))
        with open(self.path, "r+b") as file:
            self._said = mmap.mmap(file.fileno(), 16)
        before = os.environ.get("LD_PRELOAD", "")
        self.ahead_s = 0
        self.environment = {"LD_PRELOAD": f"{library} {before}".strip(), "SHIM": str(self.path)}

    def say(self, ahead_s: int = 0, syncs_fail: bool = False) -> None:
        """By how many seconds the clock is ahead from now on, and whether syncs fail."""
        self.ahead_s = ahead_s
        self._said[:] = struct.pack("qq", ahead_s, syncs_fail)

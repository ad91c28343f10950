"""Files that outlive a power cut: what is said to be there is on disk and whole, or what was before is."""

import os
from pathlib import Path


def put_in_place(draft: Path, target: Path) -> None:
    """A finished draft takes its place, once it is on disk. Raises OSError; then the target is as before."""
    sync(draft)
    draft.replace(target)
    sync(target.parent)


def sync(path: Path) -> None:
    """A file, or which files a folder has, is on disk. Raises OSError."""
    file = os.open(path, os.O_RDONLY)
    try:
        os.fsync(file)
    finally:
        os.close(file)

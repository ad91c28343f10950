"""Measuring on a host that lends its processors to others now and then."""

from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

T = TypeVar("T")


def lent() -> int:
    """Hundredths of a second that this machine's host gave to others since it started (proc(5): steal). What
    it gave away between two readings is in neither program's power, ours nor anybody's.
    """
    return int(Path("/proc/stat").read_text().split("\n", 1)[0].split()[8])


def once_good(measure: Callable[[], T], good: Callable[[T], bool], times: int = 5) -> T:
    """Measure until it is good, so many times at most; what was measured last. What is too slow never is."""
    for _ in range(times - 1):
        if good(found := measure()):
            return found
    return measure()

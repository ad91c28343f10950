"""Measuring on a host that lends its processors to others now and then."""

from collections.abc import Callable
from typing import TypeVar

T = TypeVar("T")


def once_good(measure: Callable[[], T], good: Callable[[T], bool], times: int = 5) -> T:
    """Measure until it is good, so many times at most; what was measured last. What is too slow never is."""
    for _ in range(times - 1):
        if good(found := measure()):
            return found
    return measure()

"""The engine goes before others on its machine."""

import gc
import os
from collections.abc import Iterator
from contextlib import contextmanager

BEHIND = 15
"""How far a spare stands behind others while it loads, as a nice value."""
AHEAD = -10
REAL_TIME = 10
"""Of 1 to 99 (sched(7))."""


def stand_back() -> None:
    """Go behind others, where ``prefer_this_process`` can undo it: real time does not look at nice values."""
    if _in_real_time():
        _as_others()
        os.nice(BEHIND)


def prefer_this_process() -> None:
    """Ask for real-time scheduling, or at least a better priority; go on without where that is not
    allowed.
    """
    try:
        os.setpriority(os.PRIO_PROCESS, 0, AHEAD)
    except OSError:
        pass
    _in_real_time()
    gc.freeze()


@contextmanager
def at_ease() -> Iterator[None]:
    """For what may take longer than a tick: in real time all that long, it would hold up the disk and
    whoever answers on the same processor. What is left of a better priority stays.
    """
    real = os.sched_getscheduler(0) == os.SCHED_RR
    if real:
        _as_others()
    try:
        yield
    finally:
        if real:
            _in_real_time()


def _in_real_time() -> bool:
    """Whether that is allowed."""
    try:
        os.sched_setscheduler(0, os.SCHED_RR, os.sched_param(REAL_TIME))
    except (OSError, AttributeError):
        return False
    return True


def _as_others() -> None:
    os.sched_setscheduler(0, os.SCHED_OTHER, os.sched_param(0))

"""The engine goes before others on its machine."""

import gc
import os

BEHIND = 15
"""How far a spare stands behind others while it loads, as a nice value."""


def stand_back() -> None:
    """Go behind others, where ``prefer_this_process`` can undo it: real time does not look at nice values."""
    try:
        os.sched_setscheduler(0, os.SCHED_RR, os.sched_param(10))
        os.sched_setscheduler(0, os.SCHED_OTHER, os.sched_param(0))
    except (OSError, AttributeError):
        return
    os.nice(BEHIND)


def prefer_this_process() -> None:
    """Ask for real-time scheduling, or at least a better priority; go on without where that is not
    allowed.
    """
    try:
        os.sched_setscheduler(0, os.SCHED_RR, os.sched_param(10))
    except (OSError, AttributeError):
        try:
            os.nice(-10)
        except OSError:
            pass
    gc.freeze()

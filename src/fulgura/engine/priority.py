"""The engine goes before others on its machine."""

import gc
import os


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

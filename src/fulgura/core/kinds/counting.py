"""How shapers tell which hits count."""

from numba import njit

from fulgura.core.arrays import Array

TRIGGER = "Whose hits count; nothing here: those that come in"
NO_TRIGGER = "what comes in"


LN_TWENTIETH = -2.995732273553991
"""ln(1/20)."""


@njit(cache=True)
def counted(hits: int, trigger: float, fallen: Array) -> int:
    """The hits of this tick that count: those that come in, or those of a signal that is named."""
    return fallen[int(trigger)] if trigger >= 0 else hits

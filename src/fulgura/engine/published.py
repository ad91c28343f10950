"""What the engine publishes of what its frames mean."""

import time
from typing import Any

from fulgura.core.performer import Performer


def published(performer: Performer) -> dict[str, Any]:
    """What frames mean, what is drawn by them, and how each output ends."""
    return {
        "layout": performer.layout.model_dump(),
        "plan": performer.plan.model_dump(),
        "pictures": [plan.model_dump() for plan in performer.sending.plans],
        "ends": [end.model_dump() for end in performer.sending.ends],
    }


def named(performer: Performer) -> tuple[int, ...]:
    """By what frames name their layout and their plans, and which ends outputs have."""
    sending = performer.sending
    plans = [plan.id for plan in sending.plans]
    return performer.plan.id, performer.layout.id, sending.version, *plans


def unix_ms(monotonic_s: float) -> float:
    """A moment by the clock that browsers have too."""
    return (time.time() - time.monotonic() + monotonic_s) * 1000.0

"""Faults as the bus carries them."""

from typing import Any

from fulgura.core.kinds.faults import Fault


def told(value: Any) -> Any:
    """Faults as the bus carries them: code, values and words."""
    if isinstance(value, Fault):
        return value.model_dump(mode="json")
    return {key: told(item) for key, item in value.items()} if isinstance(value, dict) else value

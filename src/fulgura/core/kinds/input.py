"""Settings of inputs."""

from typing import ClassVar

from fulgura.core.kinds.registry import Kind


class InputKind(Kind):
    """Settings of an input that the desk makes controls for."""

    family: ClassVar[str] = "input"

"""Learning: which control is meant, and how it says its value, from how it is moved."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from fulgura.core.show.surface import Coding
from fulgura.core.surface.messages import Message

LISTEN_S = 0.35
"""How long a control that moves is listened to before it is said what it is."""
PATIENCE_S = 30.0
STEPS: dict[Coding, set[int]] = {
    "twos": {*range(1, 8), *range(121, 128)},
    "offset": {*range(57, 64), *range(65, 72)},
    "sign": {*range(1, 8), *range(65, 72)},
}
"""What encoders say when they are turned slowly (common practice)."""


def coding_of(heard: Sequence[Message]) -> Coding:
    """How a control says its value. A fader never says the same twice in a row; an encoder that is turned
    does.
    """
    if any(message.fine is not None for message in heard):
        return "fine"
    raws = [int(message.raw) for message in heard if " cc " in message.source]
    again = sum(a == b for a, b in zip(raws, raws[1:]))
    if len(raws) >= 3 and again >= len(raws) // 3:
        for coding, known in STEPS.items():
            if set(raws) <= known:
                return coding
    return "absolute"


@dataclass
class Learning:
    """Waits for a control. wanted: the fields of the mapping that is made."""

    wanted: dict[str, Any]
    asked_s: float
    heard: list[Message] = field(default_factory=list)
    began_s: float = 0.0

    def hear(self, message: Message, now_s: float) -> None:
        """A control said something. What is let go is nothing that was meant; the first that speaks is."""
        if not self.heard:
            if message.down is False:
                return
            self.began_s = now_s
        if not self.heard or message.source == self.heard[0].source:
            self.heard.append(message)

    def over(self, now_s: float) -> bool:
        """Whether nobody has moved anything for so long that nobody will."""
        return not self.heard and now_s - self.asked_s > PATIENCE_S

    def done(self, now_s: float) -> bool:
        """Whether enough was heard: of a press its press, of what moves a little more."""
        if not self.heard:
            return False
        return self.heard[0].down is not None or now_s - self.began_s >= LISTEN_S

    def fields(self) -> dict[str, Any]:
        """The mapping that was learnt."""
        first = self.heard[0]
        return {
            **self.wanted,
            "source": first.source,
            "controller": first.controller,
            "coding": coding_of(self.heard),
        }

"""The way back to the hand."""

from fulgura.core.kinds.action import Action, Stage
from fulgura.core.kinds.parameters import Milliseconds, param


class HandBack(Action):
    """Every value is the hand's again: what is held is let go, and routes act no more."""

    title = "Hand back"

    glide_ms: Milliseconds = param(800.0, 0.0, 10_000.0, "How long it takes", title="Over")

    def press(self, stage: Stage, strength: float) -> None:
        stage.hand_back(self.glide_ms)

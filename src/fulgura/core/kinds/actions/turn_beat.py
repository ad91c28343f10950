"""A hand on the beat."""

from typing import Literal

from fulgura.core.kinds.action import Action, Stage
from fulgura.core.kinds.parameters import param

WHAT = ("now is the one", "half", "double", "sooner", "later", "lock", "hear it anew", "4/4", "3/4", "6/8")


class TurnBeat(Action):
    """Marks the one, halves, doubles, nudges by 10 ms, locks the beat or hears it anew, or changes the
    meter.
    """

    title = "Beat"

    what: Literal[*WHAT] = param("now is the one", help="What it does")  # type: ignore[valid-type]

    def press(self, stage: Stage, strength: float) -> None:
        stage.turn_beat(self.what)

    def release(self, stage: Stage) -> None:
        if self.what == "lock":
            stage.turn_beat("unlock")

    def lit(self, stage: Stage) -> bool:
        return stage.beat_is(self.what)

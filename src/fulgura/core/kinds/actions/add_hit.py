"""A hit by hand."""

from fulgura.core.kinds.action import Action, PlayedRef, Stage
from fulgura.core.kinds.parameters import Ratio, param


class AddHit(Action):
    """Makes a hit of a played signal, which routes can use like any other."""

    title = "Hit"

    played: PlayedRef = param("", help="Which played signal", title="Signal", empty="no signal yet")
    strength: Ratio = param(1.0, help="How strong a full press is")

    def press(self, stage: Stage, strength: float) -> None:
        stage.hit(self.played, self.strength * strength)

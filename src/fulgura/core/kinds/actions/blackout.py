"""Darkness."""

from typing import Literal

from fulgura.core.kinds.action import Action, Stage
from fulgura.core.kinds.parameters import param


class Blackout(Action):
    """Lamps, pictures or both go dark, and come back."""

    usual = "switch"

    what: Literal["all", "lights", "pictures"] = param("all", help="What goes dark")

    def press(self, stage: Stage, strength: float) -> None:
        stage.blackout(self.what, True)

    def release(self, stage: Stage) -> None:
        stage.blackout(self.what, False)

    def lit(self, stage: Stage) -> bool:
        return stage.dark(self.what)

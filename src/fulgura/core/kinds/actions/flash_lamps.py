"""Lamps up."""

from fulgura.core.kinds.action import Action, GroupRef, Stage
from fulgura.core.kinds.parameters import Ratio, param


class FlashLamps(Action):
    """Lamps shine at a level while it is held, in the colours that they have."""

    title = "Flash"
    usual = "hold"

    group: GroupRef = param("", help="Which lamps", title="Lamps", empty="all lamps")
    level: Ratio = param(1.0, help="How bright")

    def press(self, stage: Stage, strength: float) -> None:
        stage.flash(self.group, self.level, True)

    def release(self, stage: Stage) -> None:
        stage.flash(self.group, self.level, False)

    def lit(self, stage: Stage) -> bool:
        return stage.flashes(self.group)

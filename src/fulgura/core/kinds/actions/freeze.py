"""Everything stands still."""

from typing import Literal

from fulgura.core.kinds.action import Action, Stage
from fulgura.core.kinds.parameters import param


class FreezeAll(Action):
    """The picture or the lamps stay as they are; the sound is heard on."""

    title = "Freeze"
    usual = "switch"

    what: Literal["pictures", "lights", "all"] = param("pictures", help="What stands still")

    def press(self, stage: Stage, strength: float) -> None:
        stage.freeze(self.what, True)

    def release(self, stage: Stage) -> None:
        stage.freeze(self.what, False)

    def lit(self, stage: Stage) -> bool:
        return stage.frozen(self.what)

"""A cue."""

from typing import Literal

from fulgura.core.kinds.action import Action, CueRef, Stage
from fulgura.core.kinds.parameters import param

STEPS = {"the next": 1, "the one before": -1, "a certain one": 0}


class GoCue(Action):
    """Goes to a cue: the next of the night, the one before, or a certain one."""

    title = "Cue"

    which: Literal[*STEPS] = param("the next", help="To which cue")  # type: ignore[valid-type]
    cue: CueRef = param("", help="That cue", empty="no cue yet", when=("which", "a certain one"))

    def press(self, stage: Stage, strength: float) -> None:
        step = STEPS[self.which]
        stage.go(self.cue if step == 0 else "", step)

    def lit(self, stage: Stage) -> bool:
        return STEPS[self.which] == 0 and stage.cue_is(self.cue)

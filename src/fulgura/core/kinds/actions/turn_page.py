"""Pages of pads."""

from typing import Literal

from fulgura.core.kinds.action import Action, PageRef, Stage
from fulgura.core.kinds.parameters import param

STEPS = {"the next": 1, "the one before": -1, "a certain one": 0}


class TurnPage(Action):
    """Opens another page of pads and faders."""

    title = "Page"

    which: Literal[*STEPS] = param("the next", help="To which page")  # type: ignore[valid-type]
    page: PageRef = param("", help="That page", empty="no page yet", when=("which", "a certain one"))

    def press(self, stage: Stage, strength: float) -> None:
        step = STEPS[self.which]
        stage.turn_page(self.page if step == 0 else "", step)

    def lit(self, stage: Stage) -> bool:
        return STEPS[self.which] == 0 and stage.page_is(self.page)

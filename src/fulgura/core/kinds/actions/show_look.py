"""Another look."""

from fulgura.core.kinds.action import Action, LookRef, Stage
from fulgura.core.kinds.parameters import Beats, param


class ShowLook(Action):
    """Shows a look, over some beats."""

    title = "Look"

    look: LookRef = param("", help="Which look", empty="no look yet")
    beats: Beats = param(0.0, 0.0, 64.0, "How long it takes to come; 0 is at once", title="Over")

    def press(self, stage: Stage, strength: float) -> None:
        stage.show_look(self.look, self.beats)

    def lit(self, stage: Stage) -> bool:
        return stage.look_is(self.look)

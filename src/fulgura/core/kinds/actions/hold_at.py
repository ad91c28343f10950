"""A live value under the hand."""

from fulgura.core.kinds.action import Action, ParameterRef, Stage
from fulgura.core.kinds.parameters import Colour, Milliseconds, Number, param


class HoldAt(Action):
    """Holds a parameter's live value, whatever else moves it, and gives it back."""

    title = "Hold a value"
    usual = "hold"

    target: ParameterRef = param("", help="Which parameter", title="Parameter", empty="no parameter yet")
    value: Number = param(0.0, -1e6, 1e6, "In the parameter's own unit; of a choice its place from 0 on")
    colour: Colour = param("#ffffff", help="What a colour is held at")
    glide_ms: Milliseconds = param(200.0, 0.0, 60_000.0, "How long it takes to go back", title="Back over")

    def press(self, stage: Stage, strength: float) -> None:
        stage.hold(self.target, self.value, self.colour)

    def release(self, stage: Stage) -> None:
        stage.release(self.target, self.glide_ms)

    def lit(self, stage: Stage) -> bool:
        return stage.holds(self.target)

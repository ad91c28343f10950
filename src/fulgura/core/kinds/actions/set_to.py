"""A hand value."""

from fulgura.core.kinds.action import Action, ParameterRef, Stage
from fulgura.core.kinds.parameters import Colour, Milliseconds, Number, param


class SetTo(Action):
    """Sets the hand value of a parameter; it stays so."""

    title = "Set a value"

    target: ParameterRef = param("", help="Which parameter", title="Parameter", empty="no parameter yet")
    value: Number = param(0.0, -1e6, 1e6, "In the parameter's own unit; of a choice its place from 0 on")
    colour: Colour = param("#ffffff", help="What a colour is set to")
    glide_ms: Milliseconds = param(0.0, 0.0, 60_000.0, "How long it takes to come", title="Over")

    def press(self, stage: Stage, strength: float) -> None:
        stage.set_value(self.target, self.value, self.colour, self.glide_ms)

"""A palette on lamps."""

from fulgura.core.kinds.action import Action, GroupRef, PaletteRef, Stage
from fulgura.core.kinds.parameters import Milliseconds, param


class RecallPalette(Action):
    """Gives a palette to a group of lamps, or to those that it was made from."""

    title = "Palette"

    palette: PaletteRef = param("", help="Which palette", empty="no palette yet")
    group: GroupRef = param(
        "", help="Onto which lamps", title="Onto", empty="the lamps that it was made from"
    )
    glide_ms: Milliseconds = param(0.0, 0.0, 60_000.0, "How long it takes to come", title="Over")

    def press(self, stage: Stage, strength: float) -> None:
        stage.recall_palette(self.palette, self.group, self.glide_ms)

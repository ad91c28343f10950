"""Another palette in use."""

from fulgura.core.kinds.action import Action, PaletteRef, Stage
from fulgura.core.kinds.parameters import Milliseconds, param


class UsePalette(Action):
    """Takes another palette into use: every colour of a picture or a lamp that points at an entry follows."""

    title = "Palette in use"

    palette: PaletteRef = param("", help="Which palette", empty="no palette yet")
    glide_ms: Milliseconds = param(0.0, 0.0, 60_000.0, "How long colours take to get there", title="Over")

    def press(self, stage: Stage, strength: float) -> None:
        stage.use_palette(self.palette, self.glide_ms)

    def lit(self, stage: Stage) -> bool:
        return stage.palette_is(self.palette)

"""A preset."""

from fulgura.core.kinds.action import Action, PresetRef, Stage
from fulgura.core.kinds.parameters import Milliseconds, param


class RecallPreset(Action):
    """Recalls a preset: its values and its routes."""

    title = "Preset"

    preset: PresetRef = param("", help="Which preset", empty="no preset yet")
    glide_ms: Milliseconds = param(0.0, 0.0, 60_000.0, "How long its values take to come", title="Over")

    def press(self, stage: Stage, strength: float) -> None:
        stage.recall_preset(self.preset, self.glide_ms)

    def lit(self, stage: Stage) -> bool:
        return stage.preset_is(self.preset)

"""How much sound moves."""

from fulgura.core.kinds.action import Action, Stage
from fulgura.core.kinds.parameters import Ratio, param


class SoundAmount(Action):
    """How much all routes act; let go, they act whole again."""

    title = "Sound amount"
    usual = "switch"

    amount: Ratio = param(0.0, help="How much they act meanwhile")

    def press(self, stage: Stage, strength: float) -> None:
        stage.sound_amount(self.amount)

    def release(self, stage: Stage) -> None:
        stage.sound_amount(1.0)

    def lit(self, stage: Stage) -> bool:
        return stage.sound_amount_is(self.amount)

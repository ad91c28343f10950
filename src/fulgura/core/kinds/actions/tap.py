"""The tempo by hand."""

from fulgura.core.kinds.action import Action, Stage


class Tap(Action):
    """Taps the tempo: from the third tap on it is held."""

    title = "Tap"

    def press(self, stage: Stage, strength: float) -> None:
        stage.tap()

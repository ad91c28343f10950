"""Traces away."""

from fulgura.core.kinds.action import Action, Stage


class ClearFeedback(Action):
    """Forgets every earlier picture: of trails and feedback only the newest is left."""

    title = "Clear feedback"

    def press(self, stage: Stage, strength: float) -> None:
        stage.clear_feedback()

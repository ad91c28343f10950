"""A chase."""

from fulgura.core.kinds.action import Action, ChaseRef, Stage
from fulgura.core.kinds.parameters import param


class RunChase(Action):
    """Runs a chase on its groups, and stops it."""

    title = "Chase"
    usual = "switch"

    chase: ChaseRef = param("", help="Which chase", empty="no chase yet")

    def press(self, stage: Stage, strength: float) -> None:
        stage.run_chase(self.chase, True)

    def release(self, stage: Stage) -> None:
        stage.run_chase(self.chase, False)

    def lit(self, stage: Stage) -> bool:
        return stage.chase_runs(self.chase)

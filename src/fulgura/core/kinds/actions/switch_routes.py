"""Routes on and off."""

from fulgura.core.kinds.action import Action, RoutesRef, Stage
from fulgura.core.kinds.parameters import param


class SwitchRoutes(Action):
    """Lets some routes act, or none of them: one key for a whole reaction to the sound."""

    title = "Routes on and off"
    usual = "switch"

    routes: RoutesRef = param("", help="Which routes", empty="all routes")

    def press(self, stage: Stage, strength: float) -> None:
        stage.act_routes(self.routes, True)

    def release(self, stage: Stage) -> None:
        stage.act_routes(self.routes, False)

    def lit(self, stage: Stage) -> bool:
        return stage.routes_act(self.routes)

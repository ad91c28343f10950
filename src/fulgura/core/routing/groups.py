"""Parameters of groups of lamps: a route to one of them moves that of every lamp."""

from collections.abc import Mapping

from fulgura.core.routing.indices import ParameterIndex, addressable
from fulgura.core.show.document import Show


def all_indices(show: Show) -> list[ParameterIndex]:
    """All that a route can move: the parameters of a show, and those of its groups of lamps."""
    own = addressable(show)
    by_target = {entry.target: entry for entry in own}
    return own + GroupTargets(show, by_target).entries(by_target)


class GroupTargets:
    """Called with the address of a group's parameter, it gives those of its lamps, in the group's order; none
    for what is no group's.
    """

    def __init__(
        self, show: Show | None = None, by_target: Mapping[str, ParameterIndex] | None = None
    ) -> None:
        self.members: dict[str, list[str]] = {}
        """Group -> ids of the parts of its lamps."""
        self._addresses: dict[str, list[str]] = {}
        if show is None or by_target is None:
            return
        for group in show.groups:
            lamps = show.members(group)
            self.members[group.id] = [lamp.fixture.id for lamp in lamps]
            for lamp in lamps:
                for parameter in lamp.fixture.parameters():
                    target = f"{group.id}.{parameter.name}"
                    if parameter.size and target not in by_target:
                        self._addresses.setdefault(target, []).append(f"{lamp.fixture.id}.{parameter.name}")

    def __call__(self, target: str) -> list[str]:
        return self._addresses.get(target, [])

    def entries(self, by_target: Mapping[str, ParameterIndex]) -> list[ParameterIndex]:
        """All parameters of groups: each stands where that of its first lamp does."""
        return [
            by_target[own[0]].model_copy(
                update={"target": target, "part": target.partition(".")[0], "of": own}
            )
            for target, own in self._addresses.items()
        ]

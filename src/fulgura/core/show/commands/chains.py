"""Shapers are kept under a name and used again."""

from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, SetValue, Together
from fulgura.core.show.routes import Chain, Route


def keep_chain(show: Show, route: Route, name: str) -> tuple[Together, str]:
    """(the edit that keeps a route's shapers under a name, the chain's id)."""
    chain = free_id([chain.id for chain in show.chains], "chain-")
    item = {"id": chain, "name": name, "shapers": [shaper.model_dump() for shaper in route.shapers]}
    return (
        Together(
            edits=[
                AddItem(path="/chains", item=item),
                SetValue(path=f"/routes/{route.id}/chain", value=chain),
            ]
        ),
        chain,
    )


def _chain(show: Show, chain: str) -> Chain:
    found = next((stored for stored in show.chains if stored.id == chain), None)
    if found is None:
        raise EditError("Those saved shapers are not there any more.", f"/chains/{chain}")
    return found


def take_chain(show: Show, route: Route, chain: str) -> Together:
    """The edit that puts a saved chain's shapers in a route. Raises EditError when it is gone."""
    shapers = [shaper.model_dump() for shaper in _chain(show, chain).shapers]
    return Together(
        edits=[
            SetValue(path=f"/routes/{route.id}/shapers", value=shapers),
            SetValue(path=f"/routes/{route.id}/chain", value=chain),
        ]
    )


def users_of(show: Show, chain: str) -> list[Route]:
    """The routes that use a saved chain."""
    return [route for route in show.routes if route.chain == chain]


def with_chain(show: Show, chain: str, route: Route, users: bool) -> Together:
    """The edit that makes a route's shapers the saved chain; its users follow when users is true. Raises
    EditError when it is gone.
    """
    _chain(show, chain)
    shapers = [shaper.model_dump() for shaper in route.shapers]
    edits: list[Edit] = [
        SetValue(path=f"/chains/{chain}/shapers", value=shapers),
        SetValue(path=f"/routes/{route.id}/chain", value=chain),
    ]
    if users:
        edits += [
            SetValue(path=f"/routes/{user.id}/shapers", value=shapers)
            for user in users_of(show, chain)
            if user.id != route.id
        ]
    return Together(edits=edits)

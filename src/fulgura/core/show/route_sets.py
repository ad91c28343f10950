"""Routes that are switched together: all, those of a look, a layer or a part, of a signal, or of a set with
a name.
"""

from fulgura.core.show.document import Show
from fulgura.core.show.looks import Look
from fulgura.core.show.routes import Route


def routes_of(show: Show, routes: str) -> list[Route]:
    """The routes that are meant: empty for all, else "look ID", "layer ID", "part ID", "signal ID" or
    "set NAME". None where that is gone.
    """
    if not routes:
        return show.routes
    kind, _, name = routes.partition(" ")
    if kind == "signal":
        return [route for route in show.routes if route.signal == name]
    if kind == "set":
        return [route for route in show.routes if route.set == name]
    parts = _parts(show.looks, kind, name)
    return [
        route for route in show.routes if any(target.partition(".")[0] in parts for target in route.targets)
    ]


def _parts(looks: list[Look], kind: str, name: str) -> set[str]:
    if kind == "part":
        return {name}
    if kind == "look":
        return {part.id for look in looks if look.id == name for part in look.parts()}
    layers = [layer for look in looks for layer in look.layers if layer.id == name]
    return {part.id for layer in layers for part in layer.parts()}


def routes_title(show: Show, routes: str) -> str:
    """What the desk calls them; empty for what is gone."""
    kind, _, name = routes.partition(" ")
    if not kind:
        return "all routes"
    if kind == "set":
        return f"the routes “{name}”" if routes_of(show, routes) else ""
    named = {
        "look": {look.id: look.name for look in show.looks},
        "layer": {layer.id: layer.name for look in show.looks for layer in look.layers},
    }
    if kind in named:
        title = named[kind].get(name, "")
        return f"the routes of “{title}”" if title else ""
    return f"the routes of “{name}”" if routes_of(show, routes) else ""

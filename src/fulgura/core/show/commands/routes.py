"""Routes are made; several on one parameter are mixed."""

from fulgura.core.kinds.parameters import Parameter
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, SetValue
from fulgura.core.show.routes import MixHow
from fulgura.core.show.signals import SignalKind


def new_route(
    show: Show,
    signal: str,
    kind: SignalKind,
    targets: list[str],
    parameter: Parameter,
    hand: float | str | bool,
) -> tuple[AddItem, str]:
    """(the edit that adds a route, its id): a level is fitted and smoothed, a hit rings out, what is made
    already runs as it is.

    parameter, hand: of the first target. It is moved from its hand value toward the farther end of its range,
    a third of the way; a phase goes the whole range. Several targets take turns.
    """
    shapers = {"hits": ["pulse"], "modulator": [], "phase": []}.get(kind, ["range", "smooth"])
    if len(targets) > 1 and kind == "hits":
        shapers.insert(0, "cycle")
    if parameter.type in ("toggle", "choice"):
        shapers = ["toggle" if parameter.type == "toggle" else "step"] if kind == "hits" else shapers
    low: float | str
    high: float | str
    if parameter.type == "colour":
        low, high = str(hand), "#ffffff"
    elif parameter.type == "choice":
        low, high = 0.0, float(len(parameter.choices) - 1)
    elif parameter.type != "number" or parameter.low is None or parameter.high is None:
        low, high = 0.0, 1.0
    elif kind == "phase":
        low, high = parameter.low, parameter.high
    else:
        low = float(hand)
        far = parameter.high if parameter.high - low >= low - parameter.low else parameter.low
        high = round(low + A_THIRD * (far - low), 4)
    route = free_id([route.id for route in show.routes], "r")
    item = {
        "id": route,
        "signal": signal,
        "targets": targets,
        "low": low,
        "high": high,
        "shapers": [{"id": name, "kind": name} for name in shapers],
    }
    return AddItem(path="/routes", item=item), route


A_THIRD = 1 / 3
"""Of the way that is left: a new route is seen at once, and breaks no picture."""


def mix_by(show: Show, target: str, how: MixHow) -> SetValue:
    """The edit that says how several routes on one parameter become one."""
    return SetValue(path="/mixes", value={**show.mixes, target: how})

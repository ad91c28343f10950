"""Routes are made, led to more and to others, and mixed."""

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from fulgura.core.kinds.parameters import Parameter
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.show.commands.addresses import as_value
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.modulators import new_modulator
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, SetValue, Together
from fulgura.core.show.routes import MOST_TARGETS, MixHow, Route
from fulgura.core.show.signals import SignalKind


@dataclass(frozen=True)
class HeardNow:
    """What is known of a signal when a route is made of it.

    bracket: (its typical quiet, its typical loud) of the last seconds, None while too little was heard;
    beat_s: seconds from one beat to the next.
    """

    bracket: tuple[float, float] | None = None
    beat_s: float = 0.5


LONGEST_SWING, LONGEST_MS, LONGEST_BEATS = 100.0, 10_000.0, 16.0


def _time(ms: float) -> str:
    return f"{ms / 1000.0:g} s" if ms >= 1000.0 else f"{ms:g} ms"


class Wish(BaseModel):
    """What is wanted of a new route beside what usually suits.

    way: each hit goes one step on, of this size as a share of the way; takes a value by chance; or goes to
    the next parameter; colours are the palette's. low, high: its ends, in the parameter's unit. every: of an
    LFO that is made for it, in seconds or beats; 0 for none. rise_ms, rise_beats, fall_ms: how long what
    moves takes up and down; with a rise each hit goes all the way up, and no other disturbs it.
    """

    model_config = ConfigDict(frozen=True, allow_inf_nan=False)

    way: Literal["", "step", "chance", "turns"] = ""
    size: float | None = Field(None, ge=-1.0, le=1.0)
    low: float | None = None
    high: float | None = None
    every: float = Field(0.0, ge=0.0, le=LONGEST_SWING)
    unit: Literal["s", "beats"] = "s"
    rise_ms: float | None = Field(None, ge=0.0, le=LONGEST_MS)
    rise_beats: float | None = Field(None, ge=0.0, le=LONGEST_BEATS)
    fall_ms: float | None = Field(None, ge=0.0, le=LONGEST_MS)

    def says(self) -> str:
        """What is wished, in words.

        >>> Wish(low=0.05, high=0.0, rise_ms=2000.0, way="turns").says()
        'from 0.05 to 0, over 2 s, in turn'
        """
        ends = f"from {self.low:g} " if self.low is not None else ""
        ends += f"to {self.high:g}" if self.high is not None else ""
        rise = f"over {_time(self.rise_ms)}" if self.rise_ms is not None else ""
        step = "a step" if self.size is None else f"{self.size:.3g} of the way"
        ways = {"step": f"{step} at each hit", "chance": "by chance at each hit", "turns": "in turn", "": ""}
        said = [
            f"once in {self.every:g} {self.unit}" if self.every else "",
            ends,
            f"over {self.rise_beats:g} beats" if self.rise_beats is not None else rise,
            f"falling {_time(self.fall_ms)}" if self.fall_ms is not None else "",
            ways[self.way],
        ]
        return ", ".join(words for words in said if words)

    def of(self, kind: SignalKind, parameter: Parameter) -> "Wish":
        """What of it a route of such a signal to such a parameter can be."""
        cut: dict[str, Any] = {}
        rings = kind == "hits" and self.way in ("", "turns") and _last(parameter) == "pulse"
        if kind != "hits":
            cut |= {"way": "", "size": None}
        if not rings:
            cut |= {"rise_beats": None}
        if kind in ("modulator", "phase") or (kind == "hits" and not rings and not self.way):
            cut |= {"rise_ms": None, "fall_ms": None}
        if parameter.type != "number":
            cut |= {"low": None, "high": None}
        return self.model_copy(update=cut)


NOTHING_HEARD, NO_WISH = HeardNow(), Wish()
PICKS = {"step": "the next", "chance": "another"}
"""How a hit takes a colour of the palette in use."""
FALLS_IN_A_BEAT = 8.0
"""A level is smoothed downward with an eighth of a beat: long at rest when the next one falls."""
SLOWEST_FALL_MS, QUICKEST_FALL_MS = 90.0, 30.0


def ends_of(
    kind: SignalKind, parameter: Parameter, hand: float | str | bool
) -> tuple[float | str, float | str]:
    """From where to where a new route moves a parameter that rests at hand: louder is more, and brighter."""
    if parameter.type == "colour":
        return ("#000000", hand) if str(hand).lower() == "#ffffff" else (str(hand), "#ffffff")
    if parameter.type == "choice":
        return 0.0, float(len(parameter.choices) - 1)
    if parameter.type != "number" or parameter.low is None or parameter.high is None:
        return 0.0, 1.0
    if kind == "phase" or (kind == "hits" and parameter.stepped):
        return parameter.low, parameter.high
    return parameter.way_from(float(hand))


def _shapers(
    kind: SignalKind, parameter: Parameter, several: bool, heard: HeardNow, wish: Wish
) -> list[dict[str, Any]]:
    """What such a signal usually wants: a level is fitted and smoothed, a hit rings out, what is made already
    runs as it is. What is wished of hits goes before.
    """
    if kind == "hits":
        return _shapers_of_hits(parameter, several, wish)
    if kind in ("modulator", "phase"):
        return []
    low, high = heard.bracket or (0.0, 1.0)
    fall = min(SLOWEST_FALL_MS, max(QUICKEST_FALL_MS, 1000.0 * heard.beat_s / FALLS_IN_A_BEAT))
    return [
        {"id": "range", "kind": "range", "values": {"low": low, "high": high}},
        _smooth(wish, {"release": round(fall)}),
    ]


def _last(parameter: Parameter) -> str:
    """What hits usually become on the way to such a parameter."""
    if parameter.stepped:
        return "step"
    return {"toggle": "toggle", "choice": "step"}.get(parameter.type, "pulse")


def _smooth(wish: Wish, usual: dict[str, float]) -> dict[str, Any]:
    said = {"attack": wish.rise_ms, "release": wish.fall_ms}
    values = usual | {name: ms for name, ms in said.items() if ms is not None}
    return {"id": "smooth", "kind": "smooth", "values": values}


def _pulse(wish: Wish) -> dict[str, Any]:
    values: dict[str, Any] = {}
    if wish.rise_ms is not None or wish.rise_beats is not None:
        # A slow rise that each hit began anew would never arrive.
        values = {"hold": 0.0, "decay": 0.0, "retrigger": False, "strength": False}
        values |= {"attack": wish.rise_ms or 0.0}
    if wish.rise_beats is not None:
        values |= {"rises": "beats", "attack_beats": wish.rise_beats}
    if wish.fall_ms is not None:
        values |= {"decay": wish.fall_ms}
    return {"id": "pulse", "kind": "pulse", "values": values}


def _shapers_of_hits(parameter: Parameter, several: bool, wish: Wish) -> list[dict[str, Any]]:
    if parameter.type == "colour" and wish.way in ("step", "chance"):
        return [{"id": "pick", "kind": "pick", "values": {"way": PICKS[wish.way]}}]
    if wish.way in ("step", "chance"):
        size = {} if wish.size is None else {"size": wish.size}
        first = (
            {"id": "step", "kind": "step", "values": size}
            if wish.way == "step"
            else {"id": "hold", "kind": "hold", "values": {"takes": "random"}}
        )
        slow = wish.rise_ms is not None or wish.fall_ms is not None
        return [first, *([_smooth(wish, {"release": wish.rise_ms or 0.0})] if slow else [])]
    turns = [{"id": "cycle", "kind": "cycle"}] if several or wish.way == "turns" else []
    last = _last(parameter)
    if last == "pulse":
        return [*turns, _pulse(wish)]
    one = {"values": {"counted": "units", "units": 1.0}} if parameter.stepped else {}
    return [*turns, {"id": last, "kind": last, **one}]


def new_route(
    show: Show,
    signal: str,
    kind: SignalKind,
    targets: list[str],
    parameter: Parameter,
    hand: float | str | bool,
    heard: HeardNow = NOTHING_HEARD,
    wish: Wish = NO_WISH,
) -> tuple[AddItem, str]:
    """(the edit that adds a route, its id).

    parameter, hand: of the first target. Several targets take turns.
    """
    low, high = ends_of(kind, parameter, hand)
    wish = wish.of(kind, parameter)
    if parameter.type == "number":
        low = low if wish.low is None else as_value(parameter, wish.low, "")
        high = high if wish.high is None else as_value(parameter, wish.high, "")
    shapers = _shapers(kind, parameter, len(targets) > 1, heard, wish)
    route = free_id([route.id for route in show.routes], "r")
    item: dict[str, Any] = {
        "id": route,
        "signal": signal,
        "targets": targets,
        "low": low,
        "high": high,
        "shapers": shapers,
    }
    if heard.bracket and any(shaper["kind"] == "range" for shaper in shapers):
        item["fitted"] = heard.bracket
    return AddItem(path="/routes", item=item), route


def _route(show: Show, route: str) -> Route:
    found = next((other for other in show.routes if other.id == route), None)
    if found is None:
        raise EditError(
            "That route is not there any more; another desk may have removed it.", f"/routes/{route}"
        )
    return found


def lead_on(show: Show, route: str, targets: list[str], kind: SignalKind) -> Edit:
    """The edit that leads a route to more parameters. Hits that ring out then take turns. Raises EditError
    when it is gone, or leads to too many.
    """
    found = _route(show, route)
    more = [target for target in targets if target not in found.targets]
    if not more:
        raise EditError("The route moves that already.", f"/routes/{route}/targets")
    if len(found.targets) + len(more) > MOST_TARGETS:
        raise EditError(f"A route moves at most {MOST_TARGETS} parameters.", f"/routes/{route}/targets")
    return SetValue(path=f"/routes/{route}/targets", value=[*found.targets, *more])


def lead_no_more(show: Show, route: str, target: str) -> Edit:
    """The edit that takes one parameter away from a route. Raises EditError for the last one."""
    found = _route(show, route)
    rest = [other for other in found.targets if other != target]
    if len(rest) == len(found.targets):
        raise EditError("The route does not move that any more.", f"/routes/{route}/targets")
    if not rest:
        raise EditError(
            "It is all that this route moves. Remove the route, or exchange what it moves.",
            f"/routes/{route}/targets",
        )
    return SetValue(path=f"/routes/{route}/targets", value=rest)


def in_turn(show: Show, route: str) -> Edit:
    """The edit by which the targets of a route take turns. Raises EditError when they do, or it is gone."""
    found = _route(show, route)
    if any(Shaper.kinds[part.kind].lanes == "turns" for part in found.shapers):
        raise EditError("They take turns already.", f"/routes/{route}/shapers")
    shaper = free_id([part.id for part in found.shapers], "cycle-")
    return Together(
        edits=[
            SetValue(
                path=f"/routes/{route}/shapers",
                value=[
                    {"id": shaper, "kind": "cycle", "family": "shaper"},
                    *(part.model_dump() for part in found.shapers),
                ],
            )
        ]
    )


def exchange(
    show: Show,
    route: str,
    signal: str = "",
    target: str = "",
    by: str = "",
    kind: SignalKind = "level",
    parameter: Parameter | None = None,
    hand: float | str | bool = 0.0,
    heard: HeardNow = NOTHING_HEARD,
) -> Edit:
    """The edit that makes a route hear another signal, or move ``by`` in place of ``target``; its shapers
    stay.

    A range is fitted to the other signal; ends are the other parameter's own, where the first one is
    exchanged for one of another range. Raises EditError when the route is gone.
    """
    found = _route(show, route)
    edits: list[Edit] = []
    if signal:
        edits.append(SetValue(path=f"/routes/{route}/signal", value=signal))
        ranged = next((part for part in found.shapers if part.kind == "range"), None)
        if ranged is not None and heard.bracket:
            edits += fit_edits(found, ranged.id, ("low", "high"), heard.bracket)
    if target and by and parameter is not None:
        if by in found.targets:
            raise EditError("The route moves that already.", f"/routes/{route}/targets")
        targets = [by if other == target else other for other in found.targets]
        edits.append(SetValue(path=f"/routes/{route}/targets", value=targets))
        if found.targets[0] == target:
            low, high = ends_of(kind, parameter, hand)
            edits.append(
                Together(
                    edits=[
                        SetValue(path=f"/routes/{route}/low", value=low),
                        SetValue(path=f"/routes/{route}/high", value=high),
                    ]
                )
            )
    return Together(edits=edits)


def fit_edits(route: Route, shaper: str, names: tuple[str, ...], values: tuple[float, ...]) -> list[Edit]:
    """The edits by which a shaper's edges are what was fitted, and the route says so."""
    base = f"/routes/{route.id}"
    edits: list[Edit] = [
        SetValue(path=f"{base}/shapers/{shaper}/values/{name}", value=min(1.0, max(0.0, value)))
        for name, value in zip(names, values)
    ]
    if len(values) == 2:
        edits.append(SetValue(path=f"{base}/fitted", value=list(values)))
    return edits


def new_swing(show: Show, wish: Wish) -> tuple[AddItem, str]:
    """(the edit that makes the LFO that is wished for, the id of its signal)."""
    edit, modulator = new_modulator(show, "lfo")
    edit.item["part"]["values"] = (
        {"by": "beats", "beats": wish.every}
        if wish.unit == "beats"
        else {"by": "seconds", "rate": 1.0 / wish.every}
    )
    return edit, f"modulator-{modulator}"


def mix_by(show: Show, target: str, how: MixHow) -> SetValue:
    """The edit that says how several routes on one parameter become one."""
    return SetValue(path="/mixes", value={**show.mixes, target: how})

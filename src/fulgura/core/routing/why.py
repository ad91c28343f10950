"""Why not? For every parameter, route and signal that does not move: the reason in words, and the one action
that cures it.
"""

from fulgura.core.kinds.shaper import Shaper
from fulgura.core.routing.facts import Facts, Reason, RouteFacts
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.presets import parts_of
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, RemoveItem, SetValue, Together
from fulgura.core.show.routes import Route

STILL = 0.002
"""What moves less than this share of its way does not move."""
OFTEN = 0.5
"""Clamped for a larger share of the time than this is told of."""


SILENT_DBFS = -60.0


def why_route(show: Show, route: Route, facts: Facts) -> Reason | None:
    """Why a route moves nothing; None when it moves."""
    path, own = f"/routes/{route.id}", facts.routes.get(route.id, RouteFacts())
    if own.trouble:
        return _of_trouble(show, route, own.trouble)
    if route.muted:
        return Reason(text="Muted.", cure="Unmute it", edit=SetValue(path=f"{path}/muted", value=False))
    if not route.solo and any(one.solo for one in show.routes):
        alone = next(one for one in show.routes if one.solo)
        return Reason(
            text="Another route is solo.",
            cure="End solo",
            edit=SetValue(path=f"/routes/{alone.id}/solo", value=False),
        )
    if show.sound_amount == 0.0:
        return Reason(
            text="Sound amount is 0.", cure="Let routes act", edit=SetValue(path="/sound_amount", value=1.0)
        )
    if route.amount == 0.0:
        return Reason(
            text="Its amount is 0.", cure="Amount to 100 %", edit=SetValue(path=f"{path}/amount", value=1.0)
        )
    if route.low == route.high:
        return _no_width(show, route, path)
    if own.peak < STILL:
        heard = why_signal(show, route.signal, facts)
        return (
            heard
            if heard is not None
            else Reason(text="Nothing comes in.", cure="Look in Hear", action="hear")
        )
    for part in route.shapers:
        if not part.on:
            continue
        if part.kind == "range" and own.peak < (least := min(part.values["low"], part.values["high"])):
            return Reason(
                text=f"Peaks at {own.peak:.2f}, below its range from {least:.2f}.",
                cure="Fit the range",
                action=f"fit {part.id}",
            )
        if part.kind == "gate" and own.peak < part.values["threshold"]:
            return Reason(
                text=f"The gate never opened: peak {own.peak:.2f} of {part.values['threshold']:.2f}.",
                cure="Open it at half that",
                edit=SetValue(
                    path=f"{path}/shapers/{part.id}/values/threshold", value=round(own.peak * 0.5, 3)
                ),
            )
        if (
            Shaper.kinds[part.kind].counts_hits
            and not part.values.get("trigger")
            and not _brings_hits(show, route, part.id, facts)
        ):
            return Reason(
                text=f"“{part.kind}” counts hits, and a level has none.",
                cure="Add a gate before it",
                edit=AddItem(
                    path=f"{path}/shapers",
                    item={
                        "id": free_id([s.id for s in route.shapers], "gate-"),
                        "kind": "gate",
                        "values": {"threshold": round(max(0.02, own.peak * 0.5), 3)},
                    },
                    index=[s.id for s in route.shapers].index(part.id),
                ),
            )
        if part.kind == "range" and part.values["low"] == part.values["high"]:
            return Reason(
                text="The range that comes in has no width: it only switches.",
                cure="Fit the range",
                action=f"fit {part.id}",
            )
    if own.clamped > OFTEN:
        return Reason(
            text=f"Its target stood at the end of its range {own.clamped:.0%} of the time.",
            cure="Half its amount",
            edit=SetValue(path=f"{path}/amount", value=round(route.amount / 2, 2)),
        )
    if own.moved < STILL:
        return Reason(
            text="What comes out did not change in the last bar.", cure="Look at its steps", action="open"
        )
    return None


def _brings_hits(show: Show, route: Route, shaper: str, facts: Facts) -> bool:
    before = [
        part.kind for part in route.shapers[: [part.id for part in route.shapers].index(shaper)] if part.on
    ]
    info = facts.signals.get(route.signal)
    hits = info is not None and (
        info.kind == "hits"
        or (
            info.kind == "mover"
            and any(f"mover-{one.id}" == info.id and one.part.kind == "pattern" for one in show.movers)
        )
    )
    return hits or "gate" in before


def _no_width(show: Show, route: Route, path: str) -> Reason:
    text = "Its range has no width."
    if isinstance(route.low, str):
        return Reason(text=text, cure="To white", edit=SetValue(path=f"{path}/high", value="#ffffff"))
    part, _, name = route.targets[0].partition(".")
    found = parts_of(show, "part", part).get(part)
    parameter = next((one for one in found[1].parameters() if one.name == name), None) if found else None
    if parameter is None or parameter.high is None:
        return Reason(text=text)
    far = parameter.high if route.low < parameter.high else parameter.low
    return Reason(text=text, cure="Open it to the end", edit=SetValue(path=f"{path}/high", value=far))


def _of_trouble(show: Show, route: Route, trouble: str) -> Reason:
    path = f"/routes/{route.id}"
    remove = RemoveItem(path=path)
    if "ring" in trouble:
        return Reason(text=trouble, cure="Remove this route", edit=remove)
    if "One of those" in trouble:
        there = {f"{part.id}.{name}" for part in show.parts() for name in part.values}
        return Reason(
            text=trouble,
            cure="Leave it out",
            edit=SetValue(path=f"{path}/targets", value=[t for t in route.targets if t in there]),
        )
    if "too large" in trouble:
        return Reason(
            text=trouble,
            cure="Limit it",
            edit=AddItem(
                path=f"{path}/shapers",
                item={"id": free_id([s.id for s in route.shapers], "range-"), "kind": "range"},
            ),
        )
    if "listens to a signal" in trouble:
        edits: list[Edit] = [
            SetValue(path=f"{path}/shapers/{part.id}/values/{name}", value="")
            for part in route.shapers
            for name in ("trigger", "signal")
            if part.values.get(name)
        ]
        return (
            Reason(text=trouble, cure="Let it listen to what comes in", edit=Together(edits=edits))
            if edits
            else Reason(text=trouble)
        )
    if "two colours" in trouble:
        return Reason(
            text=trouble,
            cure="From black to white",
            edit=Together(
                edits=[
                    SetValue(path=f"{path}/low", value="#000000"),
                    SetValue(path=f"{path}/high", value="#ffffff"),
                ]
            ),
        )
    if "two numbers" in trouble:
        return Reason(
            text=trouble,
            cure="From 0 to 1",
            edit=Together(
                edits=[SetValue(path=f"{path}/low", value=0.0), SetValue(path=f"{path}/high", value=1.0)]
            ),
        )
    return Reason(text=trouble, cure="Remove this route", edit=remove)


def why_signal(show: Show, signal: str, facts: Facts) -> Reason | None:
    """Why a signal rests; None when it does not."""
    info = facts.signals.get(signal)
    if info is None:
        return Reason(text="That signal is gone.")
    if info.kind == "mover":
        mover = next(one for one in show.movers if f"mover-{one.id}" == signal)
        trouble = facts.movers.get(mover.part.id, "")
        if trouble:
            cure = (
                {
                    "cure": "Write it anew",
                    "edit": SetValue(path=f"/movers/{mover.id}/part/values/words", value="low"),
                }
                if mover.part.kind == "sum"
                else {"cure": "Remove it", "edit": RemoveItem(path=f"/movers/{mover.id}")}
            )
            return Reason(text=f"{mover.name}: {trouble}", **cure)
        if mover.part.values.get("once") and not mover.part.values.get("trigger"):
            return Reason(
                text=f"{mover.name} turns once for each hit, but of which signal is not said.",
                cure="Let it turn on and on",
                edit=SetValue(path=f"/movers/{mover.id}/part/values/once", value=False),
            )
        return None if facts.peaks.get(signal, 0.0) >= STILL else Reason(text=f"{mover.name} is at rest.")
    if facts.peaks.get(signal, 0.0) >= STILL:
        return None
    place = next((one for one in show.inputs if one.id == info.input), show.input)
    if facts.troubles.get(place.id):
        return Reason(text=facts.troubles[place.id], cure="Look in Hear", action="hear")
    if place.use == "track" and facts.playing.get(place.id) is False:
        return Reason(
            text="The track is paused.",
            cure="Play it",
            edit=SetValue(path=f"/inputs/{place.id}/track/playing", value=True),
        )
    level = facts.levels_dbfs.get(place.id, -120.0)
    if level < SILENT_DBFS:
        if place.level.floor_dbfs > SILENT_DBFS:
            return Reason(
                text=f"The input is below its floor of {place.level.floor_dbfs:.0f} dBFS.",
                cure="Lower the floor",
                edit=SetValue(path=f"/inputs/{place.id}/level/floor_dbfs", value=-90.0),
            )
        return Reason(
            text=f"Nothing is heard: the input lies at {level:.0f} dBFS.", cure="Look in Hear", action="hear"
        )
    if info.kind == "phase" or info.id.partition("@")[0] == "beat":
        return (
            None
            if facts.sure_of_beat
            else Reason(text="No steady beat is heard yet.", cure="Tap it in Hear", action="hear")
        )
    if info.kind == "hits":
        hit = next((one for one in show.hits if f"hit-{one.id}" == signal), None)
        if hit is not None and hit.threshold == "adaptive" and hit.sensitivity < 1.0:
            return Reason(
                text=f"No {info.name.lower()} was caught lately.",
                cure="Catch softer ones",
                edit=SetValue(
                    path=f"/hits/{hit.id}/sensitivity", value=round(min(1.0, hit.sensitivity + 0.15), 2)
                ),
            )
        return Reason(text=f"No {info.name.lower()} was caught lately.", cure="Look in Hear", action="hear")
    return Reason(text=f"{info.name} is silent while the input sounds.", cure="Look in Hear", action="hear")


def why_parameter(show: Show, target: str, facts: Facts) -> list[Reason]:
    """Why a parameter does not move; empty when it does."""
    part = target.partition(".")[0]
    found = parts_of(show, "part", part)
    if not found:
        return [Reason(text="That is not there any more.")]
    path = found[part][0]
    reasons: list[Reason] = []
    if target in facts.held:
        reasons.append(Reason(text="A hand holds it.", cure="Give it back", action="give-back"))
    routes = [route for route in show.routes if target in route.targets]
    if not routes:
        return [
            *reasons,
            Reason(
                text="Nothing moves it: it stays at your hand value.",
                cure="Choose a signal",
                action="connect",
            ),
        ]
    told = {route.id: reason for route in routes if (reason := why_route(show, route, facts)) is not None}
    if len(told) == len(routes):
        reasons += told.values()
    if path.startswith("/looks/"):
        look = path.split("/")[2]
        if look != show.look:
            reasons.append(
                Reason(
                    text="Its look is not the one that is shown.",
                    cure="Show it",
                    edit=SetValue(path="/look", value=look),
                )
            )
        layer = next(
            (
                one
                for one in next(one for one in show.looks if one.id == look).layers
                if f"/layers/{one.id}/" in path
            ),
            None,
        )
        if layer is not None and not layer.visible:
            reasons.append(
                Reason(
                    text="Its layer is hidden.",
                    cure="Show the layer",
                    edit=SetValue(path=f"/looks/{look}/layers/{layer.id}/visible", value=True),
                )
            )
        if not found[part][1].on:
            reasons.append(
                Reason(
                    text="It is switched off.",
                    cure="Switch it on",
                    edit=SetValue(path=f"{path}/on", value=True),
                )
            )
    if path.startswith("/lamps/") and show.blackout:
        reasons.append(
            Reason(
                text="Blackout holds all lamps dark.",
                cure="End blackout",
                edit=SetValue(path="/blackout", value=False),
            )
        )
    return reasons

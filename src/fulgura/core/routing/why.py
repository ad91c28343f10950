"""Why not? For every parameter, route and signal that does not move: the reason in words, and the one action
that cures it.
"""

from collections.abc import Callable

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.routing.telemetry import Reason, RouteTelemetry, Telemetry
from fulgura.core.routing.why_lamp import group_targets, why_lamp
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.commands.presets import parts_of
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, RemoveItem, SetValue, Together
from fulgura.core.show.inputs import Input
from fulgura.core.show.part import Part
from fulgura.core.show.routes import NamedModulator, Route

STILL = 0.002
"""What moves less than this share of its way does not move."""
OFTEN = 0.5
"""Clamped for a larger share of the time than this is told of."""


SILENT_DBFS = -60.0


def why_route(show: Show, route: Route, telemetry: Telemetry) -> Reason | None:
    """Why a route moves nothing; None when it moves."""
    own = telemetry.routes.get(route.id, RouteTelemetry())
    if own.fault:
        return _of_fault(show, route, own.fault)
    held = _held_back(show, route)
    if held is not None:
        return held
    if own.peak < STILL:
        silent = Reason(text="Nothing comes in.", cure="Look in Hear", action="hear")
        return why_signal(show, route.signal, telemetry) or silent
    for part in route.shapers:
        reason = _of_step(show, route, part, own, telemetry) if part.on else None
        if reason is not None:
            return reason
    if own.clamped > OFTEN:
        return Reason(
            text=f"Its target stood at the end of its range {own.clamped:.0%} of the time.",
            cure="Half its amount",
            edit=SetValue(path=f"/routes/{route.id}/amount", value=round(route.amount / 2, 2)),
        )
    if own.moved < STILL:
        text = "What comes out did not change in the last bar."
        return Reason(text=text, cure="Look at its steps", action="open")
    return None


def _held_back(show: Show, route: Route) -> Reason | None:
    """What someone chose that keeps a route from acting."""
    path = f"/routes/{route.id}"
    if route.muted:
        return Reason(text="Muted.", cure="Unmute it", edit=SetValue(path=f"{path}/muted", value=False))
    alone = next((route for route in show.routes if route.solo), None)
    if alone is not None and not route.solo:
        edit = SetValue(path=f"/routes/{alone.id}/solo", value=False)
        return Reason(text="Another route is solo.", cure="End solo", edit=edit)
    if show.sound_amount == 0.0:
        edit = SetValue(path="/sound_amount", value=1.0)
        return Reason(text="Sound amount is 0.", cure="Let routes act", edit=edit)
    if route.amount == 0.0:
        edit = SetValue(path=f"{path}/amount", value=1.0)
        return Reason(text="Its amount is 0.", cure="Amount to 100 %", edit=edit)
    return _no_width(show, route, path) if route.low == route.high else None


def _of_step(
    show: Show, route: Route, part: Part, own: RouteTelemetry, telemetry: Telemetry
) -> Reason | None:
    """Why nothing comes out of one step of a route."""
    path = f"/routes/{route.id}/shapers"
    fit = {"cure": "Fit the range", "action": "fit", "shaper": part.id}
    if part.kind == "range" and own.peak < (least := min(part.values["low"], part.values["high"])):
        return Reason(text=f"Peaks at {own.peak:.2f}, below its range from {least:.2f}.", **fit)
    if part.kind == "gate" and own.peak < part.values["threshold"]:
        return Reason(
            text=f"The gate never opened: peak {own.peak:.2f} of {part.values['threshold']:.2f}.",
            cure="Open it at half that",
            edit=SetValue(path=f"{path}/{part.id}/values/threshold", value=round(own.peak * 0.5, 3)),
        )
    counts = Shaper.kinds[part.kind].counts_hits and not part.values.get("trigger")
    if counts and not _brings_hits(show, route, part.id, telemetry):
        ids = [shaper.id for shaper in route.shapers]
        gate = {
            "id": free_id(ids, "gate-"),
            "kind": "gate",
            "values": {"threshold": round(max(0.02, own.peak * 0.5), 3)},
        }
        return Reason(
            text=f"“{part.kind}” counts hits, and a level has none.",
            cure="Add a gate before it",
            edit=AddItem(path=path, item=gate, index=ids.index(part.id)),
        )
    if part.kind == "range" and part.values["low"] == part.values["high"]:
        return Reason(text="The range that comes in has no width: it only switches.", **fit)
    return None


def _brings_hits(show: Show, route: Route, shaper: str, telemetry: Telemetry) -> bool:
    before = [
        part.kind for part in route.shapers[: [part.id for part in route.shapers].index(shaper)] if part.on
    ]
    info = telemetry.signals.get(route.signal)
    hits = info is not None and (
        info.kind == "hits"
        or (
            info.kind == "modulator"
            and any(
                f"modulator-{modulator.id}" == info.id and modulator.part.kind == "pattern"
                for modulator in show.modulators
            )
        )
    )
    return hits or "gate" in before


def _no_width(show: Show, route: Route, path: str) -> Reason:
    text = "Its range has no width."
    if isinstance(route.low, str):
        return Reason(text=text, cure="To white", edit=SetValue(path=f"{path}/high", value="#ffffff"))
    part, _, name = route.targets[0].partition(".")
    found = parts_of(show, "part", part).get(part)
    parameter = (
        next((parameter for parameter in found[1].parameters() if parameter.name == name), None)
        if found
        else None
    )
    if parameter is None or parameter.high is None:
        return Reason(text=text)
    far = parameter.high if route.low < parameter.high else parameter.low
    return Reason(text=text, cure="Open it to the end", edit=SetValue(path=f"{path}/high", value=far))


def _of_fault(show: Show, route: Route, fault: Fault) -> Reason:
    """The reason of a route's fault, with the cure that its code has."""
    cure = CURES.get(fault.code, _remove)(show, route)
    if cure is None:
        return Reason(text=fault.text)
    words, edit = cure
    return Reason(text=fault.text, cure=words, edit=edit)


Cure = tuple[str, Edit] | None
"""What the button says and does; None where nothing cures it."""


def _remove(show: Show, route: Route) -> Cure:
    return "Remove this route", RemoveItem(path=f"/routes/{route.id}")


def _leave_out(show: Show, route: Route) -> Cure:
    there = {f"{part.id}.{name}" for part in show.owners() for name in part.values}
    left = [target for target in route.targets if target in there]
    return "Leave it out", SetValue(path=f"/routes/{route.id}/targets", value=left)


def _limit(show: Show, route: Route) -> Cure:
    shaper = {"id": free_id([s.id for s in route.shapers], "range-"), "kind": "range"}
    return "Limit it", AddItem(path=f"/routes/{route.id}/shapers", item=shaper)


def _listen_to_what_comes_in(show: Show, route: Route) -> Cure:
    edits: list[Edit] = [
        SetValue(path=f"/routes/{route.id}/shapers/{part.id}/values/{name}", value="")
        for part in route.shapers
        for name in ("trigger", "signal")
        if part.values.get(name)
    ]
    return ("Let it listen to what comes in", Together(edits=edits)) if edits else None


def _between(words: str, low: float | str, high: float | str) -> Callable[[Show, Route], Cure]:
    def cure(show: Show, route: Route) -> Cure:
        ends = (("low", low), ("high", high))
        edits: list[Edit] = [SetValue(path=f"/routes/{route.id}/{end}", value=value) for end, value in ends]
        return words, Together(edits=edits)

    return cure


CURES: dict[FaultCode, Callable[[Show, Route], Cure]] = {
    FaultCode.SOME_TARGET_GONE: _leave_out,
    FaultCode.TOO_LARGE: _limit,
    FaultCode.SHAPER_SIGNAL_GONE: _listen_to_what_comes_in,
    FaultCode.NEEDS_COLOURS: _between("From black to white", "#000000", "#ffffff"),
    FaultCode.NEEDS_NUMBERS: _between("From 0 to 1", 0.0, 1.0),
}
"""What cures a route of a fault; one that stands not here is removed."""


def why_signal(show: Show, signal: str, telemetry: Telemetry) -> Reason | None:
    """Why a signal rests; None when it does not."""
    info = telemetry.signals.get(signal)
    if info is None:
        return Reason(text="That signal is gone.")
    if info.kind == "modulator":
        return _why_modulator(show, signal, telemetry)
    if telemetry.peaks.get(signal, 0.0) >= STILL:
        return None
    of_input = _why_input(
        next((audio_input for audio_input in show.inputs if audio_input.id == info.input), show.input),
        telemetry,
    )
    if of_input is not None:
        return of_input
    hear = {"cure": "Look in Hear", "action": "hear"}
    if info.kind == "phase" or info.id.partition("@")[0] == "beat":
        unsure = Reason(text="No steady beat is heard yet.", cure="Tap it in Hear", action="hear")
        return None if telemetry.sure_of_beat else unsure
    if info.kind != "hits":
        return Reason(text=f"{info.name} is silent while the input sounds.", **hear)
    text = f"No {info.name.lower()} was caught lately."
    hit = next((hit for hit in show.hits if f"hit-{hit.id}" == signal), None)
    if hit is None or hit.threshold != "adaptive" or hit.sensitivity >= 1.0:
        return Reason(text=text, **hear)
    keener = round(min(1.0, hit.sensitivity + 0.15), 2)
    edit = SetValue(path=f"/hits/{hit.id}/sensitivity", value=keener)
    return Reason(text=text, cure="Catch softer ones", edit=edit)


def _why_modulator(show: Show, signal: str, telemetry: Telemetry) -> Reason | None:
    modulator = next(modulator for modulator in show.modulators if f"modulator-{modulator.id}" == signal)
    path = f"/modulators/{modulator.id}"
    fault = telemetry.modulators.get(modulator.part.id)
    if fault is not None:
        reason = of_modulator_fault(modulator, fault)
        return reason.model_copy(update={"text": f"{modulator.name}: {reason.text}"})
    if modulator.part.values.get("once") and not modulator.part.values.get("trigger"):
        return Reason(
            text=f"{modulator.name} turns once for each hit, but of which signal is not said.",
            cure="Let it turn on and on",
            edit=SetValue(path=f"{path}/part/values/once", value=False),
        )
    moves = telemetry.peaks.get(signal, 0.0) >= STILL
    return None if moves else Reason(text=f"{modulator.name} is at rest.")


def of_modulator_fault(modulator: NamedModulator, fault: Fault) -> Reason:
    """The reason of a modulator's fault, with its cure."""
    path = f"/modulators/{modulator.id}"
    if modulator.part.kind == "formula":
        anew = SetValue(path=f"{path}/part/values/words", value="low")
        return Reason(text=fault.text, cure="Write it anew", edit=anew)
    return Reason(text=fault.text, cure="Remove it", edit=RemoveItem(path=path))


def _why_input(heard: Input, telemetry: Telemetry) -> Reason | None:
    """Why nothing comes from an input at all."""
    hear = {"cure": "Look in Hear", "action": "hear"}
    fault = telemetry.faults.get(heard.id)
    if fault is not None:
        return Reason(text=fault.text, **hear)
    if heard.use == "track" and telemetry.playing.get(heard.id) is False:
        edit = SetValue(path=f"/inputs/{heard.id}/track/playing", value=True)
        return Reason(text="The track is paused.", cure="Play it", edit=edit)
    level = telemetry.levels_dbfs.get(heard.id, -120.0)
    if level >= SILENT_DBFS:
        return None
    floor = heard.level.floor_dbfs
    if floor > SILENT_DBFS:
        edit = SetValue(path=f"/inputs/{heard.id}/level/floor_dbfs", value=-90.0)
        text = f"The input is below its floor of {floor:.0f} dBFS."
        return Reason(text=text, cure="Lower the floor", edit=edit)
    return Reason(text=f"Nothing is heard: the input lies at {level:.0f} dBFS.", **hear)


def why_parameter(show: Show, target: str, telemetry: Telemetry) -> list[Reason]:
    """Why a parameter does not move; empty when it does."""
    part = target.partition(".")[0]
    found = parts_of(show, "part", part)
    if not found:
        return [Reason(text="That is not there any more.")]
    path, own = found[part][:2]
    reasons: list[Reason] = []
    if target in telemetry.overridden:
        reasons.append(Reason(text="A hand holds it.", cure="Give it back", action="give-back"))
    of_lamps = path.startswith(("/lamps/", "/groups/"))
    if of_lamps:
        reasons += why_lamp(show, path, target.partition(".")[2], telemetry)
    addresses = {target, *(group_targets(show, path, target) if of_lamps else ())}
    routes = [route for route in show.routes if addresses & set(route.targets)]
    if not routes:
        text = "Nothing moves it: it stays at your hand value."
        return [*reasons, Reason(text=text, cure="Choose a signal", action="connect")]
    told = {route.id: reason for route in routes if (reason := why_route(show, route, telemetry)) is not None}
    if len(told) == len(routes):
        reasons += told.values()
    if isinstance(own, Part) and path.startswith("/looks/"):
        reasons += _unseen(show, path, own)
    dark = ("all", "lights") if of_lamps else ("all", "pictures")
    if show.blackout in dark and (of_lamps or path.startswith("/looks/")):
        what = "lamps" if of_lamps else "pictures"
        edit = SetValue(path="/blackout", value="off")
        reasons.append(Reason(text=f"Blackout holds all {what} dark.", cure="End blackout", edit=edit))
    return reasons


def _unseen(show: Show, path: str, part: Part) -> list[Reason]:
    """Why a part of a look is not to be seen. path: its own."""
    reasons = []
    look = next(look for look in show.looks if look.id == path.split("/")[2])
    if look.id != show.look:
        edit = SetValue(path="/look", value=look.id)
        text = "Its look is not the one that is shown."
        reasons.append(Reason(text=text, cure="Show it", edit=edit))
    layer = next((layer for layer in look.layers if f"/layers/{layer.id}/" in path), None)
    if layer is not None and not layer.visible:
        edit = SetValue(path=f"/looks/{look.id}/layers/{layer.id}/visible", value=True)
        reasons.append(Reason(text="Its layer is hidden.", cure="Show the layer", edit=edit))
    if not part.on:
        edit = SetValue(path=f"{path}/on", value=True)
        reasons.append(Reason(text="It is switched off.", cure="Switch it on", edit=edit))
    return reasons

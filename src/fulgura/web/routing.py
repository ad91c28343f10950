"""Resources of routes, movers, chains and presets: joining, fitting, keeping, and why a thing does
not move.
"""

import asyncio
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.modulator import Mover
from fulgura.core.routing.facts import Reason
from fulgura.core.routing.fit import arriving, fit_range, fit_threshold
from fulgura.core.routing.slots import Slot, slots
from fulgura.core.routing.typed import understand
from fulgura.core.routing.why import why_parameter, why_route, why_signal
from fulgura.core.show.commands import presets as keeping
from fulgura.core.show.commands.chains import keep_chain, take_chain, users_of, with_chain
from fulgura.core.show.commands.modulators import new_mover
from fulgura.core.show.commands.routes import mix_by, new_route
from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, EditError, SetValue, Together
from fulgura.core.show.part import Name, Part
from fulgura.core.show.routes import MixHow, Preset, Route, Scope
from fulgura.core.show.signals import SignalInfo, signals
from fulgura.web.common import AHub, AnOpenShow, Created, Edited, make
from fulgura.web.problems import Problem, Refused

api = APIRouter(
    prefix="/api/v1", responses={422: {"model": Problem}, 404: {"model": Problem}, 503: {"model": Problem}}
)


class NewRoute(BaseModel):
    signal: str = Field(max_length=60)
    targets: list[Annotated[str, Field(max_length=120)]] = Field(min_length=1, max_length=64)


class Meaning(BaseModel):
    """A route that may be meant by what was typed."""

    signal: str
    signal_name: str
    target: str
    target_name: str


class Fitted(BaseModel):
    """What was there, and what was fitted to the last ten seconds."""

    shaper: str
    before: list[float]
    after: list[float]


class Mixed(BaseModel):
    target: str = Field(max_length=120)
    how: MixHow


class NewMover(BaseModel):
    kind: str = Field(max_length=40)
    name: str = Field("", max_length=80)


class NewChain(BaseModel):
    route: str = Field(max_length=60)
    name: Name


class ChainUse(BaseModel):
    """route: the one whose shapers the chain becomes; users: whether the others that use it follow."""

    route: str = Field(max_length=60)
    users: bool = False


class Place(BaseModel):
    scope: Scope
    place: str = Field(max_length=120)


class NewPreset(Place):
    name: Name


class Recall(BaseModel):
    """place: another one of the same kind, or its own when empty; the glides say how long live values take to
    get there.
    """

    place: str = Field("", max_length=120)
    glide_ms: float = Field(0.0, ge=0, le=60_000)
    glide_beats: float = Field(0.0, ge=0, le=64)


class KeptPreset(BaseModel):
    """chosen: it was recalled last; changed: what stands there is not what it holds any more; trouble: why it
    cannot be recalled; aside: A/B holds what stood there before.
    """

    id: str
    name: str
    scope: Scope
    place: str
    chosen: bool
    changed: bool
    trouble: str = ""
    aside: bool = False


def part_names(show: Show) -> dict[str, str]:
    """Part id -> what the desk calls it. A second one of a kind is called by where it is, too: “Swell
    feedback”.
    """
    names: dict[str, str] = {}
    taken: set[str] = set()

    def note(part: Part, name: str = "", where: str = "") -> None:
        kind = part.kind_class
        title = name or kind.title or kind.__name__
        names[part.id] = f"{where} {title.lower()}" if where and title in taken else title
        taken.add(title)

    for look in show.looks:
        for layer in look.layers:
            for part in (layer.source, *layer.effects):
                note(part, where=layer.name)
            note(layer.mix, layer.name)
        for part in look.finish:
            note(part, where=look.name)
    note(show.crossing)
    for lamp in show.lamps:
        note(lamp.fixture, lamp.name)
    for mover in show.movers:
        note(mover.part, mover.name)
    return names


def _route(show: Show, route: str) -> Route:
    found = next((one for one in show.routes if one.id == route), None)
    if found is None:
        raise Refused(404, "No such route", "It may have been removed.")
    return found


def _joined(show: Show, signal: str, targets: list[str]) -> tuple[SignalInfo, list[Slot]]:
    heard = next((one for one in signals(show) if one.id == signal), None)
    by_target = {one.target: one for one in slots(show)}
    if (
        heard is None
        or any(target not in by_target for target in targets)
        or len({by_target[target].parameter.type == "colour" for target in targets}) > 1
    ):
        raise Refused(422, "They cannot be joined", "Choose a signal, and a parameter that it can move.")
    return heard, [by_target[target] for target in targets]


@api.post("/routes", status_code=201)
async def add_route(wanted: NewRoute, show: AnOpenShow, hub: AHub) -> Created:
    """Join a signal to a parameter, or to several that take turns, with the shapers that such a signal
    usually wants.
    """
    heard, moved = _joined(show.show, wanted.signal, wanted.targets)
    hand = next(
        part.values[moved[0].parameter.name] for part in show.show.parts() if part.id == moved[0].part
    )
    edit, route = new_route(
        show.show, heard.id, heard.kind, [slot.target for slot in moved], moved[0].parameter, hand
    )
    await make(hub, show, edit, "New route")
    return Created(id=route)


@api.get("/routes/understood")
async def understood(text: Annotated[str, Query(max_length=200)], show: AnOpenShow) -> list[Meaning]:
    """Which routes may be meant by a few words, the likeliest first."""
    heard, moved, names = signals(show.show), slots(show.show), part_names(show.show)
    heard_names, moved_names = (
        {one.id: one.name for one in heard},
        {one.target: f"{names[one.part]} · {one.parameter.title.lower()}" for one in moved},
    )
    return [
        Meaning(
            signal=one.signal,
            signal_name=heard_names[one.signal],
            target=one.target,
            target_name=moved_names[one.target],
        )
        for one in understand(text, heard, moved, names)
    ]


@api.put("/mixes")
async def mix(wanted: Mixed, show: AnOpenShow, hub: AHub) -> Edited:
    """How several routes on one parameter become one."""
    return await make(hub, show, mix_by(show.show, wanted.target, wanted.how), "Mix of routes")


@api.post("/routes/{route}/shapers/{shaper}/fit")
async def fit(route: str, shaper: str, show: AnOpenShow, hub: AHub) -> Fitted:
    """Fit a range to what came in during the last ten seconds (5th to 95th percentile), or a gate between
    small and large peaks.
    """
    one = _route(show.show, route)
    part = next((part for part in one.shapers if part.id == shaper), None)
    if part is None or part.kind not in ("range", "gate"):
        raise Refused(404, "Nothing to fit there", "Only a range or a gate can be fitted.")
    values, hits, order = hub.signals_lately()
    if len(values) < FRAME_RATE or one.signal not in order:
        raise Refused(422, "Too little was heard", "Let it play for a few seconds, then fit again.")
    came = await asyncio.to_thread(arriving, one, shaper, values, hits, order, 1.0 / FRAME_RATE)
    names = ("low", "high") if part.kind == "range" else ("threshold",)
    before = [float(part.values[name]) for name in names]
    found = fit_range(came) if part.kind == "range" else fit_threshold(came)
    if found is None:
        raise Refused(
            422,
            "Nothing to fit to",
            (
                "Hardly anything moved in the last ten seconds."
                if part.kind == "range"
                else "There were too few peaks, or all were alike."
            ),
        )
    after = list(found) if isinstance(found, tuple) else [found]
    await make(
        hub,
        show,
        Together(
            edits=[
                SetValue(
                    path=f"/routes/{route}/shapers/{shaper}/values/{name}", value=min(1.0, max(0.0, value))
                )
                for name, value in zip(names, after)
            ]
        ),
        f"Fit {part.kind}",
    )
    return Fitted(shaper=shaper, before=before, after=after)


@api.post("/movers", status_code=201)
async def add_mover(wanted: NewMover, show: AnOpenShow, hub: AHub) -> Created:
    """Make a signal: an LFO, an envelope, a pattern, a fader or an expression."""
    if wanted.kind not in Mover.kinds:
        raise Refused(422, "No such mover", f"There are {', '.join(Mover.kinds)}.")
    edit, mover = new_mover(show.show, wanted.kind, wanted.name)
    await make(hub, show, edit, "New mover")
    return Created(id=mover)


@api.post("/chains", status_code=201)
async def add_chain(wanted: NewChain, show: AnOpenShow, hub: AHub) -> Created:
    """Keep a route's shapers under a name."""
    edit, chain = keep_chain(show.show, _route(show.show, wanted.route), wanted.name)
    await make(hub, show, edit, "Keep shapers")
    return Created(id=chain)


@api.post("/chains/{chain}/take")
async def use_chain(chain: str, wanted: ChainUse, show: AnOpenShow, hub: AHub) -> Edited:
    """Put a saved chain's shapers in a route."""
    return await make(
        hub, show, take_chain(show.show, _route(show.show, wanted.route), chain), "Take shapers"
    )


@api.get("/chains/{chain}/users")
async def chain_users(chain: str, show: AnOpenShow) -> list[str]:
    """Ids of the routes that use a saved chain."""
    return [route.id for route in users_of(show.show, chain)]


@api.put("/chains/{chain}")
async def change_chain(chain: str, wanted: ChainUse, show: AnOpenShow, hub: AHub) -> Edited:
    """Make a route's shapers the saved chain; the routes that use it follow when that is wanted."""
    return await make(
        hub,
        show,
        with_chain(show.show, chain, _route(show.show, wanted.route), wanted.users),
        "Change saved shapers",
    )


def _kept(show: AnOpenShow, preset: Preset) -> KeptPreset:
    trouble = ""
    try:
        if keeping.kind_of(show.show, preset.scope, preset.place) != preset.kind:
            trouble = "What it belongs to is another kind of thing now."
    except EditError:
        trouble = "What it belongs to is not there any more."
    chosen = show.show.chosen.get(f"{preset.scope} {preset.place}") == preset.id
    return KeptPreset(
        id=preset.id,
        name=preset.name,
        scope=preset.scope,
        place=preset.place,
        chosen=chosen,
        changed=chosen and keeping.differs(show.show, preset),
        trouble=trouble,
        aside=preset.id in show.aside,
    )


@api.get("/presets")
async def presets(
    show: AnOpenShow, scope: Scope | None = None, place: Annotated[str, Query(max_length=120)] = ""
) -> list[KeptPreset]:
    """Presets of a place, or all. A place's first is always its hand values alone."""
    rows = [
        _kept(show, preset)
        for preset in show.show.presets
        if scope is None or (preset.scope == scope and preset.place == place)
    ]
    if scope is None:
        return rows
    key = f"{scope} {place}"
    hand = KeptPreset(
        id=keeping.HAND_ONLY,
        name="Hand only",
        scope=scope,
        place=place,
        chosen=show.show.chosen.get(key) == keeping.HAND_ONLY,
        changed=False,
    )
    hand.changed = hand.chosen and bool(keeping.taken(show.show, scope, place).routes)
    # Presets of the same kind of thing can be carried over.
    kind = keeping.kind_of(show.show, scope, place)
    others = [
        _kept(show, preset)
        for preset in show.show.presets
        if preset.scope == scope and preset.place != place and preset.kind == kind
    ]
    return [hand, *rows, *others]


@api.post("/presets", status_code=201)
async def add_preset(wanted: NewPreset, show: AnOpenShow, hub: AHub) -> Created:
    """Keep what stands at a place: its values and what moves them."""
    edit, preset = keeping.keep(show.show, wanted.scope, wanted.place, wanted.name)
    await make(hub, show, edit, "Keep preset")
    return Created(id=preset)


@api.put("/presets/{preset}")
async def update_preset(preset: str, show: AnOpenShow, hub: AHub) -> Edited:
    """Make a preset what stands at its place now."""
    return await make(hub, show, keeping.update(show.show, preset), "Update preset")


@api.delete("/presets/{preset}")
async def remove_preset(preset: str, show: AnOpenShow, hub: AHub) -> Edited:
    """Take a preset away."""
    keeping.find(show.show, preset)
    return await make(hub, show, keeping.remove(preset), "Remove preset")


@api.post("/presets/{preset}/recall")
async def recall_preset(preset: str, wanted: Recall, show: AnOpenShow, hub: AHub) -> Edited:
    """Recall a preset, at its place or at another of the same kind; at once or with a glide."""
    found = keeping.find(show.show, preset)
    show.aside.pop(preset, None)
    return await make(
        hub,
        show,
        keeping.recall(show.show, found, wanted.place),
        f"Recall {found.name}",
        glide_ms=wanted.glide_ms,
        glide_beats=wanted.glide_beats,
    )


@api.post("/presets/hand-only")
async def recall_hand(wanted: Place, show: AnOpenShow, hub: AHub) -> Edited:
    """Take away whatever moves a place: its hand values alone."""
    return await make(
        hub, show, keeping.hand_only(show.show, wanted.scope, wanted.place), "Hand only", glide_ms=400.0
    )


@api.post("/presets/{preset}/compare")
async def compare(preset: str, show: AnOpenShow, hub: AHub) -> Edited:
    """A/B: from what stands there to the preset, and at the next call back."""
    found = keeping.find(show.show, preset)
    aside = show.aside.pop(preset, None)
    if aside is not None:
        edit: Edit = keeping.recall(show.show, aside)
    else:
        show.aside[preset] = keeping.taken(show.show, found.scope, found.place)
        edit = keeping.recall(show.show, found)
    return await make(hub, show, edit, f"Compare {found.name}")


@api.get("/why/{what}/{address}")
async def why(
    what: Literal["route", "parameter", "signal"], address: str, show: AnOpenShow, hub: AHub
) -> list[Reason]:
    """Why a thing does not move, with what cures it; empty when it moves."""
    facts = hub.facts()
    if what == "parameter":
        return why_parameter(show.show, address, facts)
    reason = (
        why_route(show.show, _route(show.show, address), facts)
        if what == "route"
        else why_signal(show.show, address, facts)
    )
    return [] if reason is None else [reason]

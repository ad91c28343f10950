"""Routes: joined, mixed, fitted."""

import asyncio
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.routing.fit import LEAST_WIDTH, arriving, fit_range, fit_threshold, fit_typical
from fulgura.core.routing.groups import all_indices
from fulgura.core.routing.indices import ParameterIndex
from fulgura.core.routing.typed import understand
from fulgura.core.show.commands.routes import (
    NO_WISH,
    HeardNow,
    Wish,
    exchange,
    fit_edits,
    in_turn,
    lead_no_more,
    lead_on,
    mix_by,
    new_route,
    new_swing,
)
from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, Together, apply
from fulgura.core.show.names import all_names
from fulgura.core.show.routes import MOST_TARGETS, MixHow
from fulgura.core.show.settings import setting_of
from fulgura.core.show.signals import SignalInfo, signals
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit, find_route
from fulgura.web.live.session import Session
from fulgura.web.problems import Refused

router = APIRouter()


Address = Annotated[str, Field(max_length=120)]


LEAST_HEARD = 3 * FRAME_RATE
"""Frames from which what is typical of a signal is known; before, its floor and its peak are taken."""


class NewRoute(BaseModel):
    signal: str = Field(max_length=60)
    targets: list[Address] = Field(min_length=1, max_length=MOST_TARGETS)
    wish: Wish = NO_WISH


class MoreTargets(BaseModel):
    targets: list[Address] = Field(min_length=1, max_length=MOST_TARGETS)


class Exchanged(BaseModel):
    """What takes another's place: a signal, or a parameter."""

    signal: str = Field("", max_length=60)
    target: str = Field("", max_length=120)
    by: str = Field("", max_length=120)


class Meaning(BaseModel):
    """A route that may be meant by what was typed. signal: empty for an LFO that is made for it."""

    signal: str
    signal_name: str
    target: str
    target_name: str
    wish: Wish
    wish_says: str
    look: str
    """The name of the look that it belongs to, where that is not shown."""


class Fitted(BaseModel):
    """What was there, and what was fitted to the last ten seconds."""

    shaper: str
    before: list[float]
    after: list[float]


class Mixed(BaseModel):
    target: str = Field(max_length=120)
    how: MixHow


def _hand(show: Show, entry: ParameterIndex) -> float | str | bool:
    """Where a parameter rests; one of a group's, where that of its first lamp does."""
    first = (entry.of or [entry.target])[0].partition(".")[0]
    holder = setting_of(show, first) or next(part for part in show.parts() if part.id == first)
    hand: float | str | bool = holder.values[entry.parameter.name]
    return hand


async def _heard(session: Session, signal: str) -> HeardNow:
    """What was heard of a signal lately."""
    history, layout = session.history.copy(), session.engine.layout
    values, _, order = await asyncio.to_thread(history.signals, layout)
    beat_s = session.beat_s
    if signal not in order:
        return HeardNow(beat_s=beat_s)
    if len(values) < LEAST_HEARD:
        peak = float(values[:, order[signal]].max(initial=0.0))
        return HeardNow((0.0, peak) if peak > LEAST_WIDTH else None, beat_s)
    return HeardNow(fit_typical(values[:, order[signal]], values[:, order["beat-phase"]]), beat_s)


def _joined(show: Show, signal: str, targets: list[str]) -> tuple[SignalInfo, list[ParameterIndex]]:
    heard = next((info for info in signals(show) if info.id == signal), None)
    by_target = {entry.target: entry for entry in all_indices(show)}
    if (
        heard is None
        or any(target not in by_target for target in targets)
        or len({by_target[target].parameter.type == "colour" for target in targets}) > 1
    ):
        raise Refused(422, "They cannot be joined", "Choose a signal, and a parameter that it can move.")
    return heard, [by_target[target] for target in targets]


@router.post("/routes", status_code=201)
async def add_route(wanted: NewRoute, session: OpenSession) -> Created:
    """Join a signal to a parameter, or to several that take turns, with the shapers that such a signal
    usually wants.
    """
    if not wanted.wish.every:
        _joined(session.show, wanted.signal, wanted.targets)
    lately = await _heard(session, wanted.signal)
    # Asked again: another desk may have edited while the past was looked into.
    show, signal, made = session.show, wanted.signal, list[Edit]()
    if wanted.wish.every:
        swing, signal = new_swing(show, wanted.wish)
        show, made = apply(show, swing)[0], [swing]
    heard, moved = _joined(show, signal, wanted.targets)
    first, targets = moved[0], [entry.target for entry in moved]
    hand = _hand(show, first)
    edit, route = new_route(show, heard.id, heard.kind, targets, first.parameter, hand, lately, wanted.wish)
    await commit(session, Together(edits=[*made, edit]), f"Route {heard.name}")
    return Created(id=route)


@router.post("/routes/{route}/targets", status_code=201)
async def lead(route: str, wanted: MoreTargets, session: OpenSession) -> EditAnswer:
    """Lead a route to more parameters."""
    found = find_route(session.show, route)
    heard, _ = _joined(session.show, found.signal, [*found.targets, *wanted.targets])
    return await commit(session, lead_on(session.show, route, wanted.targets, heard.kind), "Moves more")


@router.delete("/routes/{route}/targets")
async def leave(route: str, target: Address, session: OpenSession) -> EditAnswer:
    """Take one parameter away from a route that moves several."""
    find_route(session.show, route)
    return await commit(session, lead_no_more(session.show, route, target), "Moves less")


@router.put("/routes/{route}/turns")
async def take_turns(route: str, session: OpenSession) -> EditAnswer:
    """Have the parameters of a route take turns."""
    find_route(session.show, route)
    return await commit(session, in_turn(session.show, route), "In turn")


@router.put("/routes/{route}/ends")
async def exchange_end(route: str, wanted: Exchanged, session: OpenSession) -> EditAnswer:
    """Exchange what a route hears, or one of what it moves; its shapers stay."""
    found = find_route(session.show, route)
    lately = await _heard(session, wanted.signal) if wanted.signal else HeardNow()
    rest = [wanted.by if target == wanted.target else target for target in found.targets]
    show = session.show
    heard, moved = _joined(show, wanted.signal or found.signal, rest)
    entry = next((entry for entry in moved if entry.target == wanted.by), None)
    edit = exchange(
        show,
        route,
        wanted.signal,
        wanted.target,
        wanted.by,
        heard.kind,
        entry.parameter if entry else None,
        _hand(show, entry) if entry else 0.0,
        lately,
    )
    return await commit(session, edit, "Other signal" if wanted.signal else "Moves another")


@router.get("/routes/understood")
async def understood(text: Annotated[str, Query(max_length=200)], session: OpenSession) -> list[Meaning]:
    """Which routes may be meant by a few words, the likeliest first."""
    show = session.show
    heard, moved, names = signals(show), all_indices(show), all_names(show)
    looks = {part.id: look.name for look in show.looks if look.id != show.look for part in look.parts()}
    heard_names, moved_names = (
        {signal.id: signal.name for signal in heard},
        {entry.target: f"{names[entry.part]} · {entry.parameter.title.lower()}" for entry in moved},
    )
    return [
        Meaning(
            signal=guess.signal,
            signal_name=heard_names.get(guess.signal, "A new LFO"),
            target=guess.target,
            target_name=moved_names[guess.target],
            wish=guess.wish,
            wish_says=guess.wish.says(),
            look=looks.get(guess.target.partition(".")[0], ""),
        )
        for guess in understand(text, heard, moved, names, looks)
    ]


@router.put("/mixes")
async def mix(wanted: Mixed, session: OpenSession) -> EditAnswer:
    """How several routes on one parameter become one."""
    return await commit(session, mix_by(session.show, wanted.target, wanted.how), "Mix of routes")


@router.post("/routes/{route}/shapers/{shaper}/fit")
async def fit(route: str, shaper: str, session: OpenSession) -> Fitted:
    """Fit a range to what came in during the last ten seconds (5th to 95th percentile), or a gate between
    small and large peaks.
    """
    wanted = find_route(session.show, route)
    part = next((part for part in wanted.shapers if part.id == shaper), None)
    if part is None or not Shaper.kinds[part.kind].fits:
        raise Refused(404, "Nothing to fit there", "Only a range or a gate can be fitted.")
    history, layout = session.history.copy(), session.engine.layout
    values, hits, order = await asyncio.to_thread(history.signals, layout)
    if len(values) < FRAME_RATE or wanted.signal not in order:
        raise Refused(422, "Too little was heard", "Let it play for a few seconds, then fit again.")
    came = await asyncio.to_thread(arriving, wanted, shaper, values, hits, order, 1.0 / FRAME_RATE)
    names = Shaper.kinds[part.kind].edges
    before = [float(part.values[name]) for name in names]
    found = fit_range(came) if len(names) == 2 else fit_threshold(came)
    if found is None:
        raise Refused(
            422,
            "Nothing to fit to",
            (
                "Hardly anything moved in the last ten seconds."
                if len(names) == 2
                else "There were too few peaks, or all were alike."
            ),
        )
    after = list(found) if isinstance(found, tuple) else [found]
    await commit(
        session, Together(edits=fit_edits(wanted, shaper, tuple(names), tuple(after))), f"Fit {part.kind}"
    )
    return Fitted(shaper=shaper, before=before, after=after)

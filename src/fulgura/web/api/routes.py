"""Routes: joined, mixed, fitted."""

import asyncio
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from fulgura.core.clock import FRAME_RATE
from fulgura.core.kinds.shaper import Shaper
from fulgura.core.routing.fit import arriving, fit_range, fit_threshold
from fulgura.core.routing.groups import all_indices
from fulgura.core.routing.indices import ParameterIndex
from fulgura.core.routing.typed import understand
from fulgura.core.show.commands.routes import mix_by, new_route
from fulgura.core.show.document import Show
from fulgura.core.show.edits import SetValue, Together
from fulgura.core.show.names import part_names
from fulgura.core.show.routes import MixHow
from fulgura.core.show.signals import SignalInfo, signals
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit, find_route
from fulgura.web.problems import Refused

router = APIRouter()


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
    heard, moved = _joined(session.show, wanted.signal, wanted.targets)
    # A group's parameter rests where that of its first lamp does.
    first = (moved[0].of or [moved[0].target])[0].partition(".")[0]
    hand = next(part.values[moved[0].parameter.name] for part in session.show.parts() if part.id == first)
    edit, route = new_route(
        session.show, heard.id, heard.kind, [entry.target for entry in moved], moved[0].parameter, hand
    )
    await commit(session, edit, "New route")
    return Created(id=route)


@router.get("/routes/understood")
async def understood(text: Annotated[str, Query(max_length=200)], session: OpenSession) -> list[Meaning]:
    """Which routes may be meant by a few words, the likeliest first."""
    heard, moved, names = signals(session.show), all_indices(session.show), part_names(session.show)
    heard_names, moved_names = (
        {signal.id: signal.name for signal in heard},
        {entry.target: f"{names[entry.part]} · {entry.parameter.title.lower()}" for entry in moved},
    )
    return [
        Meaning(
            signal=guess.signal,
            signal_name=heard_names[guess.signal],
            target=guess.target,
            target_name=moved_names[guess.target],
        )
        for guess in understand(text, heard, moved, names)
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
        session,
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

"""Presets: kept, recalled, compared, carried over."""

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.show.commands import presets as keeping
from fulgura.core.show.commands.addresses import parameter_at
from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, EditError
from fulgura.core.show.part import LONGEST_NAME
from fulgura.core.show.routes import Preset, Scope
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit
from fulgura.web.live.session import Session

router = APIRouter()


class PresetOwner(BaseModel):
    """What presets belong to. address: of the parameter, or the id of the part, layer or look."""

    scope: Scope
    address: str = Field(max_length=120)


class NewPreset(PresetOwner):
    """name: without one it is named by what moves it, or by where it stands."""

    name: str = Field("", max_length=LONGEST_NAME)


class PresetRecall(BaseModel):
    """address: another one of the same kind, or its own when empty; the glides say how long live values take
    to get there.
    """

    address: str = Field("", max_length=120)
    glide_ms: float = Field(0.0, ge=0, le=60_000)
    glide_beats: float = Field(0.0, ge=0, le=64)


class KeptPreset(BaseModel):
    """chosen: it was recalled last; changed: what stands there is not what it holds any more; fault: why it
    cannot be recalled; aside: A/B holds what stood there before.
    """

    id: str
    name: str
    scope: Scope
    address: str
    chosen: bool
    changed: bool
    fault: Fault | None = None
    aside: bool = False


def _kept(session: Session, preset: Preset) -> KeptPreset:
    fault = None
    try:
        if keeping.kind_of(session.show, preset.scope, preset.address) != preset.kind:
            fault = Fault.of(FaultCode.PRESET_OTHER_KIND)
    except EditError:
        fault = Fault.of(FaultCode.PRESET_PLACE_GONE)
    chosen = session.show.chosen.get(f"{preset.scope} {preset.address}") == preset.id
    return KeptPreset(
        id=preset.id,
        name=preset.name,
        scope=preset.scope,
        address=preset.address,
        chosen=chosen,
        changed=chosen and keeping.differs(session.show, preset),
        fault=fault,
        aside=preset.id in session.opened.aside,
    )


def _same_unit(show: Show, first: str, second: str) -> bool:
    """Whether two parameters count in the same: what fits an opacity is no use for an angle."""
    one, other = parameter_at(show, first), parameter_at(show, second)
    return one is not None and other is not None and one.unit == other.unit


@router.get("/presets")
async def presets(
    session: OpenSession, scope: Scope | None = None, address: Annotated[str, Query(max_length=120)] = ""
) -> list[KeptPreset]:
    """Presets of a address, or all. A place's first is always its hand values alone."""
    rows = [
        _kept(session, preset)
        for preset in session.show.presets
        if scope is None or (preset.scope == scope and preset.address == address)
    ]
    if scope is None:
        return rows
    key = f"{scope} {address}"
    hand = KeptPreset(
        id=keeping.HAND_ONLY,
        name="Hand only",
        scope=scope,
        address=address,
        chosen=session.show.chosen.get(key) == keeping.HAND_ONLY,
        changed=False,
    )
    hand.changed = hand.chosen and bool(keeping.taken(session.show, scope, address).routes)
    # Presets of the same kind of thing can be carried over.
    kind = keeping.kind_of(session.show, scope, address)
    others = [
        _kept(session, preset)
        for preset in session.show.presets
        if preset.scope == scope
        and preset.address != address
        and preset.kind == kind
        and (scope != "parameter" or _same_unit(session.show, preset.address, address))
    ]
    return [hand, *rows, *others]


@router.post("/presets", status_code=201)
async def add_preset(wanted: NewPreset, session: OpenSession) -> Created:
    """Keep what stands at a address: its values and what moves them."""
    edit, preset = keeping.keep(session.show, wanted.scope, wanted.address, wanted.name)
    await commit(session, edit, "Keep preset")
    return Created(id=preset)


@router.put("/presets/{preset}")
async def update_preset(preset: str, session: OpenSession) -> EditAnswer:
    """Make a preset what stands at its address now."""
    return await commit(session, keeping.update(session.show, preset), "Update preset")


@router.delete("/presets/{preset}")
async def remove_preset(preset: str, session: OpenSession) -> EditAnswer:
    """Take a preset away."""
    keeping.find(session.show, preset)
    return await commit(session, keeping.remove(preset), "Remove preset")


@router.post("/presets/{preset}/recall")
async def recall_preset(preset: str, wanted: PresetRecall, session: OpenSession) -> EditAnswer:
    """Recall a preset, at its address or at another of the same kind; at once or with a glide."""
    found = keeping.find(session.show, preset)
    session.opened.aside.pop(preset, None)
    return await commit(
        session,
        keeping.recall(session.show, found, wanted.address),
        f"Recall {found.name}",
        glide_ms=wanted.glide_ms,
        glide_beats=wanted.glide_beats,
    )


@router.post("/presets/hand-only")
async def recall_hand(wanted: PresetOwner, session: OpenSession) -> EditAnswer:
    """Take away whatever moves a address: its hand values alone."""
    return await commit(
        session, keeping.hand_only(session.show, wanted.scope, wanted.address), "Hand only", glide_ms=400.0
    )


@router.post("/presets/{preset}/compare")
async def compare(preset: str, session: OpenSession) -> EditAnswer:
    """A/B: from what stands there to the preset, and at the next call back."""
    found = keeping.find(session.show, preset)
    aside = session.opened.aside.pop(preset, None)
    if aside is not None:
        edit: Edit = keeping.recall(session.show, aside)
    else:
        session.opened.aside[preset] = keeping.taken(session.show, found.scope, found.address)
        edit = keeping.recall(session.show, found)
    return await commit(session, edit, f"Compare {found.name}")

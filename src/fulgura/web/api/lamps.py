"""Lamps: hung, addressed, exchanged, placed, set, parked, taken down."""

from typing import Any

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from fulgura.core.lights.colour import reached
from fulgura.core.lights.compile import answer_curve
from fulgura.core.show.commands import lamps as rig
from fulgura.core.show.commands.rig_places import Arrangement, View, arrange, placed
from fulgura.core.show.edits import EditError
from fulgura.core.show.part import AAnswer
from fulgura.core.show.patch import clashes, read_address, switches
from fulgura.web.api.dependencies import EditAnswer, OpenSession, commit

router = APIRouter()
Ids = list[str]


class NewLamps(BaseModel):
    """name: # stands for the number; at: the first address, as “2.17”, empty for behind the last lamp; gap:
    channels between; pixels: 0 for as many as the kind usually has.
    """

    kind: str = Field(max_length=60)
    count: int = Field(1, ge=1, le=500)
    name: str = Field("", max_length=60)
    at: str = Field("", max_length=12)
    gap: int = Field(0, ge=0, le=500)
    mode: str = Field("", max_length=60)
    pixels: int = Field(0, ge=0, le=2048)


class Made(BaseModel):
    """Ids of what was made, in its order."""

    ids: list[str]


def address_of(text: str) -> tuple[int, int] | None:
    """An address that was typed; None for none. Raises EditError."""
    try:
        return read_address(text) if text.strip() else None
    except ValueError as error:
        raise EditError(f"{error}.", "/lamps") from error


@router.post("/lamps", status_code=201)
async def add_lamps(wanted: NewLamps, session: OpenSession) -> Made:
    """Hang lamps of one kind, packed one behind the other."""
    at = address_of(wanted.at)
    edit, ids = rig.hang(
        session.show, wanted.kind, wanted.count, wanted.name, at, wanted.gap, wanted.mode, wanted.pixels
    )
    await commit(session, edit, "Hang lamps")
    return Made(ids=ids)


class ChosenLamps(BaseModel):
    """Lamps, in the order in which they were chosen."""

    ids: Ids = Field(max_length=2000)


@router.post("/lamps/removal")
async def take_down(chosen: ChosenLamps, session: OpenSession) -> EditAnswer:
    """Take lamps down."""
    return await commit(session, rig.take_down(session.show, chosen.ids), "Take lamps down")


class OtherKind(ChosenLamps):
    kind: str = Field(max_length=60)
    mode: str = Field("", max_length=60)
    pixels: int = Field(0, ge=0, le=2048)


@router.post("/lamps/kind")
async def exchange(wanted: OtherKind, session: OpenSession) -> EditAnswer:
    """Make lamps ones of another kind or mode."""
    edit = rig.exchange(session.show, wanted.ids, wanted.kind, wanted.mode, wanted.pixels)
    return await commit(session, edit, "Other kind of lamp")


class NewAddress(ChosenLamps):
    """at: as “2.17”; empty for the next that is free for each."""

    at: str = Field("", max_length=12)
    gap: int = Field(0, ge=0, le=500)


@router.post("/lamps/address")
async def readdress(wanted: NewAddress, session: OpenSession) -> EditAnswer:
    """Address lamps, packed one behind the other."""
    at = address_of(wanted.at)
    return await commit(session, rig.readdress(session.show, wanted.ids, at, wanted.gap), "Address lamps")


class Arranged(ChosenLamps):
    how: Arrangement
    view: View = "front"


@router.post("/lamps/arrangement")
async def put_in_order(wanted: Arranged, session: OpenSession) -> EditAnswer:
    """Put lamps in a line, an arc, a grid, a column or a row of the drawing."""
    return await commit(
        session, arrange(session.show, wanted.ids, wanted.how, wanted.view), f"Lamps {wanted.how}"
    )


class Placed(ChosenLamps):
    """points: metres across and up, as seen in the view, for each lamp."""

    points: list[tuple[float, float]] = Field(max_length=2000)
    view: View = "front"
    gesture: str = Field("", max_length=60)


@router.post("/lamps/places")
async def place(wanted: Placed, session: OpenSession) -> EditAnswer:
    """Put lamps where they were dragged to."""
    edit = placed(rig.lamps_of(session.show, wanted.ids), wanted.points, wanted.view)
    return await commit(session, edit, "Move lamps", wanted.gesture)


class FunctionSet(ChosenLamps):
    """One function of several lamps: all at a value, or each by as much."""

    name: str = Field(max_length=60)
    value: Any = None
    by: float | None = None
    gesture: str = Field("", max_length=60)


@router.post("/lamps/function")
async def set_function(wanted: FunctionSet, session: OpenSession) -> EditAnswer:
    """Set one function of several lamps."""
    edit = rig.set_function(session.show, wanted.ids, wanted.name, wanted.value, wanted.by)
    return await commit(session, edit, f"Lamps’ {wanted.name}", wanted.gesture)


@router.post("/lamps/home")
async def home(chosen: ChosenLamps, session: OpenSession) -> EditAnswer:
    """Lead lamps back to where they point at rest."""
    return await commit(session, rig.home(session.show, chosen.ids), "Lamps home", glide_ms=800.0)


class Parking(ChosenLamps):
    """value: none for its own again."""

    name: str = Field(max_length=60)
    value: Any = None


@router.post("/lamps/parking")
async def park(wanted: Parking, session: OpenSession) -> EditAnswer:
    """Send a function of lamps at a value, whatever else is wanted."""
    name = "Park lamps" if wanted.value is not None else "Lamps no longer parked"
    return await commit(session, rig.park(session.show, wanted.ids, wanted.name, wanted.value), name)


class ClashInfo(BaseModel):
    """Something wrong with a lamp's address: what, in words, and with which lamps it is shared."""

    lamp: str
    text: str
    others: list[str]


@router.get("/lamps/clashes")
async def patch_clashes(session: OpenSession) -> list[ClashInfo]:
    """What is wrong with the patch; POST /lamps/address with a lamp alone cures it."""
    names = {lamp.id: lamp.name for lamp in session.show.lamps}

    def words(what: str, others: tuple[str, ...]) -> str:
        shared = ", ".join(f"“{names[other]}”" for other in others[:3])
        more = f" and {len(others) - 3} more" if len(others) > 3 else ""
        return (
            "It runs past channel 512." if what == "past the end" else f"On the channels of {shared}{more}."
        )

    return [
        ClashInfo(lamp=clash.lamp, text=words(clash.what, clash.others), others=list(clash.others))
        for clash in clashes(session.show.lamps)
    ]


class WantedCurve(BaseModel):
    """A curve that may not stand in the show yet."""

    answer: AAnswer


CURVE_SAMPLES = 65


@router.post("/light-curves")
async def curve(wanted: WantedCurve) -> list[float]:
    """How a lamp with this curve answers, at even places from 0 to 1: for drawing it."""
    points = answer_curve(wanted.answer)
    even = range(CURVE_SAMPLES)
    if points is None:
        return [i / (CURVE_SAMPLES - 1) for i in even]
    return [float(points[i * (len(points) - 1) // (CURVE_SAMPLES - 1)]) for i in even]


@router.get("/switches")
async def address_switches(address: int = Query(ge=1, le=512)) -> list[bool]:
    """Which of nine switches are on for an address."""
    return switches(address)


class ReachedColour(BaseModel):
    """What a lamp makes of a colour. near: whether that is the colour."""

    lamp: str
    shown: str
    near: bool


@router.post("/lamps/reach")
async def reach(
    chosen: ChosenLamps, session: OpenSession, colour: str = Query(pattern="^#[0-9a-f]{6}$")
) -> list[ReachedColour]:
    """What each of these lamps makes of a colour."""
    known: dict[str, Any] = {}
    for lamp in rig.lamps_of(session.show, chosen.ids):
        if lamp.fixture.kind not in known:
            known[lamp.fixture.kind] = reached(lamp.profile, colour)
    return [
        ReachedColour(lamp=lamp.id, shown=known[lamp.fixture.kind].shown, near=known[lamp.fixture.kind].near)
        for lamp in rig.lamps_of(session.show, chosen.ids)
    ]

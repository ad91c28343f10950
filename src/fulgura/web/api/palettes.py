"""Palettes of lamps: kept, merged, recalled, changed."""

from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from fulgura.core.kinds.parameters import HexColour
from fulgura.core.show.commands import palettes
from fulgura.core.show.edits import SetValue
from fulgura.core.show.lights import PaletteKind
from fulgura.web.api.dependencies import Created, EditAnswer, OpenSession, commit
from fulgura.web.api.lamps import ChosenLamps
from fulgura.web.live.session import Session

router = APIRouter()


class NewPalette(ChosenLamps):
    """colours: instead of what the lamps show."""

    kind: PaletteKind = "colour"
    name: str = Field("", max_length=80)
    colours: list[HexColour] = Field([], max_length=64)


def shown_by(session: Session) -> palettes.Shown:
    """What parameters are now, as the newest frame says."""
    now = session.live_values()

    def shown(target: str) -> Any:
        return now.get(target)

    return shown


@router.post("/palettes", status_code=201)
async def add_palette(wanted: NewPalette, session: OpenSession) -> Created:
    """Keep what lamps show now as a palette."""
    edit, palette = palettes.new_palette(
        session.show, wanted.kind, wanted.ids, shown_by(session), wanted.name, wanted.colours
    )
    await commit(session, edit, "New palette")
    return Created(id=palette)


@router.post("/palettes/{palette}/merge")
async def merge(palette: str, chosen: ChosenLamps, session: OpenSession) -> EditAnswer:
    """Put what lamps show now into a palette too."""
    return await commit(
        session, palettes.merge(session.show, palette, chosen.ids, shown_by(session)), "Merge palette"
    )


class Recolouring(BaseModel):
    index: int = Field(ge=0, le=63)
    colour: HexColour
    gesture: str = Field("", max_length=60)


@router.put("/palettes/{palette}/colour")
async def recolour(palette: str, wanted: Recolouring, session: OpenSession) -> EditAnswer:
    """Change one colour of a palette; what was set by it follows."""
    edit = palettes.recolour(session.show, palette, wanted.index, wanted.colour)
    return await commit(session, edit, "Palette colour", wanted.gesture)


class PaletteRecall(ChosenLamps):
    """ids: none for the lamps that it was made from. It comes over so many milliseconds and beats."""

    ids: list[str] = Field([], max_length=2000)
    over_ms: float = Field(0.0, ge=0, le=60_000)
    over_beats: float = Field(0.0, ge=0, le=64)


class Recalled(BaseModel):
    """cannot: names of lamps that can't take it."""

    cannot: list[str]


@router.post("/palettes/{palette}/recall")
async def recall(palette: str, wanted: PaletteRecall, session: OpenSession) -> Recalled:
    """Give a palette to lamps."""
    edit, cannot = palettes.recall(session.show, palette, wanted.ids)
    name = palettes.palette_of(session.show, palette).name
    await commit(session, edit, f"Palette {name}", glide_ms=wanted.over_ms, glide_beats=wanted.over_beats)
    return Recalled(cannot=cannot)


class PaletteUse(BaseModel):
    """It comes over so many milliseconds and beats."""

    over_ms: float = Field(0.0, ge=0, le=600_000)
    over_beats: float = Field(0.0, ge=0, le=512)


@router.post("/palettes/{palette}/use")
async def use(palette: str, wanted: PaletteUse, session: OpenSession) -> EditAnswer:
    """Take a palette into use: what points at its entries follows."""
    found = palettes.palette_of(session.show, palette)
    return await commit(
        session,
        SetValue(path="/palette", value=found.id),
        f"Palette {found.name}",
        glide_ms=wanted.over_ms,
        glide_beats=wanted.over_beats,
    )


@router.delete("/palettes/{palette}")
async def remove_palette(palette: str, session: OpenSession) -> EditAnswer:
    """Take a palette away; lamps keep what they have."""
    return await commit(session, palettes.without_palette(session.show, palette), "Remove palette")

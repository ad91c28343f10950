"""Every kind of thing and its parameters: what controls are made from."""

from fastapi import APIRouter

from fulgura.core.kinds.registry import FAMILIES, KindInfo

router = APIRouter()


@router.get("/kinds")
async def kinds() -> list[KindInfo]:
    """Every kind of source, effect, fixture and shaper with its parameters: what controls are made from."""
    return [KindInfo.of(kind) for family in FAMILIES.values() for kind in family.kinds.values()]

"""Every kind of thing and its parameters: what controls are made from."""

from fastapi import APIRouter, Request, Response
from fastapi.responses import FileResponse

from fulgura.core.kinds.registry import FAMILIES, KindInfo
from fulgura.web.described import gives

router = APIRouter()


@router.get("/kinds")
async def kinds() -> list[KindInfo]:
    """Every kind of source, effect, fixture and shaper with its parameters: what controls are made from."""
    return [KindInfo.of(kind) for family in FAMILIES.values() for kind in family.kinds.values()]


@router.get(
    "/kinds/{family}/{kind}/picture", response_class=FileResponse, responses=gives("image/webp", later=True)
)
async def picture(family: str, kind: str, request: Request) -> Response:
    """A small moving picture of what a source or an effect does."""
    file = request.app.state.thumbnails.kind(family, kind)
    if file is None:
        return Response(status_code=204, headers={"Cache-Control": "no-store"})
    return FileResponse(file, media_type="image/webp", headers={"Cache-Control": "no-cache"})

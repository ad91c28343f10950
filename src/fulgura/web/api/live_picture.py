"""Pictures drawn in Python, for browsers that cannot draw them: JPEG frames (multipart/x-mixed-replace)."""

from fastapi import APIRouter
from fastapi.responses import StreamingResponse

from fulgura.core.show.commands.outputs import output_of
from fulgura.folders import Folders
from fulgura.web.api.dependencies import OpenSession
from fulgura.web.children import stream

router = APIRouter()
WIDTH = 640


def _frames(folders: Folders, *output: str) -> StreamingResponse:
    return StreamingResponse(
        stream("fulgura.render.stream", str(folders.run), str(folders.pictures), *output),
        media_type="multipart/x-mixed-replace; boundary=picture",
        headers={"Cache-Control": "no-store"},
    )


@router.get("/picture", response_class=StreamingResponse, include_in_schema=False)
def picture(session: OpenSession) -> StreamingResponse:
    """The live picture."""
    return _frames(session.folders)


@router.get("/outputs/{output}/live", response_class=StreamingResponse, include_in_schema=False)
def of_output(output: str, session: OpenSession) -> StreamingResponse:
    """An output, on black, with all that fits it to its wall and keeps it safe."""
    found = output_of(session.show, output)
    height = max(16, round(WIDTH * found.height / found.width))
    return _frames(session.folders, found.id, str(WIDTH), str(height))

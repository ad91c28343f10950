"""Live sockets: frames and news out, sound in."""

from typing import Annotated

from fastapi import APIRouter, Query, WebSocket

from fulgura.core.show.inputs import MAIN
from fulgura.web.live.session import Session

router = APIRouter()


@router.websocket("/live")
async def live(socket: WebSocket, output: Annotated[str, Query(max_length=48)] = "") -> None:
    """Frames, meters and news; see docs/formats/frame.md. output: the address of the one that a
    page shows.
    """
    await socket.accept()
    session: Session = socket.app.state.session
    await session.viewers.serve(socket, session.greet, session.on_page, session.page_gone, output)


@router.websocket("/audio")
async def audio(
    socket: WebSocket,
    input: Annotated[str, Query(max_length=48)] = MAIN,
    channels: Annotated[int, Query(ge=1, le=2)] = 1,
    rate: Annotated[int, Query(ge=8_000, le=192_000)] = 48_000,
) -> None:
    """Live sound in: interleaved little-endian float32."""
    await socket.accept()
    session: Session = socket.app.state.session
    await session.audio.listen(socket, input, channels, rate)

"""Connections to pages, ended for good when they are given up."""

from uvicorn.protocols.websockets.websockets_sansio_impl import WebSocketsSansIOProtocol

FAREWELL_S = 2.0
"""How long one that is given up has to read what still waits for it."""


class PageProtocol(WebSocketsSansIOProtocol):
    """A connection that is closed waits until all is read; a page that reads nothing would have it for ever,
    with all that waits there.
    """

    async def run_asgi(self) -> None:
        await super().run_asgi()
        self.loop.call_later(FAREWELL_S, self.transport.abort)

    def keepalive_timeout(self) -> None:
        super().keepalive_timeout()
        self.loop.call_later(FAREWELL_S, self.transport.abort)

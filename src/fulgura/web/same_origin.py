"""Refuses what another site's page sends."""

from urllib.parse import urlsplit

from starlette.types import ASGIApp, Receive, Scope, Send

from fulgura.web import problems
from fulgura.web.problems import Problem

HOSTS = {"127.0.0.1", "localhost", "[::1]"}


class SameOrigin:
    """Refuses what another site's page sends: foreign hosts (rebinding), and foreign origins of anything that
    acts.

    Programs that are no browser send no Origin and are let through; browsers always send one with these
    requests.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] not in ("http", "websocket"):
            return await self.app(scope, receive, send)
        headers = {name.decode().lower(): value.decode("latin-1") for name, value in scope["headers"]}
        host = headers.get("host", "")
        acts = scope["type"] == "websocket" or scope["method"] not in ("GET", "HEAD", "OPTIONS")
        origin = headers.get("origin")
        foreign = (host.rsplit(":", 1)[0] if not host.endswith("]") else host) not in HOSTS
        if acts and origin is not None and urlsplit(origin).netloc != host:
            foreign = True
        if not foreign:
            return await self.app(scope, receive, send)
        if scope["type"] == "websocket":
            await receive()
            await send({"type": "websocket.close", "code": 1008, "reason": "foreign origin"})
        else:
            await problems.answer(
                Problem(title="Refused", status=403, detail="This request comes from another site.")
            )(scope, receive, send)

"""Refuses requests whose JSON is none, before anything is made of it: half characters, endless nesting."""

import orjson
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from fulgura.web import problems
from fulgura.web.problems import Problem

MOST_BYTES = 16 << 20
"""Of JSON in one request; files come as what they are."""


class WellFormed:
    """JSON bodies are read whole and checked by the strict reader; all else goes through as it comes."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or not _is_json(scope):
            return await self.app(scope, receive, send)
        body, size = bytearray(), 0
        while True:
            message = await receive()
            if message["type"] != "http.request":
                return
            size += len(message.get("body", b""))
            # What is too much is read to its end, and forgotten: who sends it hears why it is refused.
            if size <= MOST_BYTES:
                body += message.get("body", b"")
            if not message.get("more_body"):
                break
        if size > MOST_BYTES:
            problem = Problem(
                title="That is too much",
                status=413,
                detail=f"A request may have {MOST_BYTES >> 20} MB of JSON. Nothing was changed.",
            )
            return await problems.answer(problem)(scope, receive, send)
        if body:
            try:
                orjson.loads(body)
            except orjson.JSONDecodeError as error:
                problem = Problem(
                    title="That request is not right", status=422, detail=f"Its JSON cannot be read: {error}."
                )
                return await problems.answer(problem)(scope, receive, send)
        given = False

        async def again() -> Message:
            nonlocal given
            if given:
                return await receive()
            given = True
            return {"type": "http.request", "body": bytes(body), "more_body": False}

        await self.app(scope, again, send)


def _is_json(scope: Scope) -> bool:
    kind = next((value for name, value in scope["headers"] if name == b"content-type"), b"")
    return b"json" in kind.lower()

"""Refuses requests whose JSON is none, before anything is made of it: half characters, endless nesting."""

import orjson
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from fulgura.web import problems
from fulgura.web.problems import Problem


class WellFormed:
    """JSON bodies are read whole and checked by the strict reader; all else goes through as it comes."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or not _is_json(scope):
            return await self.app(scope, receive, send)
        body = b""
        while True:
            message = await receive()
            if message["type"] != "http.request":
                return
            body += message.get("body", b"")
            if not message.get("more_body"):
                break
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
            return {"type": "http.request", "body": body, "more_body": False}

        await self.app(scope, again, send)


def _is_json(scope: Scope) -> bool:
    kind = next((value for name, value in scope["headers"] if name == b"content-type"), b"")
    return b"json" in kind.lower()

"""What comes in is text and no endless nest; what goes out tells browsers what they may do with it."""

import asyncio

import orjson
import pytest
from pydantic import TypeAdapter, ValidationError

from fulgura.core.show.edits import Edit
from fulgura.web import well_formed
from fulgura.web.headers import SAID, SafeHeaders
from fulgura.web.well_formed import WellFormed

EDIT = TypeAdapter(Edit)


def asked(app, body, kind=b"application/json", pieces=3):
    """(status, headers, body) that an application answers to a body that comes in pieces."""
    step = max(1, -(-len(body) // pieces))
    parts = [body[at : at + step] for at in range(0, len(body), step)] or [b""]
    said = []

    async def receive():
        part = parts.pop(0)
        return {"type": "http.request", "body": part, "more_body": bool(parts)}

    async def send(message):
        said.append(message)

    scope = {"type": "http", "method": "POST", "path": "/", "headers": [(b"content-type", kind)]}
    asyncio.run(app(scope, receive, send))
    headers = {name.decode().lower(): value.decode() for name, value in said[0]["headers"]}
    return said[0]["status"], headers, b"".join(each.get("body", b"") for each in said[1:])


async def echo(scope, receive, send):
    body, more = b"", True
    while more:
        message = await receive()
        body, more = body + message["body"], message["more_body"]
    await send({"type": "http.response.start", "status": 200, "headers": []})
    await send({"type": "http.response.body", "body": body})


@pytest.mark.parametrize("body", [b"", b'{"a": [1, 2, "\xc3\xa4"]}', b'"\\ud83d\\ude00"'])
def test_what_is_well_formed_comes_through_as_it_was(body):
    assert asked(WellFormed(echo), body)[::2] == (200, body)


@pytest.mark.parametrize("body", [b'{"kind": "\\ud800"}', b"[" * 5000 + b"]" * 5000, b"{", b"NaN", b'"\xff"'])
def test_what_is_not_is_refused_in_a_sentence(body):
    status, headers, said = asked(WellFormed(echo), body)
    assert status == 422 and headers["content-type"] == "application/problem+json"
    assert orjson.loads(said)["detail"].startswith("Its JSON cannot be read")


def test_what_is_no_json_is_not_looked_at():
    assert asked(WellFormed(echo), b"\xff\x00{", b"application/octet-stream")[::2] == (200, b"\xff\x00{")


def test_every_answer_has_the_three_headers():
    _, headers, _ = asked(SafeHeaders(echo), b"{}")
    assert {name.lower(): value for name, value in SAID.items()}.items() <= headers.items()
    assert "script-src 'self';" in headers["content-security-policy"]


@pytest.mark.parametrize("value", ["\0", "a\ud800b", {"deep": ["\0"]}, {"\udfff": 1}])
def test_no_edit_carries_what_is_no_text(value):
    with pytest.raises(ValidationError, match="no text can have"):
        EDIT.validate_python({"edit": "set", "path": "/name", "value": value})


def test_edits_and_values_that_lie_too_deep_are_refused():
    edit = {"edit": "remove", "path": "/looks/a"}
    for _ in range(20):
        edit = {"edit": "together", "edits": [edit]}
    assert EDIT.validate_python(edit)
    for _ in range(180):
        edit = {"edit": "together", "edits": [edit]}
    with pytest.raises(ValidationError, match="too deep"):
        EDIT.validate_python(edit)
    value = 1
    for _ in range(200):
        value = [value]
    with pytest.raises(ValidationError, match="too deep"):
        EDIT.validate_python({"edit": "set", "path": "/name", "value": value})


def test_json_of_more_than_a_request_may_have_is_refused_and_not_kept(monkeypatch):
    monkeypatch.setattr(well_formed, "MOST_BYTES", 100)
    reached = []

    async def app(scope, receive, send):
        reached.append(await receive())

    status, _, body = asked(WellFormed(app), b'"' + b"x" * 200 + b'"')
    assert status == 413 and b"too much" in body and not reached

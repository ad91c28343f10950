"""The API's description of itself (OpenAPI 3.1): bodies that are files, answers that are, and problems."""

from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from fulgura.web.problems import MEDIA_TYPE, Problem

Responses = dict[int | str, dict[str, Any]]
ANY_FILE = "application/octet-stream"


def takes(what: str, media: str = ANY_FILE) -> dict[str, Any]:
    """For ``openapi_extra``: the body is this."""
    schema = {"type": "string"} if media.startswith("text/") else {"type": "string", "format": "binary"}
    return {"requestBody": {"description": what, "required": True, "content": {media: {"schema": schema}}}}


def gives(*media: str, later: bool = False) -> Responses:
    """For ``responses``: the answer is a file of one of these kinds. later: it may still be being made."""
    file = {"schema": {"type": "string", "format": "binary"}}
    found: Responses = {200: {"description": "The file", "content": dict.fromkeys(media, file)}}
    return {**found, 204: {"description": "It is being drawn: ask again"}} if later else found


def install(app: FastAPI) -> None:
    """Describe every answer that is no success as what it is: a problem (RFC 9457)."""

    def described() -> dict[str, Any]:
        if app.openapi_schema is None:
            made = get_openapi(title=app.title, version=app.version, routes=app.routes)
            problem = {
                "content": {MEDIA_TYPE: {"schema": {"$ref": f"#/components/schemas/{Problem.__name__}"}}}
            }
            for path in made["paths"].values():
                for operation in path.values():
                    responses = operation["responses"]
                    for status in [status for status in responses if status[0] in "45"]:
                        responses[status] = {"description": "What is wrong", **problem}
                    responses["default"] = {"description": "What else is wrong", **problem}
            # Nothing refers to the framework's own any more.
            for name in ("HTTPValidationError", "ValidationError"):
                made["components"]["schemas"].pop(name, None)
            app.openapi_schema = made
        return app.openapi_schema

    app.openapi = described  # type: ignore[method-assign]

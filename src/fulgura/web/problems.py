"""One error format: RFC 9457 problem details, in words a performer understands."""

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from fulgura.core.show.edits import EditError
from fulgura.store.connection import StoreError

MEDIA_TYPE = "application/problem+json"


class Problem(BaseModel):
    """RFC 9457. where: the place in the request or the document that is wrong."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    where: str = ""


class Refused(Exception):
    """Raise to answer with a problem."""

    def __init__(self, status: int, title: str, detail: str, where: str = "") -> None:
        super().__init__(detail)
        self.problem = Problem(title=title, status=status, detail=detail, where=where)


def answer(problem: Problem) -> JSONResponse:
    return JSONResponse(problem.model_dump(), problem.status, media_type=MEDIA_TYPE)


def install(app: FastAPI) -> None:
    """Make every error of the application a problem."""

    @app.exception_handler(Refused)
    async def refused(_: Request, error: Refused) -> JSONResponse:
        return answer(error.problem)

    @app.exception_handler(EditError)
    async def edit(_: Request, error: EditError) -> JSONResponse:
        return answer(
            Problem(title="That change cannot be made", status=422, detail=str(error), where=error.where)
        )

    @app.exception_handler(StoreError)
    async def store(_: Request, error: StoreError) -> JSONResponse:
        return answer(
            Problem(
                title="The database is away",
                status=503,
                detail=f"{error} The show goes on; try again in a moment.",
            )
        )

    @app.exception_handler(RequestValidationError)
    async def invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        where = "/".join(str(step) for step in first["loc"])
        return answer(
            Problem(title="That request is not right", status=422, detail=f"{first['msg']}.", where=where)
        )

    @app.exception_handler(HTTPException)
    async def http(_: Request, error: HTTPException) -> JSONResponse:
        response = answer(
            Problem(title=str(error.detail), status=error.status_code, detail=str(error.detail))
        )
        response.headers.update(error.headers or {})
        return response

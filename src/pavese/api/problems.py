"""Errors as `application/problem+json` (RFC 9457), each with an id that is in the log as well."""

from __future__ import annotations

import uuid
from typing import Any

import structlog
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from pavese.core.errors import PaveseError
from pavese.render.pool import CannotDrawError
from pavese.store.errors import NotFoundError, NothingToUndoError, StoreError

log = structlog.get_logger()


class Problem(BaseModel):
    """What went wrong, in words for the person who reads it; `id` is in the server's log."""

    title: str
    status: int
    detail: str
    id: str


#: Documented for every route; each can be given by any of them.
RESPONSES: dict[int | str, dict[str, Any]] = {
    status: {"model": Problem, "description": text}
    for status, text in {
        400: "The request is not readable.",
        403: "The request comes from another site.",
        404: "It does not exist.",
        409: "It cannot be done in the present state.",
        413: "It is too large.",
        422: "What was sent cannot be taken.",
    }.items()
}

_TITLES: dict[type[Exception], tuple[int, str]] = {
    NotFoundError: (404, "Not found"),
    NothingToUndoError: (409, "Nothing to do"),
    StoreError: (409, "Not possible now"),
    CannotDrawError: (422, "It cannot be drawn"),
    PaveseError: (422, "It cannot be taken"),
}


def problem(request: Request, status: int, title: str, detail: str, **fields: Any) -> JSONResponse:
    """An answer, and a line in the log under the same id."""
    id_ = uuid.uuid4().hex[:12]
    level = log.error if status >= 500 else log.info
    level("problem", id=id_, status=status, path=request.url.path, detail=detail, **fields)
    body = Problem(title=title, status=status, detail=detail, id=id_)
    return JSONResponse(body.model_dump(), status, media_type="application/problem+json")


def install(app: FastAPI) -> None:
    """Turns every error into a problem, in this one place."""
    for kind in _TITLES:
        app.add_exception_handler(kind, _known)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(Exception, _unexpected)


def _known(request: Request, error: Exception) -> JSONResponse:
    status, title = next(answer for kind, answer in _TITLES.items() if isinstance(error, kind))
    return problem(request, status, title, str(error))


def _invalid(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    place = ".".join(str(part) for part in first["loc"] if part != "body")
    message = str(first["msg"]).removeprefix("Value error, ")
    more = f" (and {len(error.errors()) - 1} more)" if len(error.errors()) > 1 else ""
    return problem(request, 422, "It cannot be taken", f"{place}: {message}{more}" if place else message + more)


def _http(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    return problem(request, error.status_code, "Not possible", str(error.detail))


def _unexpected(request: Request, error: Exception) -> JSONResponse:
    detail = "Something went wrong here, not with you. Nothing was changed. Please try again."
    return problem(request, 500, "Unexpected error", detail, error=repr(error), exc_info=error)

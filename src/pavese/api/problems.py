"""Errors as `application/problem+json` (RFC 9457), each with an id that is in the log as well."""

from __future__ import annotations

import re
import uuid
from typing import Any

import structlog
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from pavese.api.access import NotAllowedError, NotSignedInError
from pavese.core.errors import PaveseError
from pavese.render.pool import CannotDrawError
from pavese.store.errors import ConflictError, GoneError, NotFoundError, NothingToUndoError, StoreError

log = structlog.get_logger()


class ClashView(BaseModel):
    """A place that two people changed, and what each put there (nothing: it was taken out)."""

    place: str
    theirs: Any = None
    mine: Any = None


class Problem(BaseModel):
    """What went wrong, in words for the person who reads it; `id` is in the server's log.

    `clashes` are there when somebody else changed the same meanwhile.
    """

    title: str
    status: int
    detail: str
    id: str
    clashes: list[ClashView] | None = None


#: Documented for every route; each can be given by any of them.
RESPONSES: dict[int | str, dict[str, Any]] = {
    status: {"model": Problem, "description": text}
    for status, text in {
        400: "The request is not readable.",
        401: "Nobody is signed in.",
        403: "The request comes from another site, or the person may not do this.",
        404: "It does not exist.",
        409: "It cannot be done in the present state.",
        410: "It was there, and is no longer.",
        413: "It is too large.",
        422: "What was sent cannot be taken.",
        429: "Too many attempts.",
    }.items()
}

_TITLES: dict[type[Exception], tuple[int, str]] = {
    NotSignedInError: (401, "Not signed in"),
    NotAllowedError: (403, "Not allowed"),
    NotFoundError: (404, "Not found"),
    GoneError: (410, "Gone"),
    ConflictError: (409, "Changed meanwhile"),
    NothingToUndoError: (409, "Nothing to do"),
    StoreError: (409, "Not possible now"),
    CannotDrawError: (422, "It cannot be drawn"),
    PaveseError: (422, "It cannot be taken"),
}


def told_path(path: str) -> str:
    """The path as the log may hold it: whoever has the token of a shared page may see the page."""
    return re.sub(r"(/shared/)[^/]+", r"\1…", path)


def problem(
    request: Request, status: int, title: str, detail: str, clashes: list[ClashView] | None = None, **fields: Any
) -> JSONResponse:
    """An answer, and a line in the log under the same id."""
    id_ = uuid.uuid4().hex[:12]
    level = log.error if status >= 500 else log.info
    level("problem", id=id_, status=status, path=told_path(request.url.path), detail=detail, **fields)
    body = Problem(title=title, status=status, detail=detail, id=id_, clashes=clashes)
    return JSONResponse(body.model_dump(mode="json"), status, media_type="application/problem+json")


def install(app: FastAPI) -> None:
    """Turns every error into a problem, in this one place."""
    for kind in _TITLES:
        app.add_exception_handler(kind, _known)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(Exception, _unexpected)


def _known(request: Request, error: Exception) -> JSONResponse:
    status, title = next(answer for kind, answer in _TITLES.items() if isinstance(error, kind))
    clashes = [ClashView(**clash._asdict()) for clash in error.clashes] if isinstance(error, ConflictError) else None
    return problem(request, status, title, str(error.args[0]) if error.args else title, clashes)


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

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
from sqlalchemy.exc import DBAPIError, DisconnectionError, InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeoutError
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


MEDIA_TYPE = "application/problem+json"
#: After how many seconds it is worth asking again when the database does not answer.
_AGAIN = 5

#: Documented for every route; each can be given by any of them.
RESPONSES: dict[int | str, dict[str, Any]] = {
    status: {"description": text, "content": {MEDIA_TYPE: {"schema": {"$ref": "#/components/schemas/Problem"}}}}
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
        503: "The database does not answer.",
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


def documented(app: FastAPI) -> None:
    """Puts the form of a problem into the schema, where `RESPONSES` points to it."""
    plain = app.openapi

    def openapi() -> dict[str, Any]:
        schema = plain()
        form = Problem.model_json_schema(ref_template="#/components/schemas/{model}", mode="serialization")
        schema.setdefault("components", {}).setdefault("schemas", {}).update({**form.pop("$defs", {}), "Problem": form})
        return schema

    app.openapi = openapi  # type: ignore[method-assign]


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
    return JSONResponse(body.model_dump(mode="json"), status, media_type=MEDIA_TYPE)


def install(app: FastAPI) -> None:
    """Turns every error into a problem, in this one place."""
    for kind in _TITLES:
        app.add_exception_handler(kind, _known)
    for away in _AWAY:
        app.add_exception_handler(away, _away)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(Exception, _unexpected)


def _known(request: Request, error: Exception) -> JSONResponse:
    status, title = next(answer for kind, answer in _TITLES.items() if isinstance(error, kind))
    clashes = [ClashView(**clash._asdict()) for clash in error.clashes] if isinstance(error, ConflictError) else None
    return problem(request, status, title, str(error.args[0]) if error.args else title, clashes)


#: What is raised while the database is away.
_AWAY: tuple[type[Exception], ...] = (OperationalError, InterfaceError, DisconnectionError, PoolTimeoutError)


def _away(request: Request, error: Exception) -> JSONResponse:
    """The database is away: who only looked may look again, who changed something cannot be told whether it holds."""
    if request.method in ("GET", "HEAD") or _before_anything(error):
        detail = "The database does not answer just now. Nothing was changed; try again in a few seconds."
    else:
        detail = "The database stopped answering. It is not known whether this was kept: look before you repeat it."
    answer = problem(request, 503, "Not possible just now", detail, error=repr(error)[:300])
    answer.headers["Retry-After"] = str(_AGAIN)
    return answer


def _before_anything(error: Exception) -> bool:
    """Whether there was no connection at all, so that no statement can have been carried out."""
    return not isinstance(error, DBAPIError) or (error.statement is None and not error.connection_invalidated)


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

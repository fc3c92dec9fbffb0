"""Who is asking, and whether they may: sessions by cookie, and what each role is allowed.

Looking is for everybody who is signed in, changing for coordinators; the exceptions stand in one table.
"""

from __future__ import annotations

import re
from collections.abc import AsyncIterator
from typing import Annotated

from cachetools import TTLCache
from fastapi import Depends, Request
from fastapi.routing import APIRoute
from sqlalchemy.orm import Session, sessionmaker
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response

from pavese.store import people
from pavese.store.models import UserRow
from pavese.store.people import AccessRole
from pavese.store.records import Author

COOKIE = "pavese_session"
#: Seconds for which it is remembered whose token is whose.
_REMEMBERED = 5.0

#: Routes that only compute, though they are asked by POST: the names of their functions.
ASKING = frozenset(
    (
        "read_codes", "read_codes_of_file", "preview_base", "is_it_ours", "make_scheme", "get_proposals",
        "preview_see_through",
    )
)  # fmt: skip
REVIEWING = frozenset(("decide_pairs", "decide_trios", "add_comment"))
#: What everybody does to what is their own.
OWN = frozenset(("change_password",))
#: Reading that is not for everybody.
COORDINATING = frozenset(("list_people", "list_links"))


class NotSignedInError(Exception):
    """No session, or one that has ended."""


class NotAllowedError(Exception):
    """The person's role does not reach."""


def needed(route: APIRoute) -> AccessRole:
    """The least role for a route."""
    name = route.endpoint.__name__
    if name in REVIEWING:
        return AccessRole.REVIEWER
    if name in COORDINATING:
        return AccessRole.COORDINATOR
    return (
        AccessRole.READER
        if name in ASKING | OWN or (route.methods or set()) <= {"GET", "HEAD"}
        else AccessRole.COORDINATOR
    )


class Bearers:
    """Who has signed in with which token, remembered for a few seconds: pictures are asked for by the hundred.

    What this process changes counts at once, see `forgetting`; what another one changes, for those who only look, some
    seconds later.
    """

    def __init__(self) -> None:
        self._known: TTLCache[str, UserRow] = TTLCache(10_000, _REMEMBERED)
        self._turn = 0

    def get(self, token: str) -> UserRow | None:
        """Whose token it is, if it was asked for lately."""
        return self._known.get(token)

    async def find(self, readings: sessionmaker[Session], token: str) -> UserRow | None:
        """Whose token it is, asked of the database."""

        def ask() -> UserRow | None:
            with readings() as session:
                return people.bearer(session, token)

        turn = self._turn
        user = await run_in_threadpool(ask)
        if user is not None and turn == self._turn:
            self._known[token] = user
        return user

    def forget(self) -> None:
        """What is remembered may be so no longer."""
        self._turn += 1
        self._known.clear()


async def forgetting(request: Request) -> AsyncIterator[None]:
    """For routes that change who may do what: everybody is asked for anew after them."""
    try:
        yield
    finally:
        request.app.state.bearers.forget()


async def admitted(request: Request) -> UserRow:
    """The person behind a request, if they may do what it asks. Raises NotSignedInError and NotAllowedError."""
    token = request.cookies.get(COOKIE, "")
    bearers: Bearers = request.app.state.bearers
    looking = request.method in ("GET", "HEAD")
    user = (bearers.get(token) if looking else None) or await bearers.find(request.app.state.readings, token)
    if user is None:
        raise NotSignedInError("You are not signed in, or no longer. Sign in, and nothing is lost.")
    route = request.scope["route"]
    wanted = needed(route)
    if not AccessRole(user.role).may(wanted):
        raise NotAllowedError(f"This is for a {wanted.value}; you are signed in as {user.name}, {user.role}.")
    request.state.author = Author(user.id, user.name, _seen(request), request.headers.get(_WINDOW, "")[:40])
    return user


def set_cookie(request: Request, response: Response, token: str) -> None:
    """Gives the browser a session's token, out of reach of scripts and of other sites."""
    response.set_cookie(
        COOKIE,
        token,
        max_age=int(people.LASTS.total_seconds()),
        httponly=True,
        samesite="lax",
        secure=request.url.scheme == "https",
        path="/",
    )


#: Names the window a request comes from, so that two windows of one person do not overwrite each other unseen.
_WINDOW = "pavese-window"


def _seen(request: Request) -> int | None:
    """The record a client says it has seen last: `If-Match: "12"` (RFC 9110, 13.1.1)."""
    said = re.fullmatch(r'"(\d{1,18})"', request.headers.get("if-match", "").strip())
    return int(said[1]) if said else None


Me = Annotated[UserRow, Depends(admitted)]
#: A change of who may do what; it ends after the commit.
Forgetting = Depends(forgetting, scope="function")

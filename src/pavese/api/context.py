"""What routes are given: a database session that commits before the answer goes out, and the engines."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session, sessionmaker

from pavese.render.page import PageReader
from pavese.render.pixels import PixelCache
from pavese.render.pool import DrawingPool
from pavese.render.web import Policy
from pavese.store import records


def _session(request: Request) -> Iterator[Session]:
    with request.app.state.sessions.begin() as session:
        records.work_as(session, getattr(request.state, "author", records.NOBODY))
        yield session


# These do no work, and as coroutines they need no thread of their own.
async def _pool(request: Request) -> DrawingPool:
    pool: DrawingPool = request.app.state.drawing
    return pool


async def _readings(request: Request) -> sessionmaker[Session]:
    readings: sessionmaker[Session] = request.app.state.readings
    return readings


async def _pages(request: Request) -> PageReader:
    pages: PageReader = request.app.state.pages
    return pages


async def _pixels(request: Request) -> PixelCache:
    cache: PixelCache = request.app.state.pixels
    return cache


async def _policy(request: Request) -> Policy:
    policy: Policy = request.app.state.page_policy
    return policy


# Of scope "function", so that the commit happens before the client hears that all went well.
Db = Annotated[Session, Depends(_session, scope="function")]
#: Makes sessions in which each statement stands alone, for answers that are asked for by the dozen.
Readings = Annotated[sessionmaker[Session], Depends(_readings)]
Drawing = Annotated[DrawingPool, Depends(_pool)]
Pages = Annotated[PageReader, Depends(_pages)]
PixelStore = Annotated[PixelCache, Depends(_pixels)]
#: Which addresses may be fetched.
PagePolicy = Annotated[Policy, Depends(_policy)]

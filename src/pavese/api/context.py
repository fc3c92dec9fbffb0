"""What routes are given: a database session that commits before the answer goes out, and the engines."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session, sessionmaker

from pavese.api.files.ahead import attend
from pavese.render.page import PageReader
from pavese.render.pixels import PixelCache
from pavese.render.pool import DrawingPool
from pavese.render.web import FetchPolicy
from pavese.store import records


def _session(request: Request) -> Iterator[Session]:
    with request.app.state.sessions() as session:
        records.work_as(session, getattr(request.state, "author", records.NOBODY))
        attend(session, request.app.state.ahead)
        yield session
        session.commit()


#: Begins a transaction in the name of whoever asks.
Begin = Callable[[], AbstractContextManager[Session]]


async def _working(request: Request) -> Begin:
    author = getattr(request.state, "author", records.NOBODY)

    @contextmanager
    def begin() -> Iterator[Session]:
        with request.app.state.sessions.begin() as session:
            records.work_as(session, author)
            yield session

    return begin


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


async def _policy(request: Request) -> FetchPolicy:
    policy: FetchPolicy = request.app.state.page_policy
    return policy


# Of scope "function", so that the commit happens before the client hears that all went well.
Db = Annotated[Session, Depends(_session, scope="function")]
#: Makes sessions in which each statement stands alone, for answers that are asked for by the dozen.
Readings = Annotated[sessionmaker[Session], Depends(_readings)]
#: Begins a transaction each time it is called, for requests that wait for something between two of them.
Working = Annotated[Begin, Depends(_working)]
Drawing = Annotated[DrawingPool, Depends(_pool)]
Pages = Annotated[PageReader, Depends(_pages)]
PixelStore = Annotated[PixelCache, Depends(_pixels)]
#: Which addresses may be fetched.
PagePolicy = Annotated[FetchPolicy, Depends(_policy)]

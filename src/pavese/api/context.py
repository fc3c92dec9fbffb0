"""What routes are given: a database session that commits before the answer goes out, and the drawing pool."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session, sessionmaker

from pavese.render.pool import DrawingPool


def _session(request: Request) -> Iterator[Session]:
    with request.app.state.sessions.begin() as session:
        yield session


# These two do no work, and as coroutines they need no thread of their own.
async def _pool(request: Request) -> DrawingPool:
    pool: DrawingPool = request.app.state.drawing
    return pool


async def _readings(request: Request) -> sessionmaker[Session]:
    readings: sessionmaker[Session] = request.app.state.readings
    return readings


# Of scope "function", so that the commit happens before the client hears that all went well.
Db = Annotated[Session, Depends(_session, scope="function")]
#: Makes sessions in which each statement stands alone, for answers that are asked for by the dozen.
Readings = Annotated[sessionmaker[Session], Depends(_readings)]
Drawing = Annotated[DrawingPool, Depends(_pool)]

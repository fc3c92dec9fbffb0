"""What routes are given: a database session that commits before the answer goes out, and the drawing pool."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session

from pavese.render.pool import DrawingPool


def _session(request: Request) -> Iterator[Session]:
    with request.app.state.sessions.begin() as session:
        yield session


def _pool(request: Request) -> DrawingPool:
    pool: DrawingPool = request.app.state.drawing
    return pool


# Of scope "function", so that the commit happens before the client hears that all went well.
Db = Annotated[Session, Depends(_session, scope="function")]
Drawing = Annotated[DrawingPool, Depends(_pool)]

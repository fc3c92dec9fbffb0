"""Zips of recolored files, made while they are sent."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from itertools import chain, islice
from urllib.parse import quote

from fastapi.responses import StreamingResponse
from sqlalchemy.orm import Session, sessionmaker

from pavese.core.formats.archive import zipped
from pavese.core.handoff.beside import Beside
from pavese.core.handoff.package import free_name
from pavese.core.recolor.changes import Changes
from pavese.render import rendering
from pavese.render.pool import DrawingPool
from pavese.store import belonging, sets

#: Files that are made before anything is sent, so that what cannot be made at all is said instead.
_FIRST = 4


def attached(name: str) -> dict[str, str]:
    """The headers that make an answer a download (RFC 6266)."""
    return {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}", "Cache-Control": "no-store"}


def zip_answer(name: str, files: Iterator[tuple[str, bytes]]) -> StreamingResponse:
    """A zip of (path, content) as a download."""
    first = list(islice(files, _FIRST))
    return StreamingResponse(zipped(chain(first, files)), media_type="application/zip", headers=attached(name))


def recolored(
    rows: Sequence[sets.OfFile],
    changes: Callable[[sets.OfFile], Changes],
    taken: set[str],
    readings: sessionmaker[Session],
    drawing: DrawingPool,
) -> Iterator[tuple[str, bytes]]:
    """Files as they are handed over, under their own names, and after them those that they name, by those paths."""
    beside = Beside()
    with readings() as db:
        wanted = sets.each_becoming(db, ((row, changes(row)) for row in rows))
        for row, made in zip(rows, rendering.renditions(drawing, wanted), strict=True):
            beside.add(row.name, belonging.paths(row), made.beside)
            yield free_name(row.name, taken), made.data
        yield from beside.files(belonging.neighbors(db, rows), taken)

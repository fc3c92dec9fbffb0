"""Typefaces of strangers, read in child processes."""

from __future__ import annotations

from pavese.core.gather.own_face import TakenFace, take_face
from pavese.render.pool import DrawingPool

_SECONDS = 20.0


def taken_face(pool: DrawingPool, name: str, data: bytes, license: str) -> TakenFace:
    """A typeface, read and measured. Raises RefusedFileError and CannotDrawError."""
    taken: TakenFace = pool.done(take_face, name, data, license, seconds=_SECONDS)
    return taken

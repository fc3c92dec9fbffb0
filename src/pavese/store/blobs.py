"""The bytes of files, each once, under their content hash."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pavese.store.models import Blob


def keep(session: Session, blobs: Mapping[str, bytes]) -> None:
    """Keeps bytes under their hashes; what is there already stays."""
    if blobs:
        rows = [{"digest": key, "data": value} for key, value in sorted(blobs.items())]
        session.execute(insert(Blob).values(rows).on_conflict_do_nothing())


def data(session: Session, digest: str) -> bytes:
    """The bytes of a file."""
    return session.scalars(select(Blob.data).where(Blob.digest == digest)).one()

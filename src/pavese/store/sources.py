"""Sources of colors as they are kept."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Mapping

from sqlalchemy import select
from sqlalchemy.orm import Session

from pavese.core.gather.source import Source
from pavese.store import contents, history
from pavese.store.errors import NotFoundError
from pavese.store.models import SourceRow


def create(session: Session, kit_id: uuid.UUID, source: Source, kept: Mapping[str, bytes]) -> SourceRow:
    """Keeps a new source, and the bytes of its pictures under their hashes."""
    contents.keep(session, kept)
    subject = history.begin(session, f"Add {source.name}", source.model_dump(mode="json"))
    row = SourceRow(id=uuid.uuid4(), kit_id=kit_id, draft=subject)
    session.add(row)
    session.flush()
    return row


def of_kit(session: Session, kit_id: uuid.UUID) -> list[tuple[SourceRow, Source]]:
    """The sources of a kit, oldest first."""
    rows = session.scalars(
        select(SourceRow).where(SourceRow.kit_id == kit_id).order_by(SourceRow.made_at, SourceRow.id)
    ).all()
    return [(row, source_of(session, row)) for row in rows]


def get(session: Session, source_id: uuid.UUID) -> SourceRow:
    """One source. Raises NotFoundError."""
    row = session.get(SourceRow, source_id)
    if row is None:
        raise NotFoundError("This source does not exist.")
    return row


def source_of(session: Session, row: SourceRow) -> Source:
    """The source as it stands."""
    return history.read(session, row.draft, Source)


def change(session: Session, row: SourceRow, label: str, made: Callable[[Source], Source]) -> Source:
    """Records the source that `made` gives for the one in force, with nobody else changing it meanwhile."""
    return history.change(session, row.draft, label, Source, made)


def remove(session: Session, row: SourceRow) -> None:
    """Removes a source with its history; the bytes stay, since others may hold them."""
    draft = row.draft
    session.delete(row)
    session.flush()
    session.delete(draft)

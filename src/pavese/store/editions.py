"""Editions as they are kept."""

from __future__ import annotations

import uuid
from collections.abc import Collection

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pavese.core.gather.source import Source, SourceKind
from pavese.core.kit.edition import PictureRights, Snapshot, SourceRights, unresolved
from pavese.store import history, kits, records, sources
from pavese.store.errors import NotFoundError, StoreError
from pavese.store.models import EditionRow, KitRow


def snapshot(session: Session, row: KitRow) -> Snapshot:
    """What would be published now."""
    found = (_rights(source) for _, source in sources.of_kit(session, row.id))
    return Snapshot(kit=kits.kit_of(session, row), sources=tuple(found))


def publish(session: Session, row: KitRow, note: str) -> EditionRow:
    """The draft as the next edition; two at once are taken one after the other.

    Raises StoreError for what cannot be published, and for what the latest edition holds already.
    """
    history.lock(session, row.draft)
    content = snapshot(session, row)
    blocking = [found.text for found in unresolved(content) if found.blocks]
    if blocking:
        raise StoreError(f"This cannot be published yet. {' '.join(blocking)}")
    latest = newest(session, row.id)
    if latest is not None and latest.digest == content.digest:
        raise StoreError(f"Nothing has changed since edition {latest.number}, published by {latest.who}.")
    made = EditionRow(
        id=uuid.uuid4(),
        kit_id=row.id,
        number=latest.number + 1 if latest else 1,
        note=note,
        who=records.author(session).name,
        body=content.model_dump(mode="json"),
        digest=content.digest,
    )
    session.add(made)
    session.flush()
    records.write(session, row.id, f"Publish edition {made.number}", {})
    return made


def newest(session: Session, kit_id: uuid.UUID) -> EditionRow | None:
    """The latest edition of a kit; None before the first."""
    query = select(EditionRow).where(EditionRow.kit_id == kit_id).order_by(EditionRow.number.desc()).limit(1)
    return session.scalars(query).first()


def newest_numbers(session: Session, kit_ids: Collection[uuid.UUID]) -> dict[uuid.UUID, int]:
    """The number of the latest edition of each kit that has any."""
    query = select(EditionRow.kit_id, func.max(EditionRow.number)).where(EditionRow.kit_id.in_(kit_ids))
    return dict(session.execute(query.group_by(EditionRow.kit_id)).all())


def listed(session: Session, kit_id: uuid.UUID) -> list[EditionRow]:
    """The editions of a kit, newest first."""
    query = select(EditionRow).where(EditionRow.kit_id == kit_id).order_by(EditionRow.number.desc())
    return list(session.scalars(query))


def get(session: Session, kit_id: uuid.UUID, number: int) -> EditionRow:
    """One edition. Raises NotFoundError."""
    # Numbers beyond what the column holds name no edition either.
    found = (
        session.scalars(select(EditionRow).where(EditionRow.kit_id == kit_id, EditionRow.number == number)).first()
        if 0 < number < 2**31
        else None
    )
    if found is None:
        raise NotFoundError(f"This kit has no edition {number}.")
    return found


def content_of(row: EditionRow) -> Snapshot:
    """What an edition holds."""
    return Snapshot.model_validate(row.body)


def _rights(source: Source) -> SourceRights:
    """What is known of a source; the picture of a page is its owner's own and asks for no rights."""
    pictures = () if source.kind is SourceKind.PAGE else source.pictures
    return SourceRights(
        name=source.name,
        kind=source.kind.value,
        pictures=tuple(
            PictureRights(name=one.name, origin=one.origin, author=one.author, rights=one.rights) for one in pictures
        ),
    )

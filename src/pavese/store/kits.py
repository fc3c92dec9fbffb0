"""Kits as they are kept."""

from __future__ import annotations

import uuid
from collections.abc import Callable

from sqlalchemy import select
from sqlalchemy.orm import Session

from pavese.core.kit.kit import Kit
from pavese.store import history
from pavese.store.errors import NotFoundError
from pavese.store.models import KitRow


def create(session: Session, kit: Kit) -> KitRow:
    """Keeps a new kit."""
    subject = history.begin(session, f"Start {kit.name}", kit.model_dump(mode="json"))
    row = KitRow(id=uuid.uuid4(), draft=subject)
    session.add(row)
    session.flush()
    return row


def listed(session: Session) -> list[tuple[KitRow, Kit]]:
    """All kits, oldest first."""
    return [(row, kit_of(session, row)) for row in session.scalars(select(KitRow).order_by(KitRow.made_at, KitRow.id))]


def get(session: Session, kit_id: uuid.UUID) -> KitRow:
    """One kit. Raises NotFoundError."""
    row = session.get(KitRow, kit_id)
    if row is None:
        raise NotFoundError("This kit does not exist.")
    return row


def kit_of(session: Session, row: KitRow) -> Kit:
    """The draft in force."""
    return Kit.model_validate(history.current(session, row.draft))


def change(session: Session, row: KitRow, label: str, made: Callable[[Kit], Kit]) -> Kit:
    """Records the kit that `made` gives for the draft in force, with nobody else changing it meanwhile."""
    history.lock(session, row.draft)
    kit = made(kit_of(session, row))
    history.record(session, row.draft, label, kit.model_dump(mode="json"))
    return kit

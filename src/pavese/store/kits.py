"""Kits as they are kept; every change of one is on record."""

from __future__ import annotations

import uuid
from collections.abc import Callable

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from pavese.core.kit.kit import Kit
from pavese.core.kit.places import touched
from pavese.store import history, records
from pavese.store.database import now
from pavese.store.errors import NotFoundError, StoreError
from pavese.store.models import KitRow, Subject


def create(session: Session, kit: Kit, label: str | None = None) -> KitRow:
    """Keeps a new kit; the first one is the active one."""
    label = label or f"Start {kit.name}"
    subject = history.begin(session, label, kit.model_dump(mode="json"))
    row = KitRow(id=uuid.uuid4(), draft=subject, active=_active(session) is None)
    session.add(row)
    session.flush()
    records.write(session, row.id, label, touched(Kit(name=kit.name), kit))
    return row


def listed(session: Session) -> list[tuple[KitRow, Kit]]:
    """All kits, archived ones too, oldest first."""
    rows = session.scalars(select(KitRow).order_by(KitRow.made_at, KitRow.id)).all()
    drafts = history.read_each(session, [row.draft for row in rows], Kit)
    return [(row, drafts[row.draft_id]) for row in rows]


def get(session: Session, kit_id: uuid.UUID) -> KitRow:
    """One kit. Raises NotFoundError."""
    row = session.get(KitRow, kit_id)
    if row is None:
        raise NotFoundError("This kit does not exist.")
    return row


def kit_of(session: Session, row: KitRow) -> Kit:
    """The draft in force."""
    return history.read(session, row.draft, Kit)


def change(session: Session, row: KitRow, label: str, made: Callable[[Kit], Kit]) -> Kit:
    """Records the kit that `made` gives for the draft in force, with nobody else changing it meanwhile.

    Raises ConflictError where it touches what someone else changed unseen.
    """
    history.lock(session, row.draft)
    before = kit_of(session, row)
    after = made(before)
    places = touched(before, after)
    if places:
        records.check_unseen(session, row.id, before, places)
        history.record(session, row.draft, label, after.model_dump(mode="json"))
        records.write(session, row.id, label, places)
    return after


def undo(session: Session, row: KitRow) -> Kit:
    """The draft before its last change. Raises NothingToUndoError, and ConflictError where that change is unseen."""
    return _moved(session, row, "Undo", history.undo)


def redo(session: Session, row: KitRow) -> Kit:
    """The draft with what was undone. Raises NothingToUndoError, and ConflictError after unseen changes."""
    return _moved(session, row, "Redo", history.redo)


def activate(session: Session, row: KitRow) -> None:
    """Makes it the kit everyone starts with. Raises StoreError for an archived one."""
    if row.archived_at is not None:
        raise StoreError("This kit is in the archive; take it out first.")
    session.execute(update(KitRow).where(KitRow.id != row.id).values(active=False))
    row.active = True
    session.flush()


def archive(session: Session, row: KitRow, away: bool) -> None:
    """Puts a kit into the archive, or takes it out again. The active one stays: StoreError."""
    if away and row.active:
        raise StoreError("This is the active kit; make another one active first.")
    row.archived_at = now(session) if away else None
    session.flush()


def _moved(session: Session, row: KitRow, word: str, move: Callable[[Session, Subject], str]) -> Kit:
    history.lock(session, row.draft)
    records.check_nothing_unseen(session, row.id)
    before = kit_of(session, row)
    label = move(session, row.draft)
    after = kit_of(session, row)
    records.write(session, row.id, f"{word}: {label}", touched(before, after))
    return after


def _active(session: Session) -> KitRow | None:
    return session.scalars(select(KitRow).where(KitRow.active)).first()

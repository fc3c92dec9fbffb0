"""Orders of a set in other forms: taken, worked on by one worker at a time, ended once."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Mapping, Sequence
from enum import StrEnum

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from pavese.core.handoff.export import Export
from pavese.core.kit.kit import Kit
from pavese.core.recolor.plan import Plan
from pavese.store import contents, queue, records
from pavese.store.database import now
from pavese.store.errors import NotFoundError, StoreError
from pavese.store.models import ExportRow, SetRow

TASK = "make_export"
#: Orders of one set that are kept; older ones go with their results.
_KEPT = 12


class State(StrEnum):
    """Where an order stands."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    FAILED = "failed"
    CANCELLED = "cancelled"


OPEN = (State.WAITING, State.RUNNING)


def order(session: Session, row: SetRow, plan: Plan, kit: Kit, wanted: Export, total: int) -> ExportRow:
    """Takes an order and puts it into the queue, both or neither."""
    made = ExportRow(
        id=uuid.uuid4(),
        set_id=row.id,
        who=records.author(session).name,
        wanted=wanted.model_dump(mode="json"),
        plan=plan.model_dump(mode="json"),
        kit=kit.model_dump(mode="json"),
        state=State.WAITING,
        done=0,
        total=total,
        notes=[],
    )
    session.add(made)
    session.flush()
    enqueue(session, made.id)
    for old in listed(session, row.id)[_KEPT:]:
        if old.state not in OPEN:
            session.delete(old)
    return made


def enqueue(session: Session, export_id: uuid.UUID) -> None:
    """Puts an order into the queue, within the caller's transaction. Only one worker at a time gets it (its lock)."""
    queue.enqueue(session, queue.EXPORTS, TASK, {"export_id": str(export_id)}, str(export_id))


def order_lost(session: Session) -> int:
    """Puts those into the queue again of which it knows nothing, though they have not ended; gives how many."""
    found = select(ExportRow.id).where(ExportRow.state.in_(OPEN), queue.without_entry(ExportRow.id))
    lost = session.scalars(found).all()
    for export_id in lost:
        enqueue(session, export_id)
    return len(lost)


def listed(session: Session, set_id: uuid.UUID) -> Sequence[ExportRow]:
    """The orders of a set, newest first, without their results."""
    return session.scalars(
        select(ExportRow).where(ExportRow.set_id == set_id).order_by(ExportRow.made_at.desc(), ExportRow.id)
    ).all()


def get(session: Session, export_id: uuid.UUID) -> ExportRow:
    """One order. Raises NotFoundError."""
    row = session.get(ExportRow, export_id)
    if row is None:
        raise NotFoundError("This export does not exist, or was replaced by newer ones.")
    return row


def result_size(session: Session, export_id: uuid.UUID) -> int:
    """How many bytes the zip of an order has. Raises NotFoundError for one that is not done."""
    return contents.size(session, _digest(session, export_id))


def result(session: Session, export_id: uuid.UUID) -> Iterator[bytes]:
    """The pieces of the zip of an order that is done. Raises NotFoundError."""
    return contents.pieces(session, _digest(session, export_id))


def cancel(session: Session, export_id: uuid.UUID) -> ExportRow:
    """Ends an order that is not done. Raises StoreError for one that is."""
    row = get(session, export_id)
    session.refresh(row, with_for_update=True)
    if row.state not in OPEN:
        raise StoreError(f"This export is {row.state} already.")
    row.state, row.claim, row.ended_at = State.CANCELLED, None, now(session)
    return row


def claim(session: Session, export_id: uuid.UUID) -> tuple[uuid.UUID, int] | None:
    """Takes an order for oneself, from whoever had it, and how often that was done; None when it has ended or is gone.

    A worker whose order was taken over finds out at its next `progress`, and ends nothing.
    """
    mine = uuid.uuid4()
    taken = session.execute(
        update(ExportRow)
        .where(ExportRow.id == export_id, ExportRow.state.in_(OPEN))
        .values(state=State.RUNNING, claim=mine, done=0, tries=ExportRow.tries + 1)
        .returning(ExportRow.tries)
    ).first()
    return (mine, taken[0]) if taken else None


def progress(session: Session, export_id: uuid.UUID, mine: uuid.UUID, done: int) -> bool:
    """Tells how far it is; False when the order is no longer ours, because it was cancelled or taken over."""
    return _mine(session, export_id, mine, {"done": done})


def end(session: Session, export_id: uuid.UUID, mine: uuid.UUID, digest: str | None, notes: Sequence[str]) -> bool:
    """Ends an order with its result, or, without one, as failed; False, and nothing changed, when it is not ours."""
    state = State.FAILED if digest is None else State.DONE
    values = {"state": state, "digest": digest, "notes": list(notes), "claim": None, "ended_at": now(session)}
    return _mine(session, export_id, mine, values)


def _mine(session: Session, export_id: uuid.UUID, mine: uuid.UUID, values: Mapping[str, object]) -> bool:
    changed = session.execute(
        update(ExportRow)
        .where(ExportRow.id == export_id, ExportRow.claim == mine, ExportRow.state == State.RUNNING)
        .values(**values)
        .returning(ExportRow.id)
    ).first()
    return changed is not None


def _digest(session: Session, export_id: uuid.UUID) -> str:
    digest = get(session, export_id).digest
    if digest is None:
        raise NotFoundError("This export has no result yet.")
    return digest

"""Orders of a set in other forms: taken, worked on by one worker at a time, ended once."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from enum import StrEnum

import orjson
from sqlalchemy import select, text, update
from sqlalchemy.orm import Session

from pavese.core.handoff.export import Export
from pavese.core.kit.kit import Kit
from pavese.core.recolor.plan import Plan
from pavese.store import records
from pavese.store.database import now
from pavese.store.errors import NotFoundError, StoreError
from pavese.store.models import ExportRow, SetRow

QUEUE, TASK = "exports", "make_export"
#: Orders of one set that are kept; older ones go with their results.
_KEPT = 12

_DEFER = text(
    "SELECT queue.procrastinate_defer_jobs_v1(ARRAY[ROW(CAST(:queue AS varchar), CAST(:task AS varchar), 0, "
    "CAST(:lock AS text), NULL::text, CAST(:args AS jsonb), NULL::timestamptz)::queue.procrastinate_job_to_defer_v1])"
)


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
    args = orjson.dumps({"export_id": str(export_id)}).decode()
    # The queue's functions name their own tables without the schema.
    session.execute(text("SET LOCAL search_path TO queue, public"))
    session.execute(_DEFER, {"queue": QUEUE, "task": TASK, "lock": str(export_id), "args": args})
    session.execute(text("SET LOCAL search_path TO DEFAULT"))


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


def result(session: Session, export_id: uuid.UUID) -> bytes:
    """The zip of an order that is done. Raises NotFoundError."""
    data = session.scalar(select(ExportRow.result).where(ExportRow.id == export_id))
    if data is None:
        raise NotFoundError("This export has no result yet.")
    return data


def cancel(session: Session, export_id: uuid.UUID) -> ExportRow:
    """Ends an order that is not done. Raises StoreError for one that is."""
    row = get(session, export_id)
    session.refresh(row, with_for_update=True)
    if row.state not in OPEN:
        raise StoreError(f"This export is {row.state} already.")
    row.state, row.claim, row.ended_at = State.CANCELLED, None, now(session)
    return row


def claim(session: Session, export_id: uuid.UUID) -> uuid.UUID | None:
    """Takes an order for oneself, from whoever had it; None when it has ended or is gone.

    A worker whose order was taken over finds out at its next `progress`, and ends nothing.
    """
    mine = uuid.uuid4()
    taken = session.execute(
        update(ExportRow)
        .where(ExportRow.id == export_id, ExportRow.state.in_(OPEN))
        .values(state=State.RUNNING, claim=mine, done=0)
        .returning(ExportRow.id)
    ).first()
    return mine if taken else None


def progress(session: Session, export_id: uuid.UUID, mine: uuid.UUID, done: int) -> bool:
    """Tells how far it is; False when the order is no longer ours, because it was cancelled or taken over."""
    return _mine(session, export_id, mine, {"done": done})


def end(session: Session, export_id: uuid.UUID, mine: uuid.UUID, data: bytes | None, notes: Sequence[str]) -> bool:
    """Ends an order with its result, or, without one, as failed; False, and nothing changed, when it is not ours."""
    state = State.FAILED if data is None else State.DONE
    values = {"state": state, "result": data, "notes": list(notes), "claim": None, "ended_at": now(session)}
    return _mine(session, export_id, mine, values)


def _mine(session: Session, export_id: uuid.UUID, mine: uuid.UUID, values: Mapping[str, object]) -> bool:
    changed = session.execute(
        update(ExportRow)
        .where(ExportRow.id == export_id, ExportRow.claim == mine, ExportRow.state == State.RUNNING)
        .values(**values)
        .returning(ExportRow.id)
    ).first()
    return changed is not None

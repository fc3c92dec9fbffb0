"""The queue of work: entries are made in the transaction that orders the work, so that both are there or neither.

The tables of what was ordered say what is to be done; the queue only says when. Work that was ordered and has lost its
entry, since a worker fell or gave up too often, is given a new one.
"""

from __future__ import annotations

import uuid
from collections.abc import Mapping

import orjson
from sqlalchemy import ColumnElement, String, cast, column, select, table, text
from sqlalchemy.orm import InstrumentedAttribute, Session

DROPS, EXPORTS = "drops", "exports"
ALL = (DROPS, EXPORTS)
#: What felled its worker, or failed, so often is given up, with a word.
MOST_TRIES = 4

_DEFER = text(
    "SELECT queue.procrastinate_defer_jobs_v1(ARRAY[ROW(CAST(:queue AS varchar), CAST(:task AS varchar), 0, "
    "CAST(:lock AS text), NULL::text, CAST(:args AS jsonb), NULL::timestamptz)::queue.procrastinate_job_to_defer_v1])"
)


class NoLongerOursError(Exception):
    """What was being worked on was cancelled, or another worker has taken it over."""


def enqueue(session: Session, queue: str, task: str, args: Mapping[str, str], lock: str) -> None:
    """An entry within the caller's transaction; of those with one lock, one is worked on at a time."""
    # The queue's functions name their own tables without the schema.
    session.execute(text("SET LOCAL search_path TO queue, public"))
    session.execute(_DEFER, {"queue": queue, "task": task, "lock": lock, "args": orjson.dumps(dict(args)).decode()})
    session.execute(text("SET LOCAL search_path TO DEFAULT"))


def without_entry(id_: InstrumentedAttribute[uuid.UUID]) -> ColumnElement[bool]:
    """Whether nothing in the queue, waiting or being worked on, is for what was ordered under an id (its lock)."""
    jobs = table("procrastinate_jobs", column("lock"), column("status"), schema="queue")
    live = select(jobs.c.lock).where(
        jobs.c.lock == cast(id_, String), cast(jobs.c.status, String).in_(("todo", "doing"))
    )
    return ~live.exists()

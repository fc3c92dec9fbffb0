"""Undo and redo for everything that is drafted: a subject's revisions, and which of them is in force."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import datetime
from threading import Lock
from typing import Any, TypeVar

from cachetools import LRUCache
from pydantic import BaseModel
from sqlalchemy import ColumnElement, Select, String, delete, literal_column, or_, select, tuple_
from sqlalchemy.orm import Session

from pavese.store.errors import NothingToUndoError
from pavese.store.models import Revision, Subject

Body = TypeVar("Body", bound=BaseModel)

#: Revisions kept of one subject; older ones can no longer be undone to.
_KEPT = 500


@dataclass(frozen=True)
class HistoryState:
    """What undo and redo would do, in words (None: nothing to do), and when the draft was last saved."""

    undo: str | None
    redo: str | None
    saved_at: datetime
    revision: int


def begin(session: Session, label: str, body: dict[str, Any]) -> Subject:
    """A new subject with its first revision, which cannot be undone."""
    subject = Subject(id=uuid.uuid4(), head=0)
    session.add(subject)
    session.flush()
    session.add(Revision(subject_id=subject.id, number=0, label=label, body=body))
    session.flush()
    return subject


def current(session: Session, subject: Subject) -> dict[str, Any]:
    """The body of the revision in force."""
    return session.scalars(_revision(subject, subject.head)).one().body


def lock(session: Session, subject: Subject) -> None:
    """Waits for other changes of the subject and reads it again; call it before reading what a change builds on."""
    session.refresh(subject, with_for_update=True)


def record(session: Session, subject: Subject, label: str, body: dict[str, Any]) -> None:
    """A new revision above the head; what could be redone is gone. A body equal to the one in force adds nothing."""
    if current(session, subject) != body:
        _add(session, subject, label, body)


def _add(session: Session, subject: Subject, label: str, body: dict[str, Any]) -> None:
    head = subject.head + 1
    gone = or_(Revision.number >= head, Revision.number < head - _KEPT)
    session.execute(delete(Revision).where(Revision.subject_id == subject.id, gone))
    session.add(Revision(subject_id=subject.id, number=head, label=label, body=body))
    subject.head = head
    session.flush()


def stamp(revisions: str) -> ColumnElement[str]:
    """What changes with every write of a revision, be it amended (PostgreSQL 17, 5.6: a row's version is told by its
    place and by who wrote it); `revisions` names the table in the query."""
    return literal_column(f"{revisions}.xmin::text || {revisions}.ctid::text", String)


#: Values as they were read last, by subject, number and stamp of the revision.
_VALUES: LRUCache[tuple[uuid.UUID, int, str], BaseModel] = LRUCache(256)
_LOCK = Lock()


def read(session: Session, subject: Subject, kind: type[Body]) -> Body:
    """The revision in force as the value it holds, which nobody changes."""
    return read_each(session, [subject], kind)[subject.id]


def read_each(session: Session, subjects: Iterable[Subject], kind: type[Body]) -> dict[uuid.UUID, Body]:
    """The revision in force of each subject, by its id, as the value it holds, which nobody changes."""
    heads = {subject.id: subject.head for subject in subjects}
    at, key = stamp(Revision.__tablename__), tuple_(Revision.subject_id, Revision.number)
    stamps = session.execute(select(Revision.subject_id, at).where(key.in_(heads.items()))).all()
    with _LOCK:
        known = {id_: _VALUES.get((id_, heads[id_], now)) for id_, now in stamps}
    found = {id_: value for id_, value in known.items() if isinstance(value, kind)}
    if missing := [(id_, head) for id_, head in heads.items() if id_ not in found]:
        for id_, body, now in session.execute(select(Revision.subject_id, Revision.body, at).where(key.in_(missing))):
            found[id_] = kind.model_validate(body)
            with _LOCK:
                _VALUES[id_, heads[id_], now] = found[id_]
    return found


def change(session: Session, subject: Subject, label: str, kind: type[Body], made: Callable[[Body], Body]) -> Body:
    """Records the value that `made` gives for the one in force, with nobody else changing it meanwhile; one equal to it
    adds nothing."""
    lock(session, subject)
    before = read(session, subject, kind)
    value = made(before)
    if value != before:
        _add(session, subject, label, value.model_dump(mode="json"))
    return value


def amend(session: Session, subject: Subject, body: dict[str, Any]) -> None:
    """Changes the revision in force itself, for what is not a choice of anyone's, such as newly arrived files."""
    session.scalars(_revision(subject, subject.head)).one().body = body
    session.flush()


def undo(session: Session, subject: Subject) -> str:
    """Steps back; gives the label of what was undone. Raises NothingToUndoError."""
    label = session.scalars(_revision(subject, subject.head)).one().label
    if session.scalars(_revision(subject, subject.head - 1)).first() is None:
        raise NothingToUndoError("There is nothing to undo.")
    subject.head -= 1
    session.flush()
    return label


def redo(session: Session, subject: Subject) -> str:
    """Steps forward; gives the label of what was done again. Raises NothingToUndoError."""
    following = session.scalars(_revision(subject, subject.head + 1)).first()
    if following is None:
        raise NothingToUndoError("There is nothing to redo.")
    subject.head += 1
    session.flush()
    return following.label


def state(session: Session, subject: Subject) -> HistoryState:
    """Where the subject stands in its history."""
    while subject.head not in (around := _around(session, subject)):
        # Somebody else went back behind it meanwhile.
        session.refresh(subject)
    label, saved_at = around[subject.head]
    following, _ = around.get(subject.head + 1, (None, None))
    return HistoryState(
        undo=label if subject.head - 1 in around else None, redo=following, saved_at=saved_at, revision=subject.head
    )


def _around(session: Session, subject: Subject) -> dict[int, tuple[str, datetime]]:
    """What the revisions beside the head are called, and when they were made: their bodies may be large."""
    near = Revision.number.between(subject.head - 1, subject.head + 1)
    told = select(Revision.number, Revision.label, Revision.made_at).where(Revision.subject_id == subject.id, near)
    return {number: (label, made_at) for number, label, made_at in session.execute(told)}


def _revision(subject: Subject, number: int) -> Select[Revision]:
    return select(Revision).where(Revision.subject_id == subject.id, Revision.number == number)

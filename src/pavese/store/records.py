"""The append-only record: every change of a kit, by whom, with what stood there before and after.

Who works through a session, and which record of the kit they had seen last, are noted on the session itself, once,
where it is opened; the record and the check against what others did meanwhile read them from there.
"""

from __future__ import annotations

import uuid
from collections.abc import Collection, Mapping
from typing import NamedTuple

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pavese.core.kit.kit import Kit
from pavese.core.kit.places import Touched, in_words, meant, shared
from pavese.store.errors import Clash, ConflictError
from pavese.store.models import Comment, Record

_AUTHOR = "author"


class Author(NamedTuple):
    """Who works through a session, in which of their windows; `seen` is the last record that window knows of (None: it
    does not say)."""

    user_id: uuid.UUID | None
    name: str
    seen: int | None = None
    window: str = ""


#: What works without a person, such as the loading of the demo.
NOBODY = Author(None, "Pavese")


def work_as(session: Session, author: Author) -> None:
    """Notes who works through the session."""
    session.info[_AUTHOR] = author


def author(session: Session) -> Author:
    """Who works through the session."""
    found: Author = session.info.get(_AUTHOR, NOBODY)
    return found


def write(session: Session, kit_id: uuid.UUID, what: str, places: Mapping[str, Touched]) -> None:
    """Adds a record."""
    who = author(session)
    body = {place: change._asdict() for place, change in places.items()}
    session.add(Record(kit_id=kit_id, user_id=who.user_id, who=who.name, window=who.window, what=what, places=body))
    session.flush()


def last(session: Session, kit_id: uuid.UUID) -> int:
    """The number of a kit's newest record; 0 where there is none."""
    return session.scalar(select(func.max(Record.id)).where(Record.kit_id == kit_id)) or 0


def listed(session: Session, kit_id: uuid.UUID, before: int | None = None, most: int = 100) -> list[Record]:
    """The records of a kit, newest first, from before a number on."""
    query = select(Record).where(Record.kit_id == kit_id).order_by(Record.id.desc()).limit(most)
    return list(session.scalars(query if before is None else query.where(Record.id < before)))


def last_of(session: Session, kit_ids: Collection[uuid.UUID]) -> dict[uuid.UUID, Record]:
    """The newest record of each kit."""
    newest = select(func.max(Record.id)).where(Record.kit_id.in_(kit_ids)).group_by(Record.kit_id)
    return {record.kit_id: record for record in session.scalars(select(Record).where(Record.id.in_(newest)))}


def check_unseen(session: Session, kit_id: uuid.UUID, kit: Kit, mine: Mapping[str, Touched]) -> None:
    """Raises ConflictError where someone else changed, unseen, a place that is to be changed now.

    Changes of different places do not stand in each other's way: they are made one on top of the other.
    """
    unseen = _unseen(session, kit_id)
    theirs = {place: record for record in unseen for place in record.places}
    wanted = meant(mine)
    hit = shared(wanted, theirs)
    if not hit:
        return
    who = next(_who(session, record) for record in reversed(unseen) if shared(wanted, record.places))
    words = [in_words(place, kit) for place in hit]
    more = f" and {len(words) - 1} more" if len(words) > 1 else ""
    clashes = tuple(
        Clash(word, wanted[place].before, wanted[place].after) for word, place in zip(words, hit, strict=True)
    )
    raise ConflictError(f"{who} changed the same meanwhile: {words[0]}{more}. Nothing of yours is saved yet.", clashes)


def check_nothing_unseen(session: Session, kit_id: uuid.UUID) -> None:
    """Raises ConflictError where someone else changed anything unseen; for undo and redo, which take what is last."""
    unseen = _unseen(session, kit_id)
    if unseen:
        newest = unseen[-1]
        raise ConflictError(
            f"{_who(session, newest)} changed the kit meanwhile: {newest.what}. Look first, then undo.", ()
        )


def comment(session: Session, kit_id: uuid.UUID, about: str, text: str) -> None:
    """Adds a comment."""
    session.add(Comment(kit_id=kit_id, who=author(session).name, about=about, text=text))
    session.flush()


def comments(session: Session, kit_id: uuid.UUID) -> list[Comment]:
    """The comments on a kit, newest first."""
    return list(session.scalars(select(Comment).where(Comment.kit_id == kit_id).order_by(Comment.id.desc()).limit(500)))


def _unseen(session: Session, kit_id: uuid.UUID) -> list[Record]:
    """Records of others, and of another window of one's own, behind the last one seen, oldest first."""
    who = author(session)
    if who.seen is None:
        return []
    query = select(Record).where(Record.kit_id == kit_id, Record.id > who.seen).order_by(Record.id)
    mine = who.user_id, who.window
    return [record for record in session.scalars(query) if (record.user_id, record.window) != mine]


def _who(session: Session, record: Record) -> str:
    return "You, in another window," if record.user_id == author(session).user_id else record.who

"""Files on their way into a set: received in any number of requests, read by one worker at a time, planned once.

A drop is first `receiving`, then `whole`, and ends `done` or `cancelled`. What has arrived is kept from the request on
in which it did, so nothing of it is lost with a connection, a page or a worker.
"""

from __future__ import annotations

import uuid
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import timedelta
from enum import StrEnum
from typing import NamedTuple

from sqlalchemy import delete, func, select, update
from sqlalchemy.orm import Session

from pavese.core.formats.intake import digest as digest_of
from pavese.store import contents, queue, records
from pavese.store.database import now
from pavese.store.errors import NotFoundError, StoreError
from pavese.store.models import Arrival, ContentRow, DropRow, RefusedRow, SetRow

TASK = "take_drop"
#: After this long without anything new, a drop whose sender went away is ended with what has come.
LEFT_AFTER = timedelta(minutes=10)
#: So long it is told what was refused, and the files that sets of other channels would take can be brought to one.
_KEPT_FOR = timedelta(days=1)
#: Refusals that are listed, of more only the number is told; and how much of a name is.
_LISTED, _LONGEST = 500, 400


class DropState(StrEnum):
    """Where a drop stands."""

    RECEIVING = "receiving"
    WHOLE = "whole"
    DONE = "done"
    CANCELLED = "cancelled"


OPEN = (DropState.RECEIVING, DropState.WHOLE)


@dataclass(frozen=True)
class Waiting:
    """An arrival that has not been read: where it stands in its drop, its name, size and hash, and where it is an
    archive how many files of it have been read, and which are wanted if not all are."""

    id: int
    name: str
    size: int
    digest: str
    members: int
    rights: Mapping[str, str]
    only: frozenset[str] | None = None


class RefusedFile(NamedTuple):
    """A file that was not taken, why, and the channel whose sets would take it, if any."""

    name: str
    reason: str
    channel: str = ""


def begin(session: Session, row: SetRow, expected: int) -> DropRow:
    """A drop of so many files into a set (or the original of a variant)."""
    made = DropRow(
        id=uuid.uuid4(),
        set_id=row.files_id,
        who=records.author(session).name,
        state=DropState.RECEIVING,
        expected=expected,
        read=0,
        taken=0,
        tries=0,
    )
    session.add(made)
    session.flush()
    return made


def get(session: Session, drop_id: uuid.UUID, *, hold: bool = False) -> DropRow:
    """One drop, on request held until the transaction ends. Raises NotFoundError."""
    row = session.get(DropRow, drop_id, with_for_update=hold or None)
    if row is None:
        raise NotFoundError("This drop does not exist.")
    return row


def latest(session: Session, row: SetRow) -> DropRow | None:
    """The drop into a set that began last."""
    found = select(DropRow).where(DropRow.set_id == row.files_id).order_by(DropRow.made_at.desc()).limit(1)
    return session.scalars(found).first()


def arriving(session: Session, row: SetRow) -> bool:
    """Whether files are on their way into a set."""
    found = select(DropRow.id).where(DropRow.set_id == row.files_id, DropRow.state.in_(OPEN)).limit(1)
    return session.scalars(found).first() is not None


def receive(
    session: Session,
    row: DropRow,
    files: Sequence[tuple[str, bytes]],
    rights: Mapping[str, Mapping[str, str]] | None = None,
) -> None:
    """Keeps what has come, and has it read. What came before under the same name and size is not taken twice.

    Raises StoreError for a drop that has ended.
    """
    _receiving(session, row)
    names = [name for name, _ in files]
    known = {
        (name, size)
        for name, size in session.execute(
            select(Arrival.name, Arrival.size).where(Arrival.drop_id == row.id, Arrival.name.in_(names))
        ).all()
    }
    new = [(name, data) for name, data in files if (name, len(data)) not in known]
    keyed = [(name, digest_of(data), data) for name, data in new]
    contents.keep(session, {key: data for _, key, data in keyed})
    for name, key, data in keyed:
        own = dict((rights or {}).get(name, {}))
        session.add(Arrival(drop_id=row.id, name=name, size=len(data), digest=key, rights=own, members=0, done=False))
    session.flush()
    _order(session, row)


def receive_piece(session: Session, row: DropRow, name: str, size: int, offset: int, data: bytes) -> int:
    """Keeps one piece of a large file that comes in several; gives up to where all of it is there.

    A piece is `contents.PIECE` long, but for the last one, and may be sent twice. Raises StoreError for one that is
    not where a piece begins, and for a drop that has ended.
    """
    _receiving(session, row)
    last = offset + len(data) == size
    if offset % contents.PIECE or not data or len(data) > contents.PIECE or (len(data) < contents.PIECE and not last):
        raise StoreError(
            f"A piece begins at a multiple of {contents.PIECE:,} bytes and is as long, but for the last one."
        )
    arrival = session.scalars(
        select(Arrival).where(Arrival.drop_id == row.id, Arrival.name == name, Arrival.size == size)
    ).first()
    if arrival is None:
        content = contents.begin(session)
        arrival = Arrival(drop_id=row.id, name=name, size=size, content_id=content, members=0, done=False)
        session.add(arrival)
        session.flush()
    if arrival.content_id is None:
        return size
    contents.append(session, arrival.content_id, offset // contents.PIECE, data)
    come: int = session.scalars(select(ContentRow.size).where(ContentRow.id == arrival.content_id)).one()
    if come == size:
        content, arrival.content_id = arrival.content_id, None
        session.flush()
        arrival.digest = contents.finish(session, content)[0]
        session.flush()
        _order(session, row)
    return come


def refuse(session: Session, row: DropRow, name: str, reason: str) -> None:
    """Refuses a file of which nothing is kept; once, however often it is tried. Raises StoreError as `receive` does."""
    _receiving(session, row)
    known = select(RefusedRow.id).where(RefusedRow.drop_id == row.id, RefusedRow.name == name)
    if session.scalars(known).first() is None:
        told(session, row, taken=0, refused=[RefusedFile(name, reason)])


def close(session: Session, row: DropRow) -> None:
    """Says that all has come: what is not whole yet will not be. Closing twice is fine."""
    session.refresh(row, with_for_update=True)
    if row.state != DropState.RECEIVING:
        return
    row.state = DropState.WHOLE
    for arrival in session.scalars(select(Arrival).where(Arrival.drop_id == row.id, Arrival.digest.is_(None))).all():
        session.delete(arrival)
        session.add(RefusedRow(drop_id=row.id, name=arrival.name, reason="not all of it has come; drop it again."))
    _order(session, row)


def cancel(session: Session, row: DropRow) -> None:
    """Leaves out what has not been read; what was taken stays and is planned."""
    session.refresh(row, with_for_update=True)
    if row.state in OPEN:
        session.execute(delete(Arrival).where(Arrival.drop_id == row.id, Arrival.done.is_(False)))
        row.state = DropState.WHOLE
        row.expected = row.read
        _order(session, row)


def refusals(session: Session, row: DropRow) -> tuple[int, Sequence[RefusedRow]]:
    """How many files were refused, and the first of them."""
    of = RefusedRow.drop_id == row.id
    count = session.scalar(select(func.count()).select_from(RefusedRow).where(of)) or 0
    return count, session.scalars(select(RefusedRow).where(of).order_by(RefusedRow.id).limit(_LISTED)).all()


def arrived(session: Session, row: DropRow) -> int:
    """How many files have come."""
    whole = select(func.count()).select_from(Arrival).where(Arrival.drop_id == row.id, Arrival.digest.is_not(None))
    return session.scalar(whole) or 0


def claim(session: Session, drop_id: uuid.UUID) -> tuple[uuid.UUID, int] | None:
    """Takes a drop for oneself, from whoever had it, and how often that was done since something was last read of it;
    None when it has ended or is gone."""
    mine = uuid.uuid4()
    taken = session.execute(
        update(DropRow)
        .where(DropRow.id == drop_id, DropRow.state.in_(OPEN))
        .values(claim=mine, tries=DropRow.tries + 1)
        .returning(DropRow.tries)
    ).first()
    return (mine, taken[0]) if taken else None


def waiting(session: Session, drop_id: uuid.UUID, most: int, megabytes: float, behind: int = 0) -> list[Waiting]:
    """The next arrivals to be read `behind` another, at least one and together not larger than that."""
    rows = session.scalars(
        select(Arrival)
        .where(
            Arrival.drop_id == drop_id,
            Arrival.done.is_(False),
            Arrival.digest.is_not(None),
            Arrival.id > behind,
        )
        .order_by(Arrival.id)
        .limit(most)
    ).all()
    found: list[Waiting] = []
    room = megabytes * 1024 * 1024
    for row in rows:
        if found and row.size > room:
            break
        room -= row.size
        assert row.digest is not None
        only = None if row.only is None else frozenset(row.only)
        found.append(Waiting(row.id, row.name, row.size, row.digest, row.members, row.rights, only))
    return found


def locked(session: Session, drop_id: uuid.UUID, mine: uuid.UUID) -> DropRow | None:
    """The drop, held until the transaction ends; None when it is no longer ours, or has ended."""
    found = select(DropRow).where(DropRow.id == drop_id, DropRow.claim == mine, DropRow.state.in_(OPEN))
    return session.scalars(found.with_for_update().execution_options(populate_existing=True)).first()


def told(session: Session, row: DropRow, *, taken: int, refused: Sequence[RefusedFile]) -> None:
    """Writes down what became of files."""
    row.read += taken + len(refused)
    row.taken += taken
    row.tries = 0
    session.add_all(
        RefusedRow(drop_id=row.id, name=one.name[:_LONGEST], reason=one.reason, channel=one.channel) for one in refused
    )
    session.flush()


def read_whole(session: Session, arrivals: Iterable[int]) -> None:
    """Writes down that all of these arrivals has been read."""
    session.execute(update(Arrival).where(Arrival.id.in_(list(arrivals))).values(done=True))


def read_members(session: Session, arrival: int, members: int) -> None:
    """Writes down how many files of an archive have been read."""
    session.execute(update(Arrival).where(Arrival.id == arrival).values(members=members))


def came(session: Session, row: DropRow) -> dict[str, str]:
    """The names and digests of the files of a drop that came whole."""
    found = select(Arrival.name, Arrival.digest).where(Arrival.drop_id == row.id, Arrival.digest.is_not(None))
    return {name: str(digest) for name, digest in session.execute(found).all()}


def not_refused(session: Session, row: DropRow, names: Collection[str]) -> None:
    """Takes back that files were refused: they belong to others."""
    if names:
        session.execute(delete(RefusedRow).where(RefusedRow.drop_id == row.id, RefusedRow.name.in_(names)))


def end(session: Session, row: DropRow) -> None:
    """A drop of which all was read has ended; its list of arrivals goes, but for those that another set would take."""
    row.state, row.claim, row.ended_at = DropState.DONE, None, now(session)
    row.expected = row.read
    elsewhere = select(RefusedRow.name).where(RefusedRow.drop_id == row.id, RefusedRow.channel != "")
    # Of an archive it is not known here which of its files those are; it is looked into again.
    wanted = elsewhere.exists() & ((Arrival.members > 0) | Arrival.name.in_(elsewhere))
    session.execute(delete(Arrival).where(Arrival.drop_id == row.id, ~wanted))
    session.flush()


def left(session: Session, row: DropRow) -> dict[str, int]:
    """How many files of a drop that has ended are there still to be brought to sets of other channels."""
    there = select(Arrival.id).where(Arrival.drop_id == row.id).exists()
    counted = (
        select(RefusedRow.channel, func.count())
        .where(RefusedRow.drop_id == row.id, RefusedRow.channel != "", there)
        .group_by(RefusedRow.channel)
        .order_by(RefusedRow.channel)
    )
    return {} if row.ended_at is None else dict(session.execute(counted).all())


def bring(session: Session, row: DropRow, channel: str, to: SetRow) -> DropRow:
    """A drop into another set of what was left for its channel, read as if it had just come."""
    elsewhere = select(RefusedRow.name).where(RefusedRow.drop_id == row.id, RefusedRow.channel == channel)
    names = session.scalars(elsewhere.order_by(RefusedRow.id)).all()
    wanted = set(names)
    made = begin(session, to, len(names))
    for one in session.scalars(select(Arrival).where(Arrival.drop_id == row.id).order_by(Arrival.id)).all():
        if not one.members and one.name not in wanted:
            continue
        copy = {"name": one.name, "size": one.size, "digest": one.digest, "rights": one.rights}
        only = list(names) if one.members else None
        session.add(Arrival(drop_id=made.id, **copy, only=only, members=0, done=False))
    session.flush()
    close(session, made)
    session.execute(delete(RefusedRow).where(RefusedRow.drop_id == row.id, RefusedRow.channel == channel))
    return made


def forget_refusals(session: Session, row: DropRow | None = None) -> None:
    """What was refused of a drop is not told any more, and what other sets would take not kept; without one, of those
    that ended long ago. Raises StoreError for a drop that is still read."""
    if row is not None and row.state in OPEN:
        raise StoreError("These files are still being read.")
    old = select(DropRow.id).where(DropRow.ended_at < now(session) - _KEPT_FOR)
    for table in (Arrival, RefusedRow):
        session.execute(delete(table).where(table.drop_id.in_(old if row is None else [row.id])))


def forget_left(session: Session, row: DropRow) -> None:
    """What was left of a drop for sets of other channels is not kept any more."""
    session.execute(delete(Arrival).where(Arrival.drop_id == row.id))


def close_left(session: Session) -> None:
    """Ends the drops whose sender went away."""
    left = select(DropRow).where(DropRow.state == DropState.RECEIVING, DropRow.seen_at < now(session) - LEFT_AFTER)
    for row in session.scalars(left).all():
        close(session, row)


def order_lost(session: Session) -> int:
    """Has those read again of which the queue knows nothing, though there is something to do; gives how many."""
    unread = select(Arrival.id).where(
        Arrival.drop_id == DropRow.id, Arrival.done.is_(False), Arrival.digest.is_not(None)
    )
    found = select(DropRow).where(
        DropRow.state.in_(OPEN),
        (DropRow.state == DropState.WHOLE) | unread.exists(),
        queue.without_entry(DropRow.id),
    )
    lost = session.scalars(found).all()
    for row in lost:
        _order(session, row)
    return len(lost)


def _receiving(session: Session, row: DropRow) -> None:
    session.refresh(row, with_for_update=True)
    if row.state != DropState.RECEIVING:
        raise StoreError("This drop has ended; drop the files again.")
    row.seen_at = now(session)


def _order(session: Session, row: DropRow) -> None:
    queue.enqueue(session, queue.DROPS, TASK, {"drop_id": str(row.id)}, str(row.id))

"""The bytes of files, each once, under their SHA-256, in pieces: written and read without all of one in memory."""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Collection, Iterable, Iterator, Mapping
from pathlib import Path
from threading import Lock

from cachetools import LRUCache
from sqlalchemy import delete, func, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pavese.store.models import ContentRow, Piece

#: Bytes of a piece; only the last one of a content has fewer.
PIECE = 1024 * 1024
#: Bytes of small files that are at hand, and of the largest of them.
_AT_HAND, _LARGEST_AT_HAND = 24 * 1024 * 1024, 128 * 1024
_SMALL: LRUCache[str, bytes] = LRUCache(_AT_HAND, getsizeof=len)
_SMALL_LOCK = Lock()

#: Every place that names contents by their digest. In histories and editions digests stand inside of what is kept.
_UNUSED = text("""
    DELETE FROM contents WHERE made_at < clock_timestamp() - make_interval(secs => :seconds) AND NOT EXISTS (
        SELECT 1 FROM arrivals WHERE arrivals.content_id = contents.id OR arrivals.digest = contents.digest
    ) AND NOT EXISTS (SELECT 1 FROM assets WHERE assets.digest = contents.digest
    ) AND NOT EXISTS (SELECT 1 FROM link_files WHERE link_files.digest = contents.digest
    ) AND (digest IS NULL OR digest NOT IN (
        SELECT came.value->>1
        FROM (SELECT beside FROM assets UNION ALL SELECT beside FROM link_files) AS with_others,
            jsonb_each(with_others.beside) AS came
        WHERE jsonb_array_length(came.value) = 2)
    ) AND NOT EXISTS (SELECT 1 FROM exports WHERE exports.digest = contents.digest
    ) AND (digest IS NULL OR digest NOT IN (
        SELECT named[1] FROM revisions, regexp_matches(body::text, '"([0-9a-f]{64})"', 'g') AS named
        UNION SELECT named[1] FROM editions, regexp_matches(body::text, '"([0-9a-f]{64})"', 'g') AS named
        UNION SELECT named[1] FROM links, regexp_matches(body::text, '"([0-9a-f]{64})"', 'g') AS named
    ))
""")


def keep(session: Session, files: Mapping[str, bytes]) -> None:
    """Keeps small files under their hashes; what is there already stays, and is new again for `sweep`."""
    if not files:
        return
    new = {uuid.uuid4(): digest for digest in sorted(files)}
    rows = [{"id": made, "digest": digest, "size": len(files[digest])} for made, digest in new.items()]
    asked = insert(ContentRow).values(rows)
    touched = asked.on_conflict_do_update(index_elements=["digest"], set_={"made_at": func.clock_timestamp()})
    found = session.scalars(touched.returning(ContentRow.id)).all()
    pieces = [
        {"content_id": made, "number": number, "data": piece}
        for made in found
        if made in new
        for number, piece in enumerate(_cut(files[new[made]]))
    ]
    if pieces:
        session.execute(insert(Piece), pieces)


def write(session: Session, chunks: Iterable[bytes]) -> tuple[str, int]:
    """Keeps what comes in chunks of any size; gives its hash and its size."""
    made, number, hashed = begin(session), 0, hashlib.sha256()
    rest = bytearray()
    for chunk in chunks:
        hashed.update(chunk)
        rest += chunk
        while len(rest) >= PIECE:
            append(session, made, number, bytes(rest[:PIECE]))
            del rest[:PIECE]
            number += 1
    if rest:
        append(session, made, number, bytes(rest))
    return finish(session, made, hashed.hexdigest())


def begin(session: Session) -> uuid.UUID:
    """A content that has no name yet, since not all of it is there."""
    made = uuid.uuid4()
    session.execute(insert(ContentRow).values(id=made, digest=None, size=0))
    return made


def append(session: Session, content: uuid.UUID, number: int, data: bytes) -> None:
    """One piece more; a piece that is there already stays, so that it may be sent twice."""
    added = insert(Piece).values(content_id=content, number=number, data=data).on_conflict_do_nothing()
    if session.execute(added.returning(Piece.number)).first() is not None:
        more = ContentRow.size + len(data)
        session.execute(update(ContentRow).where(ContentRow.id == content).values(size=more))


def finish(session: Session, content: uuid.UUID, digest: str | None = None) -> tuple[str, int]:
    """Gives a content its hash (computed here where it is not known) and its size; one that was there already stays."""
    if digest is None:
        hashed = hashlib.sha256()
        for piece in _pieces(session, content):
            hashed.update(piece)
        digest = hashed.hexdigest()
    touch = update(ContentRow).where(ContentRow.digest == digest).values(made_at=func.clock_timestamp())
    known = session.scalars(touch.returning(ContentRow.size)).first()
    if known is not None:
        session.execute(delete(ContentRow).where(ContentRow.id == content))
        return digest, known
    named = update(ContentRow).where(ContentRow.id == content).values(digest=digest).returning(ContentRow.size)
    return digest, session.execute(named).scalar_one()


def size(session: Session, digest: str) -> int:
    """How many bytes a file has."""
    return session.scalars(select(ContentRow.size).where(ContentRow.digest == digest)).one()


def known(session: Session, digests: Collection[str]) -> set[str]:
    """Those of some hashes of which the content is here."""
    found = session.scalars(select(ContentRow.digest).where(ContentRow.digest.in_(digests)))
    return {digest for digest in found if digest is not None}


def pieces(session: Session, digest: str) -> Iterator[bytes]:
    """The pieces of a file in their order, one at a time."""
    return _pieces(session, _id(session, digest))


def data(session: Session, digest: str) -> bytes:
    """The whole of a file that is small by the bounds of its format; those that were asked for last are at hand."""
    with _SMALL_LOCK:
        known = _SMALL.get(digest)
    if known is not None:
        return known
    found = select(Piece.data).join(ContentRow).where(ContentRow.digest == digest).order_by(Piece.number)
    parts = session.scalars(found).all()
    whole = parts[0] if len(parts) == 1 else b"".join(parts)
    if 0 < len(whole) <= _LARGEST_AT_HAND:
        with _SMALL_LOCK:
            _SMALL[digest] = whole
    return whole


def several(session: Session, digests: Iterable[str]) -> dict[str, bytes]:
    """Small files by their hashes, in one query."""
    found = (
        select(ContentRow.digest, Piece.data)
        .join(Piece)
        .where(ContentRow.digest.in_(set(digests)))
        .order_by(ContentRow.digest, Piece.number)
    )
    parts: dict[str, list[bytes]] = {digest: [] for digest in digests}
    for digest, piece in session.execute(found).all():
        parts[str(digest)].append(piece)
    return {digest: b"".join(known) for digest, known in parts.items()}


def heads(session: Session, digests: Iterable[str], count: int) -> dict[str, bytes]:
    """The first bytes of files, by their hashes; an empty file has none."""
    found = (
        select(ContentRow.digest, func.substring(Piece.data, 1, count))
        .join(Piece)
        .where(ContentRow.digest.in_(set(digests)), Piece.number == 0)
    )
    return {str(digest): bytes(head) for digest, head in session.execute(found).all()}


def to_file(session: Session, digest: str, path: Path) -> None:
    """Writes a file out, for a reader that needs one."""
    with path.open("wb") as target:
        for piece in pieces(session, digest):
            target.write(piece)


def sweep(session: Session, *, seconds: float = 3600.0) -> int:
    """Throws away what nothing points to and has not for a while; gives how many."""
    removed = session.execute(_UNUSED, {"seconds": seconds})
    return int(getattr(removed, "rowcount", 0))


def _id(session: Session, digest: str) -> uuid.UUID:
    return session.scalars(select(ContentRow.id).where(ContentRow.digest == digest)).one()


def _pieces(session: Session, content: uuid.UUID) -> Iterator[bytes]:
    number = 0
    while True:
        found = select(Piece.data).where(Piece.content_id == content, Piece.number == number)
        piece = session.scalars(found).first()
        if piece is None:
            return
        yield piece
        number += 1


def _cut(whole: bytes) -> Iterator[bytes]:
    for at in range(0, len(whole), PIECE):
        yield whole[at : at + PIECE]

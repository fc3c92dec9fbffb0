"""Drawn pictures, kept under the hash of what they were drawn from."""

from __future__ import annotations

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pavese.store.models import Picture

#: Pictures kept; at about 2 kB each this stays below 100 MB.
MOST = 40_000


def get(session: Session, digest: str) -> bytes | None:
    """The PNG, when it is kept."""
    return session.scalars(select(Picture.png).where(Picture.digest == digest)).first()


def put(session: Session, digest: str, png: bytes) -> None:
    """Keeps a PNG; another one drawn meanwhile is the same."""
    session.execute(insert(Picture).values(digest=digest, png=png).on_conflict_do_nothing())


def prune(session: Session, most: int = MOST) -> int:
    """Throws away the oldest pictures beyond `most`; gives how many."""
    count = session.scalar(select(func.count()).select_from(Picture)) or 0
    if count <= most:
        return 0
    oldest = select(Picture.digest).order_by(Picture.made_at).limit(count - most)
    session.execute(delete(Picture).where(Picture.digest.in_(oldest)))
    return count - most

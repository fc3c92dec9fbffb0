"""Drawn pictures, kept under the hash of what they were drawn from; and that one cannot be drawn, with the reason."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pavese.store.models import Picture

#: Bytes of pictures that are kept; at about 2 kB each these are some hundred thousand.
MOST = 512 * 1024 * 1024


def get(session: Session, digest: str) -> tuple[bytes | None, str]:
    """The PNG, when it is kept; without one, the reason why it cannot be drawn, when that is known."""
    found = session.execute(select(Picture.png, Picture.reason).where(Picture.digest == digest)).first()
    return (found[0] or None, found[1]) if found else (None, "")


def several(session: Session, digests: Iterable[str]) -> dict[str, bytes | None]:
    """Those PNGs of several that are kept, and None for what is known not to be drawn."""
    found = session.execute(select(Picture.digest, Picture.png).where(Picture.digest.in_(list(digests))))
    return {digest: png or None for digest, png in found}


def put(session: Session, pngs: Mapping[str, bytes], reason: str = "") -> None:
    """Keeps PNGs, or the reason why there are none; those drawn by others meanwhile are the same."""
    asked = insert(Picture).values([{"digest": digest, "png": png, "reason": reason} for digest, png in pngs.items()])
    session.execute(
        asked.on_conflict_do_update(
            index_elements=["digest"], set_={"png": asked.excluded.png, "reason": asked.excluded.reason}
        )
    )


def prune(session: Session, most: int = MOST) -> int:
    """Throws away the oldest pictures beyond `most` bytes together; gives how many."""
    size = func.length(Picture.png)
    newer = select(Picture.digest, func.sum(size).over(order_by=(Picture.made_at.desc(), Picture.digest)).label("sum"))
    counted = newer.subquery()
    beyond = select(counted.c.digest).where(counted.c.sum > most)
    removed = session.execute(delete(Picture).where(Picture.digest.in_(beyond)))
    return int(getattr(removed, "rowcount", 0))

"""Pictures that are drawn once: under which key, where they may be already, and how one goes out."""

from __future__ import annotations

import hashlib
from collections.abc import Callable

from fastapi.responses import Response
from sqlalchemy.orm import Session, sessionmaker

from pavese.api.files.at_hand import PicturesAtHand
from pavese.render.pool import CannotDrawError
from pavese.store import pictures

FOREVER = "private, max-age=31536000, immutable"
#: Part of every picture's hash; to be raised when the same input is drawn differently.
DRAWING = "6"


def picture_key(drawn: str, size: int, page: int | None = None, look: str = "") -> str:
    """The key of a picture of what has this fingerprint."""
    return hashlib.sha256(f"{DRAWING} {drawn} {size} {page} {look}".encode()).hexdigest()


def there(db: Session, at_hand: PicturesAtHand, key: str) -> tuple[bytes | None, str]:
    """A picture that is at hand or kept; without one, the reason why it cannot be drawn, when that is known."""
    known = at_hand.get(key)
    return (known, "") if known is not None else pictures.get(db, key)


def drawn(readings: sessionmaker[Session], key: str, reason: str, draw: Callable[[], bytes]) -> bytes:
    """A picture, drawn; that it cannot be, and why, is remembered, so that nobody waits for it twice."""
    if reason:
        raise CannotDrawError(reason)
    try:
        return draw()
    except CannotDrawError as error:
        with readings() as db:
            pictures.put(db, {key: b""}, str(error))
        raise


def png_answer(png: bytes, kept: str) -> Response:
    """A picture as an answer, with how long a browser may keep it."""
    return Response(png, media_type="image/png", headers={"Cache-Control": kept})

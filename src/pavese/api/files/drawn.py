"""Pictures that are drawn once: under which key, where they may be already, and how one goes out."""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Callable

from fastapi import Request
from fastapi.responses import Response
from sqlalchemy.orm import Session, sessionmaker

from pavese.api.files.at_hand import PicturesAtHand
from pavese.core.formats.intake import Came
from pavese.render.pool import CannotDrawError
from pavese.store import pictures, sets
from pavese.store.models import AssetRow

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


def drawn_of(
    request: Request,
    readings: sessionmaker[Session],
    asset_id: uuid.UUID,
    wanted: Callable[[Session, AssetRow], tuple[str, Callable[[Came], bytes]]],
) -> bytes:
    """What is told of a file by drawing it, kept or made now. `wanted` gives what it is, all that it depends on beside
    the file, and how it is made."""
    at_hand: PicturesAtHand = request.app.state.pictures
    with readings() as db:
        asset = sets.asset(db, asset_id)
        what, made = wanted(db, asset)
        key = hashlib.sha256(f"{what} {DRAWING} {asset.digest}".encode()).hexdigest()
        known, reason = there(db, at_hand, key)
        file = None if known else sets.came(db, asset)
    if known is None:
        assert file is not None
        known = drawn(readings, key, reason, lambda: made(file))
        at_hand.put(key, known, drawn=True)
    return known


def png_answer(png: bytes, kept: str) -> Response:
    """A picture as an answer, with how long a browser may keep it."""
    return Response(png, media_type="image/png", headers={"Cache-Control": kept})

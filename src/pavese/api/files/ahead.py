"""Pictures that are about to be asked for, drawn many at a time: one by one, asking takes longer than drawing."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from concurrent.futures import Future, ThreadPoolExecutor
from threading import Lock
from typing import NamedTuple

import structlog
from cachetools import TTLCache
from sqlalchemy import select
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session, sessionmaker

from pavese.api.files.at_hand import PicturesAtHand
from pavese.core.formats.intake import Becoming
from pavese.core.recolor.changes import Changes
from pavese.logs import unforeseen
from pavese.render import rendering
from pavese.render.pool import DrawingPool
from pavese.store import pictures, sets
from pavese.store.models import AssetRow

log = structlog.get_logger()

#: Sets of which it is remembered what was looked at, and for how many seconds.
_SETS, _REMEMBERED = 256, 600.0
_AHEAD = "ahead"


class Look(NamedTuple):
    """Files of a set that are in view, and the size of their pictures."""

    size: int
    assets: tuple[uuid.UUID, ...]


class Expected(NamedTuple):
    """A picture of a file, as it becomes by changes, under its key."""

    key: str
    asset: uuid.UUID
    changes: Changes


class _Batch(NamedTuple):
    expected: dict[str, Expected]
    future: Future[None]


class DrawnAhead:
    """Draws what is expected while whoever will ask for it is still being answered, a set at a time.

    Nothing is lost where that fails: a picture that does not come is drawn for who asks for it, who is told why it
    cannot be.
    """

    def __init__(self, at_hand: PicturesAtHand, readings: sessionmaker[Session], drawing: DrawingPool) -> None:
        self._at_hand, self._readings, self._drawing = at_hand, readings, drawing
        self._looks: TTLCache[uuid.UUID, Look] = TTLCache(_SETS, _REMEMBERED)
        self._coming: dict[str, Future[bytes | None]] = {}
        self._begun: dict[uuid.UUID, _Batch] = {}
        self._lock = Lock()
        self._thread = ThreadPoolExecutor(1, thread_name_prefix="ahead")

    def look(self, set_id: uuid.UUID, look: Look) -> None:
        """Remembers what of a set was looked at last: its pictures are expected when the set changes."""
        with self._lock:
            self._looks[set_id] = look

    def looked(self, set_id: uuid.UUID) -> Look | None:
        """What of a set was looked at last, if that is not long ago."""
        with self._lock:
            return self._looks.get(set_id)

    def coming(self, key: str) -> Future[bytes | None] | None:
        """A picture that is on its way; None comes instead of it where it is not drawn ahead after all."""
        with self._lock:
            return self._coming.get(key)

    def begin(self, set_id: uuid.UUID, size: int, expected: Iterable[Expected]) -> None:
        """Has those drawn, `size` pixels large, that are neither at hand nor on their way. What was expected of the set
        before and is not begun gives way to them."""
        # Told before anybody is kept waiting for the lock.
        missing = {one.key: one for one in expected if self._at_hand.get(one.key) is None}
        with self._lock:
            before = self._begun.get(set_id)
            if missing and missing.keys() <= self._coming.keys():
                return
            if before is not None and before.future.cancel():
                self._give_up(before.expected)
            new = {key: one for key, one in missing.items() if key not in self._coming}
            if new:
                self._coming.update((key, _on_its_way()) for key in new)
                self._begun[set_id] = _Batch(new, self._thread.submit(self._draw, set_id, size, new))

    def close(self) -> None:
        """Begins nothing more, and waits for what was begun."""
        self._thread.shutdown(cancel_futures=True)
        with self._lock:
            self._give_up([*self._coming])

    def _draw(self, set_id: uuid.UUID, size: int, expected: dict[str, Expected]) -> None:
        # What has come may be expected anew meanwhile.
        left = dict(expected)
        try:
            with self._readings() as db:
                # That one cannot be drawn is known, too: there is nothing to be drawn ahead then.
                kept = pictures.several(db, expected)
                for key, png in kept.items():
                    del left[key]
                    self._come(key, png)
                wanted = _wanted(db, (one for key, one in expected.items() if key not in kept))
            drawn = rendering.small_pictures(self._drawing, list(wanted.values()), size)
            for key, png in zip(wanted, drawn, strict=True):
                del left[key]
                self._come(key, png, drawn=True)
        except SQLAlchemyError as error:
            log.warning("nothing drawn ahead", reason=str(error)[:400])
        except Exception as error:
            unforeseen("drawing ahead", error)
        finally:
            with self._lock:
                self._give_up(left)
                if (now := self._begun.get(set_id)) and now.expected is expected:
                    del self._begun[set_id]

    def _come(self, key: str, png: bytes | None, *, drawn: bool = False) -> None:
        if png:
            self._at_hand.put(key, png, drawn=drawn)
        with self._lock:
            coming = self._coming.pop(key)
        coming.set_result(png)

    def _give_up(self, expected: Iterable[str]) -> None:
        for key in expected:
            if coming := self._coming.pop(key, None):
                coming.set_result(None)


def _on_its_way() -> Future[bytes | None]:
    coming: Future[bytes | None] = Future()
    # Whoever waits for it and goes away takes it from nobody else.
    coming.set_running_or_notify_cancel()
    return coming


def attend(session: Session, ahead: DrawnAhead) -> None:
    """Notes who draws ahead what is changed through the session."""
    session.info[_AHEAD] = ahead


def attending(session: Session) -> DrawnAhead | None:
    """Who draws ahead what is changed through the session."""
    found: DrawnAhead | None = session.info.get(_AHEAD)
    return found


def _wanted(db: Session, expected: Iterable[Expected]) -> dict[str, Becoming]:
    """What is to be drawn, by its key, without files that are gone meanwhile."""
    listed = list(expected)
    found = db.scalars(select(AssetRow).where(AssetRow.id.in_({one.asset for one in listed})))
    rows = {row.id: row for row in found}
    there = [one for one in listed if one.asset in rows]
    each = sets.each_becoming(db, ((rows[one.asset], one.changes) for one in there))
    return {one.key: becoming for one, becoming in zip(there, each, strict=True)}

"""Pictures in memory, and how those that were just drawn are kept."""

from __future__ import annotations

import asyncio
from threading import Lock

import structlog
from cachetools import LRUCache
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session, sessionmaker
from starlette.concurrency import run_in_threadpool

from pavese.store import pictures

log = structlog.get_logger()

#: Bytes of pictures that are held in memory: some twenty thousand of those of a grid.
_AT_HAND = 48 * 1024 * 1024
#: Seconds between two times at which what was drawn is kept, and after one that failed.
_KEPT_EVERY, _AGAIN_AFTER = 0.25, 5.0


class PicturesAtHand:
    """The pictures that were given last, in memory: whoever goes through a set asks for the same hundreds of them.

    Those that were just drawn are kept many at a time, while nobody waits for it.
    """

    def __init__(self) -> None:
        self._known: LRUCache[str, bytes] = LRUCache(_AT_HAND, getsizeof=len)
        self._drawn: dict[str, bytes] = {}
        self._lock = Lock()

    def get(self, key: str) -> bytes | None:
        """A picture, if it is there."""
        with self._lock:
            return self._drawn.get(key) or self._known.get(key)

    def put(self, key: str, png: bytes, *, drawn: bool = False) -> None:
        """Remembers a picture in place of those that nobody asked for since; one that was `drawn` is to be kept."""
        with self._lock:
            if drawn:
                self._drawn[key] = png
            if len(png) <= _AT_HAND:
                self._known[key] = png

    def keep(self, readings: sessionmaker[Session]) -> None:
        """Keeps what was drawn since the last time."""
        with self._lock:
            drawn = dict(self._drawn)
        if not drawn:
            return
        with readings() as db:
            pictures.put(db, drawn)
        with self._lock:
            for key in drawn:
                self._drawn.pop(key, None)

    async def keeping(self, readings: sessionmaker[Session]) -> None:
        """Keeps what is drawn, again and again until it is cancelled; what is left then is not kept."""
        while True:
            await asyncio.sleep(_KEPT_EVERY)
            if self._drawn:
                try:
                    await run_in_threadpool(self.keep, readings)
                except SQLAlchemyError as error:
                    log.warning("pictures not kept", reason=str(error)[:400])
                    await asyncio.sleep(_AGAIN_AFTER)

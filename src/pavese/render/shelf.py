"""The folder in which all processes keep what they made of pictures, as long as there is room."""

from __future__ import annotations

import sqlite3
from hashlib import sha256
from pathlib import Path

import structlog
from diskcache import FanoutCache

import pavese.core

#: Bytes of the folder, where what was put first goes first; and seconds after which it goes in any case.
_ROOM, _STAYS = 1_000_000_000, 60 * 24 * 3600.0
#: Parts that are locked apart, and seconds after which a process does without what others have locked.
_PARTS, _WAITS = 4, 1.0
#: The code that makes what is kept: what other code made is not taken.
_MADE_BY = ("pictures", "formats/picture")
_FAILS = (OSError, sqlite3.Error)


class FolderShelf:
    """See `pavese.core.pictures.kept.Shelf`. Where the folder fails, as on a full disk, nothing is kept, and a line of
    the log says so."""

    def __init__(self, folder: Path, room: int = _ROOM) -> None:
        self._made_by = _made_by()
        self._kept: FanoutCache | None = None
        try:
            self._kept = FanoutCache(str(folder), shards=_PARTS, timeout=_WAITS, size_limit=room)
        except _FAILS as error:
            _not_kept(error)

    def get(self, name: str) -> bytes | None:
        """See `Shelf`."""
        try:
            found = self._kept.get(self._named(name)) if self._kept is not None else None
        except _FAILS as error:
            _not_kept(error)
            return None
        return found if isinstance(found, bytes) else None

    def put(self, name: str, data: bytes) -> None:
        """See `Shelf`."""
        try:
            if self._kept is not None:
                self._kept.set(self._named(name), data, expire=_STAYS)
        except _FAILS as error:
            _not_kept(error)

    def _named(self, name: str) -> str:
        return f"{self._made_by} {name}"


def _not_kept(error: Exception) -> None:
    structlog.get_logger().warning("nothing is kept of pictures", error=repr(error)[:400])


def _made_by() -> str:
    digest = sha256()
    [core] = pavese.core.__path__
    for folder in _MADE_BY:
        for path in sorted(Path(core, folder).glob("*.py")):
            digest.update(path.read_bytes())
    return digest.hexdigest()[:16]

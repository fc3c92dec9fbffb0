"""Pictures that were taken apart once, and need not be again: it takes seconds, and a file is read, shown, checked and
handed over in several processes, and after each start."""

from __future__ import annotations

from collections.abc import Callable
from hashlib import sha256
from typing import Protocol

import numpy as np

from pavese.core.pictures.mixture import Levels, Mixture
from pavese.core.pictures.packed import packed, unpacked

#: A picture of fewer pixels is taken apart again as quickly; a mixture of more bytes would be held in memory twice.
_WORTH, _MOST = 64 * 64, 150_000_000


class Shelf(Protocol):
    """Where bytes are kept by a name, for as long as there is room."""

    def get(self, name: str) -> bytes | None:
        """What is kept under a name, if it still is."""

    def put(self, name: str, data: bytes) -> None:
        """Keeps some bytes."""


_shelves: list[Shelf] = []


def keep_on(shelf: Shelf) -> None:
    """From now on this process keeps mixtures there."""
    _shelves[:] = [shelf]


def keep_nothing() -> None:
    """From now on this process keeps none."""
    _shelves.clear()


def kept(pixels: Levels, how: str, make: Callable[[], Mixture]) -> Mixture:
    """The mixture of a picture, shape (rows, columns, 3 or 4): the one that is kept of the same pixels, taken apart as
    `how` says, or what `make` makes, which is kept then."""
    if not _shelves or pixels.shape[0] * pixels.shape[1] < _WORTH:
        return make()
    [shelf] = _shelves
    digest = sha256(f"{how} {pixels.shape}".encode())
    digest.update(np.ascontiguousarray(pixels).data)
    name = digest.hexdigest()
    data = shelf.get(name)
    if data is not None:
        try:
            return unpacked(data)
        except ValueError:
            # What was cut off is made anew, and kept in its place.
            pass
    found = make()
    if (data := packed(found, _MOST)) is not None:
        shelf.put(name, data)
    return found

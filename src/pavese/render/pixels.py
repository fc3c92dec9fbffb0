"""Decoded pictures, kept while they are looked at: a dragged pin asks for the same pixels again and again."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock

from pavese.core.color.extract import Pixels


class PixelCache:
    """The pictures used last, together at most `megabytes` large; one that is larger alone is not kept."""

    def __init__(self, megabytes: int = 300) -> None:
        self._most = megabytes * 1024 * 1024
        self._kept: OrderedDict[str, Pixels] = OrderedDict()
        self._lock = Lock()

    def get(self, key: str, make: Callable[[], Pixels]) -> Pixels:
        """The pixels under a key, made when they are not there."""
        with self._lock:
            known = self._kept.get(key)
            if known is not None:
                self._kept.move_to_end(key)
                return known
        made = make()
        with self._lock:
            self._kept[key] = made
            while self._kept and sum(pixels.nbytes for pixels in self._kept.values()) > self._most:
                self._kept.popitem(last=False)
        return made

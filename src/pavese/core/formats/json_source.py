"""Reading JSON for editing in place: where single values stand in the source.

orjson gives the tree (RFC 8259), but no places. To find them, the wanted values are exchanged for marks, the tree is
written, and the strings and arrays of numbers in both texts are counted off against each other: the n-th of one is
the n-th of the other, however the source is spaced and its numbers are written.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any, NamedTuple

import orjson

from pavese.core.errors import RefusedFileError
from pavese.core.formats import limits

_BOM = b"\xef\xbb\xbf"
#: A string, or an array that holds nothing but numbers.
_TOKEN = re.compile(rb'"(?:[^"\\]|\\.)*"|\[[-+0-9.eE,\s]*\]')


class Spot(NamedTuple):
    """A value in the tree: what holds it, and under which name or number."""

    holder: Any
    key: str | int

    @property
    def value(self) -> Any:
        """The value itself."""
        return self.holder[self.key]


class JsonSource:
    """A JSON text as bytes with its tree."""

    def __init__(self, name: str, data: bytes) -> None:
        """Reads a text. Raises RefusedFileError with the file's name and the reason."""
        if len(data) > limits.FILE_BYTES:
            raise RefusedFileError(name, f"the file is larger than {limits.FILE_BYTES // limits.MEGABYTE} MB.")
        if not data.strip():
            raise RefusedFileError(name, "the file is empty.")
        self.name = name
        self.data = data
        try:
            self.tree: Any = orjson.loads(data.removeprefix(_BOM))
        except orjson.JSONDecodeError as error:
            raise RefusedFileError(name, f"not well-formed JSON: {error}.") from error

    def spans(self, spots: Sequence[Spot]) -> list[tuple[int, int]]:
        """Where values stand, from byte to byte; each is a string or an array of numbers.

        Raises RefusedFileError when a name is given twice in one object, since then no one can say which counts.
        """
        if not spots:
            return []
        mark = self._unused()
        kept = [spot.value for spot in spots]
        for number, spot in enumerate(spots):
            spot.holder[spot.key] = f"{mark}{number}"
        try:
            marked = orjson.dumps(self.tree)
        finally:
            for spot, value in zip(spots, kept, strict=True):
                spot.holder[spot.key] = value
        theirs = [match.span() for match in _TOKEN.finditer(self.data)]
        ours = list(_TOKEN.finditer(marked))
        if len(theirs) != len(ours):
            raise RefusedFileError(self.name, "an object in it gives the same name twice.")
        start = f'"{mark}'.encode()
        length = len(start)
        found: list[tuple[int, int]] = [(0, 0)] * len(spots)
        for place, match in zip(theirs, ours, strict=True):
            at = match.start()
            if marked[at : at + length] == start:
                found[int(marked[at + length : match.end() - 1])] = place
        return found

    def _unused(self) -> str:
        """A beginning that no string of the text has."""
        number = 0
        while f"pavese-{number}-".encode() in self.data:
            number += 1
        return f"pavese-{number}-"

"""Reading JSON for editing in place: where single values stand in the source.

orjson gives the tree (RFC 8259), but no places. To find them, the wanted values are exchanged for marks, the tree is
written, and the opening brackets and the quotes in both texts are counted off against each other: the n-th of one is
the n-th of the other, however the source is spaced and its numbers are written.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt
import orjson

from pavese.core import limits
from pavese.core.errors import RefusedFileError

#: What orjson writes at most.
_DEEPEST = 254
_BOM = b"\xef\xbb\xbf"
#: A quote and a bracket, and how a string may write them otherwise (RFC 8259, section 7); orjson never does.
_QUOTE, _BRACKET = b'"', b"["
_OTHERWISE = {_QUOTE: b"0022", _BRACKET: b"005b"}
_ESCAPE = re.compile(rb"\\(?:u([0-9a-fA-F]{4})|.)", re.DOTALL)
_STRING = re.compile(rb'"(?:[^"\\]|\\.)*"', re.DOTALL)


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

        Raises RefusedFileError when a name is given twice in one object, since then no one can say which counts, and
        for what is nested deeper than can be written again.
        """
        mark = self._unused()
        kept = [spot.value for spot in spots]
        for number, spot in enumerate(spots):
            spot.holder[spot.key] = f"{mark}{number}"
        try:
            marked = orjson.dumps(self.tree)
        except orjson.JSONEncodeError as error:
            raise RefusedFileError(self.name, f"it is nested deeper than {_DEEPEST} levels.") from error
        finally:
            for spot, value in zip(spots, kept, strict=True):
                spot.holder[spot.key] = value
        found: list[tuple[int, int]] = [(0, 0)] * len(spots)
        marks = [(match.start(), int(match[1])) for match in re.finditer(rb'"%s([0-9]+)"' % mark.encode(), marked)]
        quotes, brackets = _Counted(self.data, marked, _QUOTE), _Counted(self.data, marked, _BRACKET)
        # What the source has more of than the new text: a mark is a string, whatever it stands for.
        more_quotes = more_brackets = 0
        for at, number in marks:
            value = kept[number]
            if isinstance(value, str):
                string = _STRING.match(self.data, quotes.place(at, more_quotes))
                assert string is not None
                found[number] = string.span()
                more_quotes += value.count('"')
                more_brackets += value.count("[")
            else:
                start = brackets.place(at, more_brackets)
                found[number] = start, self.data.index(b"]", start) + 1
                more_quotes -= 2
                more_brackets += 1
        if quotes.more() != more_quotes or brackets.more() != more_brackets:
            raise RefusedFileError(self.name, "an object in it gives the same name twice.")
        return found

    def _unused(self) -> str:
        """A beginning that no string of the text has."""
        number = 0
        while f"pavese-{number}-".encode() in self.data:
            number += 1
        return f"pavese-{number}-"


class _Counted:
    """One sign, counted off in a text and in the same text written anew."""

    def __init__(self, text: bytes, anew: bytes, sign: bytes) -> None:
        self._text = _positions(text, sign)
        if b"\\u00" in text:
            escaped = [m.start() for m in _ESCAPE.finditer(text) if m[1] and m[1].lower() == _OTHERWISE[sign]]
            self._text = np.union1d(self._text, np.array(escaped, dtype=self._text.dtype))
        self._anew = _positions(anew, sign)

    def place(self, at: int, more: int) -> int:
        """Where the first sign from `at` on in the new text stands in the old one, which has `more` of it before."""
        return int(self._text[int(np.searchsorted(self._anew, at)) + more])

    def more(self) -> int:
        """How many more the old text has."""
        return len(self._text) - len(self._anew)


def _positions(text: bytes, sign: bytes) -> npt.NDArray[np.intp]:
    return np.flatnonzero(np.frombuffer(text, dtype=np.uint8) == sign[0])

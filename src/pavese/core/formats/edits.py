"""Editing in place: new text at known places of a source, every other byte as it was."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple


class Edit(NamedTuple):
    """Puts `text` in the place of the bytes from `start` to `end`; equal ends insert."""

    start: int
    end: int
    text: bytes


def splice(source: bytes, edits: Iterable[Edit]) -> bytes:
    """The source with all edits made. Raises ValueError when two of them overlap."""
    parts: list[bytes] = []
    at = 0
    for start, end, text in sorted(edits):
        if start < at or end < start:
            raise ValueError(f"edits overlap at byte {start}")
        parts += (source[at:start], text)
        at = end
    parts.append(source[at:])
    return b"".join(parts)


class SourceText:
    """Decoded text with the way back: for each character, the bytes of the source it was decoded from."""

    __slots__ = ("_ends", "_origin", "_starts", "text")

    def __init__(self, plain: str = "", origin: int | None = None) -> None:
        """An empty text that can be added to, or a whole one of one byte a character that stands at `origin`."""
        self.text = plain
        #: Where a text of one plain run begins; lists of places are only made for other texts.
        self._origin = origin
        if origin is None:
            self._starts: list[int] = []
            self._ends: list[int] = []

    def add_run(self, raw: bytes, start: int) -> None:
        """Adds UTF-8 bytes that stand at `start` and mean themselves."""
        text = raw.decode()
        self.text += text
        if len(text) == len(raw):
            self._starts += range(start, start + len(raw))
            self._ends += range(start + 1, start + len(raw) + 1)
            return
        for character in text:
            self._starts.append(start)
            start += len(character.encode())
            self._ends.append(start)

    def add_reference(self, text: str, start: int, end: int) -> None:
        """Adds what the reference from `start` to `end` stands for, such as `#` for `&#35;`."""
        self.text += text
        self._starts += [start] * len(text)
        self._ends += [end] * len(text)

    def bytes_of(self, start: int, end: int) -> tuple[int, int]:
        """The range of source bytes for the characters from `start` up to `end`, of which there is at least one."""
        if self._origin is not None:
            return self._origin + start, self._origin + end
        return self._starts[start], self._ends[end - 1]

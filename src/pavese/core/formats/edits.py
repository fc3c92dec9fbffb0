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

    __slots__ = ("_ends", "_starts", "text")

    def __init__(self) -> None:
        self.text = ""
        self._starts: list[int] | range = []
        self._ends: list[int] | range = []

    @classmethod
    def run(cls, raw: bytes, start: int) -> SourceText:
        """A text of one run of UTF-8 bytes that stands at `start`."""
        text = cls()
        if raw.isascii():
            # By far the most common case, and worth no list of offsets.
            text.text = raw.decode("ascii")
            text._starts = range(start, start + len(raw))
            text._ends = range(start + 1, start + len(raw) + 1)
        else:
            text.add_run(raw, start)
        return text

    def add_run(self, raw: bytes, start: int) -> None:
        """Adds UTF-8 bytes that stand at `start` and mean themselves."""
        text = raw.decode()
        self.text += text
        starts, ends = list(self._starts), list(self._ends)
        for character in text:
            starts.append(start)
            start += len(character.encode())
            ends.append(start)
        self._starts, self._ends = starts, ends

    def add_reference(self, text: str, start: int, end: int) -> None:
        """Adds what the reference from `start` to `end` stands for, such as `#` for `&#35;`."""
        self.text += text
        self._starts = [*self._starts, *[start] * len(text)]
        self._ends = [*self._ends, *[end] * len(text)]

    def bytes_of(self, start: int, end: int) -> tuple[int, int]:
        """The range of source bytes for the characters from `start` up to `end`, of which there is at least one."""
        return self._starts[start], self._ends[end - 1]

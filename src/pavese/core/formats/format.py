"""What a file format is to everything outside its folder."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from pavese.core.formats.document import Document


class Can(StrEnum):
    """What may be asked of files of a format."""

    #: Nothing but paint changes; every other byte stays.
    EXACT = "exact"
    #: It is drawn from shapes, in any size.
    VECTOR = "vector"
    #: It moves, and can be played.
    ANIMATED = "animated"
    #: One file may hold several drawings or animations.
    PARTS = "parts"
    #: A shape can be laid behind it.
    BACKING = "backing"
    #: It can be set in motion.
    MOTION = "motion"


@dataclass(frozen=True)
class Format:
    """A format: what it is called, and what its files are in words; their endings, their media type, how they begin,
    their reader, and what they can."""

    key: str
    title: str
    words: str
    endings: tuple[str, ...]
    media_type: str
    matches: Callable[[bytes], bool]
    read: Callable[[str, bytes], Document]
    can: frozenset[Can]

    @property
    def moves(self) -> bool:
        """Whether its files are animations."""
        return Can.ANIMATED in self.can

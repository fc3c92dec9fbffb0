"""What a file format is to everything outside its folder."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from pavese.core import limits
from pavese.core.formats.document import Beside, Document


class Can(StrEnum):
    """What may be asked of files of a format."""

    #: Nothing but paint changes; every other byte stays.
    EXACT = "exact"
    #: It is drawn from shapes, in any size.
    VECTOR = "vector"
    #: It is made of pixels, of whose colors it tells itself what is measured of others on their pictures.
    PIXELS = "pixels"
    #: It is one still picture, or several.
    STILL = "still"
    #: It moves, and can be played.
    ANIMATED = "animated"
    #: It can be set in motion.
    MOTION = "motion"
    #: One file may hold several pages.
    PAGES = "pages"
    #: It is a deck of slides, drawn as an office program shows them.
    SLIDES = "slides"
    #: It has a theme to which its colors can be linked.
    THEME = "theme"
    #: It is laid out anew by the width in which it is shown.
    LAID_OUT = "laid out"
    #: It is seen in more looks than one.
    LOOKS = "looks"
    #: Its texts are told, with the ground they stand on.
    TEXTS = "texts"
    #: The pictures that it shows can be changed with it.
    PICTURES = "pictures"
    #: A program puts something into it when it is used; samples can be shown there.
    CODE = "code"
    #: It is told where in its source a color stands.
    SOURCE = "source"
    #: It can name the token of a color, and so follow the page it stands in.
    LINKS = "links"


@dataclass(frozen=True)
class Format:
    """A format: what it is called, and what its files are in words; their endings, their media type, how they begin,
    their reader (of a name, the bytes, and what belongs to the file); what they can, and which acts (by their keys in
    `ACTS`) they can be given.
    """

    key: str
    title: str
    words: str
    endings: tuple[str, ...]
    media_type: str
    matches: Callable[[bytes], bool]
    read: Callable[[str, bytes, Beside], Document]
    can: frozenset[Can]
    acts: tuple[str, ...] = ()
    #: The channel whose sets alone take its files; "" where all do. Packages of drawings often hold a page about them.
    channel: str = ""
    #: Endings of the languages in which templates of its files are written; taken and kept, but not listed.
    templates: tuple[str, ...] = ()
    #: How long reading, measuring or drawing one of its files may take, in seconds, where that is longer than usual.
    seconds: float = 0.0
    #: The most bytes that one of its files may have.
    largest: int = limits.LARGEST_FILE

    @property
    def all_endings(self) -> tuple[str, ...]:
        """All endings by which its files are told."""
        return self.endings + self.templates

    def ends(self, name: str) -> bool:
        """Whether a name has one of its endings, in whatever case."""
        return name.lower().endswith(self.all_endings)

    @property
    def moves(self) -> bool:
        """Whether its files are animations."""
        return Can.ANIMATED in self.can

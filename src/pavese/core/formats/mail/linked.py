"""Style sheets that a mail links and that lie beside it: read behind its own text, as if they stood there.

So one scan, one set of places and one list of edits serve the mail and its sheets; what is changed behind the text goes
back to the sheet that it came from.
"""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from pavese.core.formats.document import Beside, is_elsewhere
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.mail.tags import Piece, Tag

_Edit = tuple[int, int, str]
#: What an address begins with: what it is fetched by, and from where.
_HOST = re.compile(r"(?:[a-z][a-z0-9+.-]*:)?//[^/]*", re.IGNORECASE)


class Linked(NamedTuple):
    """A sheet that a tag names by a reference: its content, and where that stands behind the text of the mail."""

    reference: str
    tag: Tag
    data: bytes
    start: int

    @property
    def end(self) -> int:
        return self.start + len(self.data)

    def edited(self, edits: Iterable[_Edit]) -> bytes:
        """Its content with those of the edits made that are meant for it."""
        own = (one for one in edits if self.start <= one[0] and one[1] <= self.end)
        shifted = (Edit(start - self.start, end - self.start, new.encode("latin-1")) for start, end, new in own)
        return splice(self.data, shifted)


@dataclass(frozen=True)
class Sheets:
    """The text of a mail with its linked sheets behind it, the tags of both in their order, and the sheets."""

    text: str
    pieces: Sequence[Piece]
    linked: Sequence[Linked]

    def from_mail(self, at: int, reference: str) -> str:
        """How the mail itself would name what is named so at a place: what a sheet names is meant from where that lies
        (CSS Values 4, 4.5.1)."""
        sheet = next((one for one in self.linked if one.start <= at < one.end), None)
        if sheet is None or not reference or is_elsewhere(reference):
            return reference
        written = re.split(r"[?#]", sheet.reference, maxsplit=1)[0]
        host = found[0] if (found := _HOST.match(written)) else ""
        start = "/" if reference.startswith("/") else posixpath.dirname(written[len(host) :])
        return host + posixpath.normpath(posixpath.join(start, reference))

    def shown(self, edits: Sequence[_Edit]) -> Iterator[_Edit]:
        """Edits by which each sheet, changed, takes the place of the tag that names it."""
        for one in self.linked:
            media = one.tag.attributes.get("media")
            said = f' media="{media.written}"' if media is not None and '"' not in media.written else ""
            # A sheet that ends its own element would be none any more.
            content = one.edited(edits).decode("latin-1").replace("</", "<\\/")
            yield one.tag.start, one.tag.end, f"<style{said}>{content}</style>"

    def changed(self, edits: Sequence[_Edit]) -> dict[str, bytes]:
        """The sheets that become others, by reference."""
        made = {one.reference: one.edited(edits) for one in self.linked}
        return {one.reference: made[one.reference] for one in self.linked if made[one.reference] != one.data}


def references(pieces: Iterable[Piece]) -> Iterator[tuple[Tag, str]]:
    """The tags that name style sheets, and how they name them."""
    for piece in pieces:
        if isinstance(piece, Tag) and piece.name == "link" and not piece.closes and piece.condition is None:
            rel, href = piece.attributes.get("rel"), piece.attributes.get("href")
            if rel is not None and href is not None and "stylesheet" in rel.value.lower().split():
                yield piece, href.value.strip()


def with_sheets(text: str, pieces: Sequence[Piece], beside: Beside) -> Sheets:
    """A mail with the sheets that it links, as far as they came with it; one that is linked twice is read once."""
    named: dict[str, Tag] = {}
    for tag, reference in references(pieces):
        if reference in beside:
            named.setdefault(reference, tag)
    if not named:
        return Sheets(text, pieces, ())
    linked: list[Linked] = []
    as_sheets: dict[int, Tag] = {}
    for reference, tag in named.items():
        text += "\n"
        sheet = Linked(reference, tag, beside[reference], len(text))
        linked.append(sheet)
        text += sheet.data.decode("latin-1")
        as_sheets[tag.start] = Tag("style", tag.start, sheet.start, content=sheet.end)
    both: list[Piece] = []
    for piece in pieces:
        both.append(piece)
        if isinstance(piece, Tag) and piece.name == "link" and piece.start in as_sheets:
            both.append(as_sheets[piece.start])
    return Sheets(text, both, linked)

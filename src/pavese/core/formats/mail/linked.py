"""Style sheets that a mail links and that lie beside it: read behind its own text, as if they stood there.

So one scan, one set of places and one list of edits serve the mail and its sheets; what is changed behind the text goes
back to the sheet that it came from.
"""

from __future__ import annotations

import posixpath
import re
from bisect import bisect_left
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from pavese.core.formats.document import Beside
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.mail.code import Code
from pavese.core.formats.mail.framing import Template
from pavese.core.formats.mail.tags import Piece, Tag
from pavese.core.formats.references import SHEET, TEMPLATE, is_elsewhere, named_template

_Edit = tuple[int, int, str]
#: What an address begins with: what it is fetched by, and from where.
_HOST = re.compile(r"(?:[a-z][a-z0-9+.-]*:)?//[^/]*", re.IGNORECASE)


class Named(NamedTuple):
    """Where a mail names a sheet: a tag that links it, or code in a `style`, which puts it there."""

    reference: str
    start: int
    end: int
    tag: Tag

    @property
    def links(self) -> bool:
        """Whether it is the tag that names it."""
        return self.start == self.tag.start


class Linked(NamedTuple):
    """A sheet that a mail names: its content, and where that stands behind the text of the mail."""

    named: Named
    data: bytes
    start: int

    @property
    def reference(self) -> str:
        """By what it is named."""
        return self.named.reference

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
        if sheet is None or not sheet.named.links or not reference or is_elsewhere(reference):
            return reference
        written = re.split(r"[?#]", sheet.reference, maxsplit=1)[0]
        host = found[0] if (found := _HOST.match(written)) else ""
        start = "/" if reference.startswith("/") else posixpath.dirname(written[len(host) :])
        return host + posixpath.normpath(posixpath.join(start, reference))

    def shown(self, edits: Sequence[_Edit]) -> Iterator[_Edit]:
        """Edits by which each sheet, changed, takes the place of the tag that names it."""
        for one in self.linked:
            media = one.named.tag.attributes.get("media")
            said = f' media="{media.written}"' if media is not None and '"' not in media.written else ""
            # A sheet that ends its own element would be none any more.
            content = one.edited(edits).decode("latin-1").replace("</", "<\\/")
            yield one.named.start, one.named.end, f"<style{said}>{content}</style>" if one.named.links else content

    def changed(self, edits: Sequence[_Edit]) -> dict[str, bytes]:
        """The sheets that become others, by reference."""
        made = {one.reference: one.edited(edits) for one in self.linked}
        return {one.reference: made[one.reference] for one in self.linked if made[one.reference] != one.data}


def sheets_named(text: str, codes: Sequence[Code], pieces: Sequence[Piece]) -> Iterator[Named]:
    """Where a text with its code names style sheets."""
    template = Template(text, codes)
    at = [code.start for code in codes]
    for piece in pieces:
        if not isinstance(piece, Tag) or piece.closes or piece.condition is not None:
            continue
        if piece.name == "link":
            rel, href = piece.attributes.get("rel"), piece.attributes.get("href")
            if rel is not None and href is not None and "stylesheet" in rel.value.lower().split():
                yield Named(href.value.strip(), piece.start, piece.end, piece)
        elif piece.name == "style" and piece.content is not None:
            for code in codes[bisect_left(at, piece.end) : bisect_left(at, piece.content)]:
                if reference := named_template(template.put(code).removeprefix(TEMPLATE), SHEET):
                    yield Named(reference, code.start, code.end, piece)


def with_sheets(text: str, pieces: Sequence[Piece], named: Iterable[Named], beside: Beside) -> Sheets:
    """A mail with the sheets that it names, as far as they came with it; one that is named twice is read once."""
    first: dict[str, Named] = {}
    for one in named:
        if one.reference in beside:
            first.setdefault(one.reference, one)
    if not first:
        return Sheets(text, pieces, ())
    linked: list[Linked] = []
    as_sheets: dict[int, list[Tag]] = {}
    for reference, name in first.items():
        text += "\n"
        sheet = Linked(name, beside[reference], len(text))
        linked.append(sheet)
        text += sheet.data.decode("latin-1")
        as_sheets.setdefault(name.tag.start, []).append(Tag("style", name.tag.start, sheet.start, content=sheet.end))
    both: list[Piece] = []
    for piece in pieces:
        both.append(piece)
        if isinstance(piece, Tag) and piece.name in ("link", "style"):
            both += as_sheets.get(piece.start, ())
    return Sheets(text, both, linked)

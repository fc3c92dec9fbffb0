"""A small format for the tests: pages of flags with a text on them, seen by day and by night, with a crest that lies
beside the file, and knots that can be tied in. `docs/adding-a-format.md` goes through it.

    bunting 1
    page Fore
    flag #e53935
    text #ffffff Quay
    crest crest.png
    night #123456
"""

from __future__ import annotations

import re
from base64 import b64encode
from collections.abc import Iterator, Sequence
from html import escape
from typing import ClassVar, NamedTuple

from pydantic import Field

from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb
from pavese.core.errors import RefusedFileError
from pavese.core.formats.document import (
    ALONE,
    NOT_FETCHED,
    PLAIN,
    Beside,
    Document,
    Look,
    Notation,
    Page,
    PageKind,
    Preview,
)
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.format import Can, Format
from pavese.core.recolor.act import Act
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Text

DAY, NIGHT = Look("day", "by day"), Look("night", "by night", dark=True)
_COLOR = re.compile(rb"^(flag|text|night) (#[0-9a-f]{6})\b ?(.*)$", re.MULTILINE)
_LINE = re.compile(rb"^(page|crest) (.+)$", re.MULTILINE)
_KINDS = {b"flag": Kind.FILL, b"text": Kind.TEXT, b"night": Kind.GROUND}
_SIZE = 20


class Knots(Act):
    """Knots tied into the line at its end."""

    key: ClassVar[str] = "knots"
    title: ClassVar[str] = "Knots"
    words: ClassVar[str] = "tie knots into the line"
    shows: ClassVar[bool] = False

    count: int = Field(default=3, ge=1, le=9, title="Count", description="How many knots")

    @property
    def told(self) -> str:
        return str(self.count)


class _Place(NamedTuple):
    site: Site
    start: int
    end: int
    said: str


def read_bunting(name: str, data: bytes, beside: Beside = ALONE) -> Bunting:
    """Raises RefusedFileError."""
    try:
        data.decode()
    except UnicodeDecodeError as error:
        raise RefusedFileError(name, f"it is no text in UTF-8: {error.reason} at byte {error.start}.") from error
    if not data.startswith(b"bunting 1\n"):
        raise RefusedFileError(name, "it does not begin as a bunting does.")
    if not any(match[1] == b"page" for match in _LINE.finditer(data)):
        raise RefusedFileError(name, "it has no page.")
    return Bunting(data, beside)


class Bunting:
    """See `pavese.core.formats.document.Lettered`."""

    looks: tuple[Look, ...] = (DAY, NIGHT)

    def __init__(self, data: bytes, beside: Beside) -> None:
        self._data = data
        lines = [(match.start(), match[1], match[2].decode().strip()) for match in _LINE.finditer(data)]
        titles = [(at, said) for at, word, said in lines if word == b"page"]
        self.pages = tuple(Page(title, PageKind.SECTION, f"/{title}", 100, 50) for _, title in titles)
        self.refers = tuple(said for _, word, said in lines if word == b"crest")
        self._crest = next((beside[one] for one in self.refers if one in beside), None)
        self._places: list[_Place] = []
        for match in _COLOR.finditer(data):
            within = tuple(f"/{title}" for at, title in titles if at < match.start())[-1:]
            site = Site(parse_color(match[2].decode()), _KINDS[match[1]], within)
            self._places.append(_Place(site, *match.span(2), match[3].decode()))

    def embedded(self) -> Sequence[Document]:
        return ()

    def sites(self) -> Iterator[Site]:
        return (place.site for place in self._places)

    def inventory(self) -> Inventory:
        return Inventory.count(self.sites(), [NOT_FETCHED] if self.refers and self._crest is None else [])

    def texts(self) -> Sequence[Text | None]:
        return [
            Text(place.said, place.site.paint, 1.0, _SIZE, False, place.site.selectors)
            for place in self._places
            if place.site.kind is Kind.TEXT
        ]

    def write(self, wanted: Wanted) -> bytes:
        changes = Changes.of(wanted)
        edits = [
            Edit(place.start, place.end, color.hex.encode())
            for place in self._places
            if (color := changes.recoloring.at(*place.site)) is not None
        ]
        knots = [act for act in changes.acts if isinstance(act, Knots)]
        return splice(self._data, edits) + b"".join(b"knots %d\n" % act.count for act in knots)

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        return self._drawn(Changes.of(wanted), page, look)

    def inked(self, inks: Sequence[Rgb], look: Look = PLAIN) -> Preview:
        return self._drawn(Changes(), None, look, inks, only_texts=True)

    def unlettered(self, look: Look = PLAIN) -> Preview:
        return self._drawn(Changes(), None, look, no_texts=True)

    def _drawn(
        self,
        changes: Changes,
        page: int | None,
        look: Look,
        inks: Sequence[Rgb] | None = None,
        *,
        only_texts: bool = False,
        no_texts: bool = False,
    ) -> Preview:
        """The pages below each other, each a flag with its text; by night its other ground is what shows."""
        shapes: list[str] = []
        numbers = iter(range(len(self._places)))
        for at, one in enumerate(self.pages):
            inside = [place for place in self._places if place.site.selectors == (one.selector,)]
            for place in sorted(inside, key=lambda place: place.site.kind is Kind.TEXT):
                color = changes.recoloring.at(*place.site) or place.site.paint.rgb
                y = 0 if page is not None else 50 * at
                if place.site.kind is Kind.TEXT:
                    number = next(numbers)
                    color = color if inks is None else inks[number]
                    if page in (None, at) and not no_texts:
                        put = f'x="5" y="{y + 33}" font-size="{_SIZE}" fill="{color.hex}"'
                        shapes.append(f"<text {put}>{escape(place.said)}</text>")
                elif not only_texts and page in (None, at) and (place.site.kind is Kind.FILL) != look.dark:
                    shapes.append(f'<rect y="{y}" width="100" height="50" fill="{color.hex}"/>')
        if self._crest is not None and not only_texts:
            code = b64encode(self._crest).decode()
            shapes.append(f'<image x="80" width="20" height="20" href="data:image/png;base64,{code}"/>')
        height = 50 if page is not None else 50 * len(self.pages)
        head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 {height}">'
        return Preview(Notation.VECTOR, f"{head}{''.join(shapes)}</svg>".encode())


FORMAT = Format(
    key="bunting",
    title="Bunting",
    words="buntings",
    endings=(".bunting",),
    media_type="text/x-bunting",
    matches=lambda data: data.startswith(b"bunting 1\n"),
    read=read_bunting,
    can=frozenset((Can.EXACT, Can.VECTOR, Can.STILL, Can.PAGES, Can.LOOKS, Can.TEXTS)),
    acts=(Knots.key,),
)
ACTS = (Knots,)

"""A mail as it is sent (`.eml`), or a page with its parts (`.mht`): its HTML parts are read and changed, each in its
encoding, and all else stays byte for byte."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from pavese.core.color.srgb import Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats.document import (
    ALONE,
    PLAIN,
    Alone,
    Beside,
    Condition,
    Document,
    Look,
    Page,
    PageKind,
    Preview,
    Where,
)
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.mail.document import Mail, read_mail
from pavese.core.formats.mail.mime import Part, is_signed, parts_of, subject_of
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.site import Site
from pavese.core.recolor.texts import TextRun

SIGNED = "It is signed: once it is changed, the signature no longer holds."


@dataclass(frozen=True)
class _Html:
    """A part in HTML, read; `selector` names it where there are others. See `pavese.core.formats.document.Marked`."""

    part: Part
    mail: Mail
    selector: str

    @property
    def within(self) -> tuple[str, ...]:
        """The selectors that its sites bear."""
        return (self.selector,) if self.selector else ()

    @property
    def refers(self) -> tuple[str, ...]:
        return self.mail.refers

    @property
    def pages(self) -> tuple[Page, ...]:
        return self.mail.pages

    @property
    def looks(self) -> tuple[Look, ...]:
        return self.mail.looks

    def embedded(self) -> Sequence[Document]:
        return ()

    def sites(self) -> Iterator[Site]:
        return self.mail.sites(self.within)

    def marked_sites(self) -> Iterator[Site]:
        return self.mail.marked_sites(self.within)

    def inventory(self) -> Inventory:
        return self.mail.inventory()

    def write(self, wanted: Wanted) -> bytes:
        return self.mail.write(wanted, self.within)

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        return self.mail.preview(wanted, page, look, self.within)

    def pictures(self, wanted: Wanted) -> Mapping[str, bytes]:
        return self.mail.pictures(wanted, self.within)

    def marked(self, look: Look = PLAIN) -> Preview:
        return self.mail.marked(look)

    def mixed_sites(self) -> Iterator[Site]:
        return self.mail.mixed_sites(self.within)

    def mixed(self, look: Look = PLAIN) -> Preview:
        return self.mail.mixed(look)

    def alone(self, number: int) -> Alone | None:
        return self.mail.alone(number, self.within)


def read_sent(name: str, data: bytes, beside: Beside = ALONE) -> Sent:
    """Raises RefusedFileError for what holds no part in HTML, or one that cannot be read."""
    if not data.strip():
        raise RefusedFileError(name, "the file is empty.")
    parts = parts_of(data)
    beside_it = [part for part in parts if part.kind.startswith("image/") or part.kind == "text/css"]
    came = {one: part.content(data) for part in beside_it for one in part.names}
    said = ((part, part.content(data)) for part in parts if part.kind == "text/html" and not part.attached)
    html = [(part, content) for part, content in said if content.strip()]
    if not html:
        raise RefusedFileError(name, "there is no part in HTML in it; a mail of words alone has no colors.")
    found: list[_Html] = []
    for number, (part, content) in enumerate(html, 1):
        mail = read_mail(name, content, {**came, **beside}, part.charset)
        found.append(_Html(part, mail, f"/part-{number}" if len(html) > 1 else ""))
    return Sent(data, found, beside_it)


class Sent:
    """See `pavese.core.formats.document.Marked`."""

    def __init__(self, data: bytes, html: Sequence[_Html], came: Sequence[Part]) -> None:
        """`came` are the parts that others show."""
        self._data, self._html, self._came = data, html, came
        # Of one part, its sections; of several, each is a page.
        parts = (Page(f"Part {number}", PageKind.PART, one.selector) for number, one in enumerate(html, 1))
        self.pages: tuple[Page, ...] = tuple(parts) if len(html) > 1 else html[0].mail.pages
        self.looks: tuple[Look, ...] = tuple(dict.fromkeys(look for one in html for look in one.mail.looks))
        self.subject = subject_of(data)

    @property
    def refers(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(said for one in self._html for said in one.mail.refers))

    def embedded(self) -> Sequence[Document]:
        """Its parts, where there are several: a part is laid out by itself."""
        return self._html if len(self._html) > 1 else ()

    def sites(self) -> Iterator[Site]:
        return (site for one in self._html for site in one.sites())

    def marked_sites(self) -> Iterator[Site]:
        return (site for one in self._html for site in one.marked_sites())

    @property
    def codes(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(said for one in self._html for said in one.mail.codes))

    @property
    def conditions(self) -> tuple[Condition, ...]:
        found: dict[str, Condition] = {}
        for one in (said for part in self._html for said in part.mail.conditions):
            known = found.get(one.words, one)
            found[one.words] = one._replace(branches=tuple(dict.fromkeys((*known.branches, *one.branches))))
        return tuple(found.values())

    def where(self, paint: Rgba) -> Iterator[Where]:
        # Lines are counted in the part, decoded, as its source is shown.
        return (found for one in self._html for found in one.mail.where(paint, one.within))

    def inventory(self) -> Inventory:
        of_parts = [one.mail.inventory() for one in self._html]
        remarks = dict.fromkeys(remark for one in of_parts for remark in one.remarks)
        blends = frozenset(pair for one in of_parts for pair in one.blends)
        counted = Inventory.count(self.sites(), [*remarks, *([SIGNED] if is_signed(self._data) else [])], blends)
        told = (site for one in self._html for site in one.mail.told_sites(one.within))
        selectors = Inventory.merged([counted, Inventory.count(told)]).selectors
        pictures = tuple(dict.fromkeys(paints for one in of_parts for paints in one.pictures))
        title = self.subject or of_parts[0].title
        return replace(counted, selectors=selectors, pictures=pictures, title=title, preview=of_parts[0].preview)

    @property
    def remote(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(said for one in self._html for said in one.mail.remote))

    def pictures(self, wanted: Wanted) -> Mapping[str, bytes]:
        made = (one.pictures(wanted) for one in self._html)
        return {reference: data for found in made for reference, data in found.items()}

    def stands_in_pictures(self) -> Iterator[TextRun]:
        return (run for one in self._html for run in one.mail.stands_in_pictures(one.within))

    def picture_selector(self, reference: str) -> str:
        return next(filter(None, (one.mail.picture_selector(reference) for one in self._html)), "")

    def beside(self, wanted: Wanted) -> Mapping[str, bytes]:
        inside = {name for part in self._came for name in part.names}
        made = (one.mail.beside(wanted, one.within) for one in self._html)
        return {name: data for found in made for name, data in found.items() if name not in inside}

    def write(self, wanted: Wanted) -> bytes:
        return splice(self._data, self._edits(Changes.of(wanted)))

    def _edits(self, changes: Changes) -> Iterator[Edit]:
        made: dict[str, bytes] = {}
        for one in self._html:
            made.update(one.mail.beside(changes, one.within))
            new = one.part.changed(self._data, one.mail.edits(changes, one.within))
            if new != one.part.raw(self._data):
                yield Edit(one.part.start, one.part.end, new)
        for part in self._came:
            data = next((made[name] for name in part.names if name in made), None)
            if data is not None:
                yield Edit(part.start, part.end, part.filled(self._data, data))

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        if len(self._html) == 1:
            return self._html[0].preview(wanted, page, look)
        return self._html[page or 0].preview(wanted, None, look)

    def marked(self, look: Look = PLAIN) -> Preview:
        # Of several parts the first, whose sites are counted first.
        return self._html[0].marked(look)

    def mixed_sites(self) -> Iterator[Site]:
        return (site for one in self._html for site in one.mixed_sites())

    def mixed(self, look: Look = PLAIN) -> Preview:
        return self._html[0].mixed(look)

    def alone(self, number: int) -> Alone | None:
        return self._html[0].alone(number)

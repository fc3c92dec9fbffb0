"""A mail as its readers see it where it is a template: within what it extends, and with the partials that it names.

What it says of color, and how it is written, is told by the file alone; the others are files of their own. Only what is
looked at, and what texts stand on, is told by the whole.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import replace

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError, UnreadableCssError
from pavese.core.formats.document import (
    ALONE,
    PLAIN,
    Alone,
    Beside,
    Condition,
    Look,
    Preview,
)
from pavese.core.formats.mail.code import codes_in, without
from pavese.core.formats.mail.document import Mail, Source, source_of, text_of
from pavese.core.formats.mail.framing import Template, Whole, framed
from pavese.core.formats.mail.places import MailPlace
from pavese.core.formats.mail.tags import Tag, Words, scan
from pavese.core.formats.mail.text import MailText
from pavese.core.formats.references import SHEET, TEMPLATE, is_template
from pavese.core.recolor.changes import Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Site

_Edit = tuple[int, int, str]
_Key = tuple[int, int, str, str, tuple[str, ...]]


def read_framed(name: str, data: bytes, beside: Beside = ALONE) -> Mail:
    """As `read_mail`, with the templates that came with it. Raises RefusedFileError."""
    text = text_of(name, data)
    source = source_of(name, text, beside)
    parts = dict(_parts(text, beside))
    try:
        return FramedMail(source, beside, name, parts)
    except UnreadableCssError as error:
        raise RefusedFileError(name, str(error)) from error


def _parts(text: MailText, beside: Beside) -> Iterator[tuple[str, str]]:
    """The templates that came with a mail, in its encoding."""
    for reference, data in beside.items():
        # What is put into a style is a sheet of the mail.
        is_sheet = f"{SHEET}{reference.removeprefix(TEMPLATE)}" in beside
        if is_template(reference) and not is_sheet and not text.wide:
            with suppress(RefusedFileError):
                # One that cannot be read is said to be so by itself.
                part = text_of(reference, data)
                yield reference, part.meant(data).encode(text.charset, "xmlcharrefreplace").decode("latin-1")


class FramedMail(Mail):
    """A mail, and the whole that it is seen in."""

    def __init__(self, source: Source, beside: Beside, name: str, parts: Mapping[str, str]) -> None:
        """Raises UnreadableCssError."""
        super().__init__(source, beside)
        templates = (Template(source.text.text, source.codes), *map(Template.of, parts.values()))
        self._named = tuple(dict.fromkeys(reference for one in templates for reference in one.refers))
        self._whole: _WholeMail | None = None
        whole = framed(source.text.text, source.codes, parts) if parts else None
        if whole is not None:
            # What is beyond the bounds together is seen alone.
            with suppress(RefusedFileError, UnreadableCssError):
                text = MailText(name, whole.text.encode("latin-1"), source.text.charset)
                kept = frozenset(reference for reference, one in parts.items() if not _has_tags(one))
                self._whole = _WholeMail(source_of(name, text, beside), beside, whole, self, kept)
                self.looks = self._whole.looks

    @property
    def refers(self) -> tuple[str, ...]:
        lying = self._lying if self._whole is None else (*self._lying, *self._whole.refers)
        return tuple(dict.fromkeys((*self._named, *lying)))

    @property
    def remote(self) -> tuple[str, ...]:
        whole = () if self._whole is None else self._whole.remote
        return tuple(dict.fromkeys((*super().remote, *whole)))

    @property
    def codes(self) -> tuple[str, ...]:
        return super().codes if self._whole is None else self._whole.codes

    @property
    def conditions(self) -> tuple[Condition, ...]:
        return super().conditions if self._whole is None else self._whole.conditions

    def inventory(self) -> Inventory:
        found = super().inventory()
        around = () if self._whole is None else (one for one in self._whole.around() if one not in found.sites)
        return replace(found, around=tuple(dict.fromkeys(around)))

    def preview(
        self, wanted: Wanted, page: int | None = None, look: Look = PLAIN, within: tuple[str, ...] = ()
    ) -> Preview:
        if self._whole is None or (page is not None and self._shown(page) and not self._whole.shows(page)):
            return super().preview(wanted, page, look, within)
        return self._whole.preview(wanted, page, look, within)

    def marked_sites(self, within: tuple[str, ...] = ()) -> Iterator[Site]:
        return super().marked_sites(within) if self._whole is None else self._whole.marked_sites(within)

    def marked(self, look: Look = PLAIN) -> Preview:
        return super().marked(look) if self._whole is None else self._whole.marked(look)

    def mixed_sites(self, within: tuple[str, ...] = ()) -> Iterator[Site]:
        return super().mixed_sites(within) if self._whole is None else self._whole.mixed_sites(within)

    def mixed(self, look: Look = PLAIN) -> Preview:
        return super().mixed(look) if self._whole is None else self._whole.mixed(look)

    def alone(self, number: int, within: tuple[str, ...] = ()) -> Alone | None:
        own = number if self._whole is None else self._whole.own_numbers[number]
        return None if own is None else super().alone(own, within)


class _WholeMail(Mail):
    """The whole that a mail is seen in. Its places that are the mail's own go the way that they go there."""

    def __init__(self, source: Source, beside: Beside, whole: Whole, own: Mail, kept: Collection[str]) -> None:
        """What stands in those parts that are `kept` is changed nowhere. Raises UnreadableCssError."""
        super().__init__(source, beside)
        self._whole, self._own, self._kept = whole, own, kept
        self._own_places = own._written.marked
        self._by_place = {_key(place, place.start, place.end): at for at, place in enumerate(self._own_places)}
        #: Of each place that has a mark, the number of its own; None for what stands in others.
        self.own_numbers = [self._own_number(place) for place in self._written.marked]

    def around(self) -> Iterator[Rgba]:
        """The paints of what is not the mail's own, and is changed elsewhere."""
        for number, place in zip(self.own_numbers, self._written.marked, strict=True):
            # What is taken over is counted where it is said.
            if number is None and not place.over and not self._stays(place):
                yield place.paint
        yield from (site.paint for site in self._pictures.inside.sites())

    def shows(self, page: int) -> bool:
        """Whether a section of the mail, by its number, is in it."""
        return bool(self._shown(page))

    def _own_number(self, place: MailPlace) -> int | None:
        start, end = place.start, place.end
        if start < len(self._plain):
            own = self._whole.own(start, end)
        else:
            both = (
                (there.start, here.start)
                for there in self._sheets.linked
                for here in self._own._sheets.linked
                if there.start <= start <= there.end and there.reference == here.reference
            )
            own = next(((at + start - there, at + end - there) for there, at in both), None)
        return None if own is None else self._by_place.get(_key(place, *own))

    def _selectors_of(self, place: MailPlace, within: tuple[str, ...]) -> tuple[str, ...]:
        number = self._own_number(place)
        if number is not None:
            return self._own_places[number].apart(within)
        # What its file has exceptions for is told by how that is named.
        around = (self._whole.span(place.start).reference,) if place.start < len(self._plain) else ()
        return (*place.named(within), *filter(is_template, around))

    def _becomes(self, place: MailPlace, to: Recoloring, within: tuple[str, ...]) -> Rgb:
        return place.paint.rgb if self._stays(place) else super()._becomes(place, to, within)

    def _stays(self, place: MailPlace) -> bool:
        return place.start < len(self._plain) and self._whole.span(place.start).reference in self._kept

    def _shown(self, page: int) -> Sequence[int]:
        return [at for one in self._own._shown(page) if (at := self._whole.of_own(one)) is not None]

    @property
    def _told_pictures(self) -> Iterable[str]:
        return self._own.pictures()

    def _in_marks(self, mark_of: Callable[[int], Rgb]) -> list[_Edit]:
        return [*super()._in_marks(mark_of), *self._words_around()]

    def _words_around(self) -> Iterator[_Edit]:
        """Edits without the words that stand around the mail: what these stand on is told by what they stand in."""
        for one in self._pieces:
            at = one.start
            while isinstance(one, Words) and one.condition is None and at < one.end:
                span = self._whole.span(at)
                end = min(span.end, one.end)
                if span.frame:
                    yield at, end, ""
                at = end


def _key(place: MailPlace, start: int, end: int) -> _Key:
    """By what a place is known, where it stands elsewhere too."""
    implied = place.implied
    return start, end, place.kind, implied.property if implied else "", implied.under if implied else ()


def _has_tags(text: str) -> bool:
    """Whether a template is a file of its own here."""
    return any(isinstance(one, Tag) for one in scan(without(text, codes_in(text))))

"""A mail as its readers see it where it is a template: within what it extends, and with the partials that it names.

What it says of color, and how it is written, is told by the file alone; the others are files of their own. Only what is
looked at, and what texts stand on, is told by the whole.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from typing import NamedTuple

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
from pavese.core.formats.mail.code import without
from pavese.core.formats.mail.document import Mail, Source, source_of, text_of
from pavese.core.formats.mail.framing import Template, Whole, framed
from pavese.core.formats.mail.places import MailPlace
from pavese.core.formats.mail.tags import Tag, Words, scan
from pavese.core.formats.mail.text import MailText
from pavese.core.formats.references import as_sheet, is_template
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
    templates = {"": Template(source.text.text, source.codes), **dict(_parts(text, beside))}
    named = tuple(dict.fromkeys(reference for one in templates.values() for reference in one.refers))
    try:
        if len(templates) > 1 and (whole := framed(templates)) is not None:
            # What is beyond the bounds together is seen alone.
            with suppress(RefusedFileError, UnreadableCssError):
                seen = source_of(name, MailText(name, whole.text.encode("latin-1"), text.charset), beside)
                kept = frozenset(reference for reference, one in templates.items() if not _has_tags(one))
                return FramedMail(source, beside, named, _Around(seen, whole, kept))
        return Mail(source, beside, named)
    except UnreadableCssError as error:
        raise RefusedFileError(name, str(error)) from error


def _parts(text: MailText, beside: Beside) -> Iterator[tuple[str, Template]]:
    """The templates that came with a mail, in its encoding."""
    for reference, data in beside.items():
        # What is put into a style is a sheet of the mail.
        is_sheet = as_sheet(reference) in beside
        if is_template(reference) and not is_sheet and not text.wide:
            with suppress(RefusedFileError):
                # One that cannot be read is said to be so by itself.
                part = text_of(reference, data)
                said = part.meant(data).encode(text.charset, "xmlcharrefreplace").decode("latin-1")
                yield reference, Template.of(said)


class _Around(NamedTuple):
    """What a mail is seen in: the whole as it is written, whose that is, and those parts, by reference, that are
    changed nowhere."""

    source: Source
    whole: Whole
    kept: Collection[str]


class FramedMail(Mail):
    """A mail that is seen in a whole."""

    def __init__(self, source: Source, beside: Beside, templates: Sequence[str], around: _Around) -> None:
        """Raises UnreadableCssError."""
        super().__init__(source, beside, templates)
        self._whole = _WholeMail(around, beside, self)
        self.looks = self._whole.looks

    @property
    def refers(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys((*super().refers, *self._whole.refers)))

    @property
    def remote(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys((*super().remote, *self._whole.remote)))

    @property
    def codes(self) -> tuple[str, ...]:
        return self._whole.codes

    @property
    def conditions(self) -> tuple[Condition, ...]:
        return self._whole.conditions

    def inventory(self) -> Inventory:
        found = super().inventory()
        around = dict.fromkeys(one for one in self._whole.around() if one not in found.sites)
        return replace(found, around=tuple(around))

    def preview(
        self, wanted: Wanted, page: int | None = None, look: Look = PLAIN, within: tuple[str, ...] = ()
    ) -> Preview:
        if page is not None and self._shown(page) and not self._whole.shows(page):
            return super().preview(wanted, page, look, within)
        return self._whole.preview(wanted, page, look, within)

    def marked_sites(self, within: tuple[str, ...] = ()) -> Iterator[Site]:
        return self._whole.marked_sites(within)

    def marked(self, look: Look = PLAIN) -> Preview:
        return self._whole.marked(look)

    def mixed_sites(self, within: tuple[str, ...] = ()) -> Iterator[Site]:
        return self._whole.mixed_sites(within)

    def mixed(self, look: Look = PLAIN) -> Preview:
        return self._whole.mixed(look)

    def alone(self, number: int, within: tuple[str, ...] = ()) -> Alone | None:
        own = self._whole.own_numbers[number]
        return None if own is None else super().alone(own, within)


class _WholeMail(Mail):
    """The whole that a mail is seen in. Its places that are the mail's own go the way that they go there."""

    def __init__(self, around: _Around, beside: Beside, own: Mail) -> None:
        """Raises UnreadableCssError."""
        source, self._whole, self._kept = around
        super().__init__(source, beside)
        self._own, self._own_places = own, own._written.marked
        by_place = {_key(place, place.start, place.end): at for at, place in enumerate(self._own_places)}
        #: Of each place that has a mark, the number of its own; None for what stands in others.
        self.own_numbers = [self._own_number(place, by_place) for place in self._written.marked]
        self._own_of = {id(place): own for place, own in zip(self._written.marked, self.own_numbers, strict=True)}

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

    def _own_number(self, place: MailPlace, by_place: Mapping[_Key, int]) -> int | None:
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
        return None if own is None else by_place.get(_key(place, *own))

    def _selectors_of(self, place: MailPlace, within: tuple[str, ...]) -> tuple[str, ...]:
        number = self._own_of[id(place)]
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


def _has_tags(template: Template) -> bool:
    """Whether it is a file of its own here."""
    return any(isinstance(one, Tag) for one in scan(without(template.text, template.codes)))

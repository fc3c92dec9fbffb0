"""A mail: where color stands in it, how its readers see it, and how it is written again."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections import defaultdict, deque
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from html import escape, unescape
from itertools import chain, count
from operator import attrgetter
from typing import NamedTuple

from pavese.core import limits
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.css import read_value
from pavese.core.errors import RefusedFileError, UnreadableCssError
from pavese.core.formats.document import (
    ALONE,
    NOT_FETCHED,
    ON_THE_WEB,
    PLAIN,
    WHOLE,
    Alone,
    Beside,
    Condition,
    Document,
    Look,
    Notation,
    Page,
    PageKind,
    Preview,
    Where,
)
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.mail.code import Code, codes_in, is_part, without
from pavese.core.formats.mail.conditions import Case, cases_in, conditions_of, not_shown
from pavese.core.formats.mail.linked import Named, Sheets, sheets_named, with_sheets
from pavese.core.formats.mail.pictures import MailPictures
from pavese.core.formats.mail.places import MailPlace, said_on, said_under
from pavese.core.formats.mail.tags import End, Piece, Side, Tag, Words, holds, scan
from pavese.core.formats.mail.text import MailText
from pavese.core.formats.mail.tree import WHOLE as WHOLE_MAIL
from pavese.core.formats.mail.written import written_colors
from pavese.core.formats.marks import PICTURE, mark, scattered
from pavese.core.formats.references import SHEET, TEMPLATES, is_elsewhere
from pavese.core.kit.plain import shortened
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.dark import DarkScheme
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.samples import Samples
from pavese.core.recolor.site import Site
from pavese.core.recolor.texts import TextRun

DESKTOP = Look("desktop", "on a desk", 900)
PHONE = Look("phone", "on a phone", 375)
DARK = Look("dark", "in dark mode", 900, dark=True)
#: Some programs turn light mails dark by themselves, each in its way; this is an approximation of theirs.
INVERTED = Look("inverted", "inverted by its program (about)", 900, reads=False)
#: Many programs show pictures only when they are told to.
BARE = Look("bare", "without pictures", 900)
OPENED = Look("conditional", "with its conditional parts", 900)

_DARK = re.compile(r"prefers-color-scheme\s*:\s*dark", re.IGNORECASE)
_HEX = re.compile(r"#(?:[0-9A-Fa-f]{6}|[0-9A-Fa-f]{3})\b")
#: A link that leads where code says; one that led to nothing would be shown as one that was visited.
_LEADS, _SOMEWHERE = re.compile(r"href\s*=\s*[\"']?$", re.IGNORECASE), "http://link.invalid/"
#: What is left out of an element's words, and how much of them is told.
_TAG, _WORDS_TOLD = re.compile(r"<[^>]*>?"), 40
#: What a section bears that is shown by itself.
_SECTION = "data-section-shown"
#: What is pressed bears this where a dark scheme was added.
_PRESSED = "data-pressed"
_SCHEMES = '<meta name="color-scheme" content="light dark">'
#: Everything on one ground in one ink. The name that nothing bears makes it count for more than what the mail says.
_SCHEME = """<style>@media (prefers-color-scheme: dark) {{
body:not(#_), body:not(#_) * {{ background-color: {canvas} !important; background-image: none !important; }}
body:not(#_), body:not(#_) * {{ color: {ink} !important; border-color: {line} !important; }}
body:not(#_) a, body:not(#_) a * {{ color: {link} !important; }}
body:not(#_) img {{ background-color: transparent !important; }}
body:not(#_) [data-pressed], body:not(#_) [data-pressed] * {{ background-color: {button} !important; }}
body:not(#_) [data-pressed], body:not(#_) [data-pressed] * {{ color: {label} !important; }}
}}</style>"""
_SCHEME_SAYS = ("canvas", "ink", "link", "button", "label", "line")
#: Lightness turned over, hues as they were, pictures left alone.
_INVERSION = b"<style>html,img{filter:invert(1) hue-rotate(180deg)}html{background:#fff}</style>"
#: The longest that is told of how a mail begins.
_PREVIEW = 90
#: Shapes of VML, which no browser draws any more.
_SHAPES = frozenset(("v:rect", "v:roundrect", "v:oval", "v:shape"))
_BLOCKS = frozenset(("center", "div", "p", "h1", "h2", "h3", "table", "tbody", "tr", "td"))
#: The chip that stands for code in a picture: the ink of its text, no color of its own.
_CHIP = '<span style="border:1px solid;padding:0 3px;font-size:.85em;white-space:nowrap">{}</span>'

_NOTHING = Changes()
_NO_PICTURES: Mapping[str, bytes] = {}
_NO_SAMPLES: Mapping[str, str] = {}
_Edit = tuple[int, int, str]


class Source(NamedTuple):
    """A mail as it is written: its text, where its code stands, the same text with blanks there, what that is made of,
    the style sheets that it names, and with those behind it; `part` says that it may be put into another."""

    text: MailText
    codes: Sequence[Code]
    plain: str
    pieces: Sequence[Piece]
    named: Sequence[Named]
    sheets: Sheets
    part: bool


def source_of(name: str, text: MailText, beside: Beside) -> Source:
    """Raises RefusedFileError for what has no tag at all and is put together with nothing that may have some, or is
    beyond the bounds."""
    codes = codes_in(text.text)
    plain = without(text.text, codes)
    pieces = list(scan(plain))
    joined = is_part(text.text, codes)
    if not joined and not any(isinstance(one, Tag) for one in pieces):
        raise RefusedFileError(name, "there is no tag in it: it is no mail and no page.")
    named = list(sheets_named(text.text, codes, pieces))
    whole = with_sheets(plain, pieces, named, beside)
    sheets = [one for one in whole.pieces if isinstance(one, Tag) and one.name == "style"]
    if sum((one.content or one.end) - one.end for one in sheets) > limits.STYLE_BYTES:
        raise RefusedFileError(name, f"its style is longer than {limits.STYLE_BYTES / limits.MEGABYTE:g} MB.")
    part = joined or name.lower().endswith(TEMPLATES)
    return Source(text, codes, plain, pieces, named, whole, part)


def text_of(name: str, data: bytes, charset: str | None = None) -> MailText:
    """`charset` is what was said of its encoding elsewhere. Raises RefusedFileError for what is no text, or is beyond
    the bounds."""
    if not data.strip():
        raise RefusedFileError(name, "the file is empty.")
    if len(data) > limits.FILE_BYTES:
        raise RefusedFileError(name, f"the file is larger than {limits.FILE_BYTES // limits.MEGABYTE} MB.")
    return MailText(name, data, charset)


def read_mail(name: str, data: bytes, beside: Beside = ALONE, charset: str | None = None) -> Mail:
    """A mail without the templates that it names; `charset` is what was said of its encoding elsewhere. Raises
    RefusedFileError for what is no text, has no tag at all, or is beyond the bounds."""
    source = source_of(name, text_of(name, data, charset), beside)
    try:
        return Mail(source, beside)
    except UnreadableCssError as error:
        raise RefusedFileError(name, str(error)) from error


class Mail:
    """See `pavese.core.formats.document.Marked`."""

    def __init__(self, source: Source, beside: Beside, templates: Sequence[str] = ()) -> None:
        """`templates` are those that it names. Raises UnreadableCssError."""
        self._text, self._codes, self._plain, self._pieces, named, self._sheets, part = source
        self._templates = templates
        self._linked = [one.reference for one in named if not one.links or not is_elsewhere(one.reference)]
        sheets = self._sheets
        self._beside = beside
        self._written = written_colors(sheets.text, sheets.pieces, self._codes, part=part)
        self._pictures = MailPictures(sheets, self._meaning, self._written.within, beside)
        pages = (Page(one.title, PageKind.SECTION, one.selector) for one in self._written.sections)
        self.pages: tuple[Page, ...] = tuple(pages) or (WHOLE,)
        self.looks: tuple[Look, ...] = (
            DESKTOP,
            PHONE,
            # What says nothing of the dark stays as it is there, until it is given a scheme.
            DARK if _DARK.search(sheets.text) else replace(DARK, reads=False),
            INVERTED,
            *((replace(BARE, reads=self._pictures.as_grounds),) if self._pictures.named else ()),
            *((OPENED,) if any(isinstance(one, End) for one in self._pieces) else ()),
        )

    @property
    def refers(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys((*self._templates, *self._lying)))

    @cached_property
    def _lying(self) -> tuple[str, ...]:
        """The pictures and style sheets that lie beside it."""
        return tuple(dict.fromkeys((*self._pictures.refers, *self._linked)))

    @property
    def remote(self) -> tuple[str, ...]:
        return self._pictures.remote

    def pictures(self, wanted: Wanted = _NOTHING, within: tuple[str, ...] = ()) -> Mapping[str, bytes]:
        """`within` are selectors of what the mail itself stands in."""
        return {**self._pictures.shown(), **self._pictures.inside.changed(Changes.of(wanted), within)}

    def stands_in_pictures(self, within: tuple[str, ...] = ()) -> Iterator[TextRun]:
        """`within` are selectors of what the mail itself stands in."""
        return self._pictures.inside.stands(within)

    def picture_selector(self, reference: str) -> str:
        return self._pictures.inside.selector(reference)

    def beside(self, wanted: Wanted, within: tuple[str, ...] = ()) -> Mapping[str, bytes]:
        """`within` are selectors of what the mail itself stands in."""
        changes = Changes.of(wanted)
        sheets = self._sheets.changed(list(self._edits(changes, within))) if self._sheets.linked else {}
        return {**self._pictures.inside.changed(changes, within), **sheets}

    def embedded(self) -> Sequence[Document]:
        return ()

    def sites(self, within: tuple[str, ...] = ()) -> Iterator[Site]:
        """`within` are selectors of what the mail itself stands in."""
        return chain(self._written_sites(within), self._pictures.inside.sites(within))

    def _written_sites(self, within: tuple[str, ...]) -> Iterator[Site]:
        return (Site(one.paint, one.kind, one.named(within)) for one in self._written.places)

    def marked_sites(self, within: tuple[str, ...] = ()) -> Iterator[Site]:
        """`within` are selectors of what the mail itself stands in."""
        return (Site(one.paint, one.kind, self._selectors_of(one, within)) for one in self._written.marked)

    def _selectors_of(self, place: MailPlace, within: tuple[str, ...]) -> tuple[str, ...]:
        """By what it is told whether a place goes its own way."""
        return place.apart(within)

    def _becomes(self, place: MailPlace, to: Recoloring, within: tuple[str, ...]) -> Rgb:
        return to.at(place.paint, place.kind, self._selectors_of(place, within)) or place.paint.rgb

    def told_sites(self, within: tuple[str, ...] = ()) -> Iterator[Site]:
        """The same as parts of a mail name them: of elements that alone say something nothing is told."""
        return (Site(one.paint, one.kind, one.named(within)) for one in self._written.marked)

    @property
    def codes(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(one.words for one in self._codes if one.words))

    @cached_property
    def _cases(self) -> tuple[Case, ...]:
        return cases_in(self._text.text, self._codes)

    @property
    def conditions(self) -> tuple[Condition, ...]:
        return conditions_of(self._cases)

    def where(self, paint: Rgba, within: tuple[str, ...] = ()) -> Iterator[Where]:
        """`within` are selectors of what the mail itself stands in."""
        line = at = 0
        sheets = deque(self._sheets.linked)
        said = ""
        for one in self._written.places:
            while sheets and sheets[0].start <= one.start:
                # In a sheet beside the mail lines are those of the sheet.
                line, at, said = 0, sheets[0].start, f", in {sheets.popleft().reference.removeprefix(SHEET)}"
            line, at = line + self._sheets.text.count("\n", at, one.start), one.start
            if one.paint == paint:
                yield Where(Site(one.paint, one.kind, one.named(within)), line + 1, f"{one.said}{said}")

    def inventory(self) -> Inventory:
        inside = self._pictures.inside
        counted = Inventory.count(self.sites(), self._remarks(), inside.blends)
        # What a section takes over can go its own way there, too.
        selectors = Inventory.count(chain(self.told_sites(), inside.sites())).selectors
        found = replace(counted, selectors=selectors, pictures=inside.paints)
        return replace(found, title=self._title, preview=self._first_words)

    @cached_property
    def _title(self) -> str:
        titles = (one for one in self._pieces if isinstance(one, Tag) and one.name == "title" and one.content)
        return next((self._said(one.end, one.content or one.end) for one in titles), "")

    @cached_property
    def _first_words(self) -> str:
        """What lists of mails show beside the title: the first words of the mail, seen or not."""
        said: list[str] = []
        for one in self._pieces:
            if isinstance(one, Words) and one.condition is None and (words := self._said(one.start, one.end)):
                said.append(words)
                if sum(map(len, said)) > _PREVIEW:
                    break
        return shortened(" ".join(said), _PREVIEW)

    @cached_property
    def _sentences(self) -> tuple[Code, ...]:
        return tuple(one for one in self._codes if one.sentence)

    def _said(self, start: int, end: int) -> str:
        """A text as it is read, of its code only the sentences."""
        said: list[str] = []
        first, last = (bisect_left(self._sentences, at, key=attrgetter("start")) for at in (start, end))
        for one in self._sentences[first:last]:
            said += (self._plain[start : one.start], one.sentence)
            start = one.end
        return " ".join(unescape(self._meaning("".join((*said, self._plain[start:end])))).split())

    def _meaning(self, text: str) -> str:
        return self._text.meant(self._text.coded(text))

    def _remarks(self) -> Iterator[str]:
        if any(one not in self._beside for one in self._lying):
            yield NOT_FETCHED
        if any(one not in self._beside for one in self._pictures.remote):
            yield ON_THE_WEB
        coded = dict.fromkeys(
            code for one in self._codes for code in _HEX.findall(self._text.text[one.start : one.end])
        )
        if coded:
            yield f"Its template code names {', '.join(list(coded)[:5])}, which stays as it is."
        if self._written.unread:
            yield f"{self._written.unread[0][:60]} is a color that cannot be read here; it stays."
        yield from self._pictures.inside.remarks

    def write(self, wanted: Wanted, within: tuple[str, ...] = ()) -> bytes:
        """`within` are selectors of what the mail itself stands in."""
        return splice(self._text.data, self.edits(Changes.of(wanted), within))

    def edits(self, changes: Changes, within: tuple[str, ...] = ()) -> Iterator[Edit]:
        """What is changed in its bytes; `within` are selectors of what the mail itself stands in."""
        return self._text.of_bytes(one for one in self._edits(changes, within) if one[1] <= len(self._plain))

    def preview(
        self, wanted: Wanted, page: int | None = None, look: Look = PLAIN, within: tuple[str, ...] = ()
    ) -> Preview:
        changes = Changes.of(wanted)
        edits = list(self._edits(changes, within))
        samples = _samples(changes)
        made = {} if look.key == BARE.key else self._pictures.inside.changed(changes, within)
        if page is None or not self._shown(page):
            # A section is looked at whatever its mail is asked.
            edits += ((start, end, "") for start, end in not_shown(self._cases, samples.branches))
            return self._seen(edits, look, made, samples.values)
        edits += ((at, at, f" {_SECTION}") for at in self._shown(page))
        return self._seen(edits, look, made, samples.values)._replace(part=f"[{_SECTION}]")

    def _shown(self, page: int) -> Sequence[int]:
        """Where attributes are written on the elements of a section, by its number."""
        sections = self._written.sections
        return [one.tag.insert for one in sections[page].elements] if sections else ()

    def marked(self, look: Look = PLAIN) -> Preview:
        """The mail with each of its `marked_sites` in the color of its number (`marks.mark`)."""
        edits = self._in_marks(mark)
        numbers = {reference: at for at, reference in enumerate(self._told_pictures)}
        edits += (
            (one.tag.insert, one.tag.insert, f' {PICTURE}="{numbers[one.reference]}"')
            for one in self._pictures.named
            if one.tag is not None and one.reference in numbers
        )
        return self._seen(edits, look)

    @property
    def _told_pictures(self) -> Iterable[str]:
        """The pictures of which it is told on what they stand."""
        return self.pictures()

    def _in_marks(self, mark_of: Callable[[int], Rgb]) -> list[_Edit]:
        number_of = {id(place): number for number, place in enumerate(self._written.marked)}
        return list(self._colored(lambda place: mark_of(number_of[id(place)]), lambda _: True))

    def mixed_sites(self, within: tuple[str, ...] = ()) -> Iterator[Site]:
        """`within` are selectors of what the mail itself stands in."""
        return chain(self.marked_sites(within), self._pictures.inside.sites(within))

    def mixed(self, look: Look = PLAIN) -> Preview:
        """The mail with each of its `mixed_sites` in the color of its number (`marks.scattered`)."""
        of_pictures = map(scattered, count(len(self._written.marked)))
        made = {} if look.key == BARE.key else self._pictures.inside.marked(of_pictures)
        return self._seen(self._in_marks(scattered), look, made)

    def alone(self, number: int, within: tuple[str, ...] = ()) -> Alone | None:
        """`within` are selectors of what the mail itself stands in."""
        place = self._written.marked[number]
        if place.of is None or place.of.name in WHOLE_MAIL or place.of.tag.condition is not None:
            return None
        tag = place.of.tag
        end = self._plain.find(f"</{tag.name}", tag.end)
        said = " ".join(self._meaning(unescape(_TAG.sub(" ", self._plain[tag.end : max(end, tag.end)]))).split())
        said = shortened(said, _WORDS_TOLD)
        return Alone(place.element(within), f"{tag.name} “{said}”" if said else tag.name)

    def _edits(self, changes: Changes, within: tuple[str, ...]) -> Iterator[_Edit]:
        to = changes.recoloring
        for act in changes.acts:
            if isinstance(act, DarkScheme):
                yield from self._darkened({name: changes.resolved[getattr(act, name)] for name in _SCHEME_SAYS})
        yield from self._pictures.written(self._pictures.inside.changed(changes, within))
        yield from self._colored(
            lambda place: self._becomes(place, to, within),
            lambda place: to.parted(place.paint, place.kind, self._selectors_of(place, within)),
        )

    def _darkened(self, colors: Mapping[str, Rgb]) -> Iterator[_Edit]:
        """A dark scheme, but in a part, and a sign on what is pressed, which looks otherwise in it."""
        if not self._written.part:
            said = any(one.name == "meta" and _named(one) == "color-scheme" for one in self._tags)
            block = _SCHEME.format(**{name: color.hex for name, color in colors.items()})
            yield self._sheets_end, self._sheets_end, block if said else _SCHEMES + block
        for element in self._written.pressed:
            yield element.tag.insert, element.tag.insert, f" {_PRESSED}"

    @cached_property
    def _tags(self) -> list[Tag]:
        return [one for one in self._pieces if isinstance(one, Tag) and one.condition is None]

    @cached_property
    def _sheets_end(self) -> int:
        """Where a sheet can be added behind those that are there."""
        heads = [one.start for one in self._tags if one.name == "head" and one.closes]
        bodies = [one.end for one in self._tags if one.name == "body" and not one.closes]
        return next(iter([*heads, *bodies]), min((one.start for one in self._tags), default=0))

    def _colored(self, color_of: Callable[[MailPlace], Rgb], parted: Callable[[MailPlace], bool]) -> Iterator[_Edit]:
        said: defaultdict[int, list[tuple[MailPlace, Rgb]]] = defaultdict(list)
        under: defaultdict[int, list[tuple[MailPlace, Rgb]]] = defaultdict(list)
        for place in self._written.marked:
            color = color_of(place)
            if not place.over and color == place.paint.rgb:
                continue
            # What is taken over is said only where its section, or what is outside, goes another way than the rest.
            if place.over and (
                not any(map(parted, (place, *place.over))) or all(color == color_of(one) for one in place.over)
            ):
                continue
            if place.implied is None:
                yield place.start, place.end, place.rewritten(color)
            else:
                element = place.implied.element
                among = under if place.implied.under else said
                among[-1 if element is None else element.index].append((place, color))
        for on_one in said.values():
            for at, new in said_on(on_one):
                yield at, at, new
        yield from said_under(under.values(), self._sheets_end)

    def _seen(
        self,
        edits: list[_Edit],
        look: Look,
        made: Mapping[str, bytes] = _NO_PICTURES,
        samples: Mapping[str, str] = _NO_SAMPLES,
    ) -> Preview:
        """The mail for a picture: pictures beside it put in, some as they are `made`, code as samples or chips,
        conditional parts as the look has them."""
        opened = list(self._opened(edits)) if look.key == OPENED.key else []
        pictures = self._pictures.taken_out() if look.key == BARE.key else self._pictures.put_in(made)
        made_here = [*edits, *pictures]
        own = [one for one in made_here if one[1] <= len(self._plain)]
        sheets = self._sheets.shown(made_here)
        seen = _apart([*own, *sheets, *opened, *self._led_away(), *self._chips(samples)])
        content = self._text.meant(self._text.edited(seen)).encode()
        if look.key == INVERTED.key:
            content += _INVERSION
        return Preview(Notation.PAGE, b"\xef\xbb\xbf" + content, look)

    def _led_away(self) -> Iterator[_Edit]:
        """A mail that leads to another page at once stays to be looked at."""
        for one in self._pieces:
            if isinstance(one, Tag) and one.name == "meta" and not one.closes:
                to = one.attributes.get("http-equiv")
                if to is not None and to.value.strip().lower() == "refresh":
                    yield one.start, one.end, ""

    def _chips(self, samples: Mapping[str, str]) -> Iterator[_Edit]:
        """Code becomes its sentence or its sample; where there is none, in texts a chip with its name, and all other
        code goes."""
        inside = iter(sorted((one.start, one.content or one.end) for one in self._pieces if isinstance(one, Tag)))
        at = next(inside, None)
        for code in self._codes:
            while at is not None and at[1] <= code.start:
                at = next(inside, None)
            if (sample := samples.get(code.words)) is not None:
                yield code.start, code.end, escape(sample)
                continue
            in_tag = at is not None and at[0] <= code.start
            shown = _CHIP.format(code.words) if code.words and not in_tag else escape(code.sentence)
            leads = _LEADS.search(self._plain[max(code.start - 8, 0) : code.start])
            yield code.start, code.end, _SOMEWHERE if leads else shown

    def _opened(self, edits: Sequence[_Edit]) -> Iterator[_Edit]:
        """What a program sees that reads conditional parts: hidden ones opened, those not for it gone, shapes of VML
        with their fill as ground."""
        changed = {start: new for start, _, new in edits}
        gone: int | None = None
        within = 0
        for one in self._pieces:
            if isinstance(one, End):
                if one.side is Side.OPEN and not holds(one.condition):
                    gone = one.start
                elif one.side is Side.OPEN_END and gone is not None:
                    yield gone, one.end, ""
                    gone = None
                elif one.side in (Side.HIDDEN, Side.HIDDEN_END) and holds(one.condition):
                    yield one.start, one.end, ""
            elif isinstance(one, Tag) and gone is None and one.name in _SHAPES:
                within += -1 if one.closes else self._plain[one.end - 2] != "/"
                if one.closes:
                    continue
                filled = one.attributes.get("fillcolor")
                literals = read_value(filled.written).literals if filled is not None else ()
                if filled is not None and literals:
                    start, end = filled.start + literals[0].start, filled.start + literals[0].end
                    ground = f"display:inline-block;background-color:{changed.get(start, self._plain[start:end])}"
                    style = one.attributes.get("style")
                    if style is not None and style.quoted:
                        yield style.end, style.end, f";{ground}"
                    else:
                        yield one.insert, one.insert, f' style="{ground}"'
            elif isinstance(one, Tag) and within > 0 and one.name in _BLOCKS:
                # A block would end the shape for a browser, to which that is a word in a line.
                start = one.start + 1 + one.closes
                yield start, start + len(one.name), "span"


def _samples(changes: Changes) -> Samples:
    """What is shown in the place of code."""
    return next((act for act in changes.acts if isinstance(act, Samples)), Samples())


def _named(meta: Tag) -> str:
    name = meta.attributes.get("name")
    return name.value.strip().lower() if name is not None else ""


def _apart(edits: Iterable[_Edit]) -> list[_Edit]:
    """Edits that do not reach into one another; what takes away most goes first."""
    kept: list[_Edit] = []
    at = 0
    for start, end, new in sorted(edits, key=lambda one: (one[0], -one[1])):
        if start >= at:
            kept.append((start, end, new))
            at = max(at, end)
    return kept

"""Everything that a mail says of color: its places, its sections, and what sections take over from outside."""

from __future__ import annotations

from bisect import bisect_right
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from pavese.core.formats.mail.bands import Contents
from pavese.core.formats.mail.code import Code
from pavese.core.formats.mail.places import DARK_PART, Implied, MailPlace, Reader, Rule, bare_link
from pavese.core.formats.mail.sections import Section, sections_of
from pavese.core.formats.mail.tags import Piece
from pavese.core.formats.mail.tree import LEAST, WHOLE, Element, build
from pavese.core.recolor.site import ON_PICTURES, OUTER, Kind

#: Where elements take colors over in one mail; beyond that many, a section has what it says itself.
_MOST = 4_000
#: How many of a mail may say themselves what a rule says of them and stand in no section; beyond that many, none does.
_MOST_OUTSIDE = 150
#: The properties by which an element says its ink, its ground and its lines, and the properties and attributes that do.
_INK, _GROUND, _LINE = "color", "background-color", "border-color"
_LINES = tuple(f"border{side}-color" for side in ("", "-top", "-right", "-bottom", "-left"))
_SAYING: Mapping[str, str] = {
    "color": _INK,
    "text": _INK,
    "background": _GROUND,
    "background-color": _GROUND,
    "bgcolor": _GROUND,
    **{name: name for name in _LINES},
    **{name.removesuffix("-color"): name for name in _LINES},
}


@dataclass(frozen=True)
class Written:
    """The places of a mail in their order, and its sections. `taken_over` are places at which an element of a section
    can say itself what comes to it from outside, and one of none what a rule says of it, under the conditions of that
    rule; nothing is written there unless its section, or the element, goes another way. `unread` are color functions
    that cannot be read."""

    places: tuple[MailPlace, ...]
    unread: tuple[str, ...]
    sections: tuple[Section, ...]
    taken_over: tuple[MailPlace, ...]
    #: What is pressed, buttons of the browser's own included.
    pressed: tuple[Element, ...]
    #: All elements in their order, each with the selectors of the sections that it stands in.
    inside: tuple[tuple[Element, tuple[str, ...]], ...]
    #: Whether it is put into another mail, which says what it does not.
    part: bool

    @cached_property
    def marked(self) -> tuple[MailPlace, ...]:
        """All that has a mark of its own, in the order of the marks."""
        return (*self.places, *self.taken_over)

    def within(self, at: int) -> tuple[str, ...]:
        """The selectors of the sections in which the tag stands that holds a place of the mail."""
        number = bisect_right(self.inside, at, key=lambda one: one[0].tag.start) - 1
        element, selectors = self.inside[number] if number >= 0 else (None, ())
        return selectors if element is not None and at < element.tag.end else ()


def written_colors(text: str, pieces: Sequence[Piece], codes: Sequence[Code] = (), *, part: bool = False) -> Written:
    """All places of a mail, or of a part that is put into one, whose text has blanks where this code stood. Raises
    UnreadableCssError."""
    reader = Reader(text, build(text, pieces, codes), part=part)
    places = list(reader.places())
    sections = sections_of(Contents(text, reader.elements, pieces, codes))
    inside = _within(reader.elements, sections)
    for at, place in enumerate(places):
        if place.of is not None and inside[place.of.index]:
            places[at] = place._replace(selectors=(*place.selectors, *inside[place.of.index]))
    taken_over = tuple(_Taking(reader, places, inside).over(sections))
    ordered = sorted(places, key=lambda one: one.start)
    own = {place.of.index for place in places if place.of is not None and place.implied and place.kind is Kind.ACTION}
    pressed = (one for one in reader.elements if (one.pressed or one.index in own) and one.tag.condition is None)
    within = tuple(zip(reader.elements, inside, strict=True))
    return Written(
        tuple(ordered), tuple(reader.unread), tuple(sections), taken_over, tuple(pressed), within, reader.part
    )


def _within(elements: Sequence[Element], sections: Sequence[Section]) -> list[tuple[str, ...]]:
    """The selectors of the sections in which each element stands, the nearest first."""
    own: defaultdict[int, list[str]] = defaultdict(list)
    # What stands on a picture does so in whichever section.
    for section in sorted(sections, key=lambda one: one.selector != ON_PICTURES):
        for element in section.elements:
            own[element.index].append(section.selector)
    found: list[tuple[str, ...]] = []
    for element in elements:
        outer = found[element.parent.index] if element.parent is not None else ()
        # What lies around all sections is none of what stands in them.
        found.append((*own[element.index], *(one for one in outer if one != OUTER)) if element.index in own else outer)
    return found


class _Taking:
    """What elements of sections take over: from rules of sheets, and, where a section begins, from what it stands in.

    An element's own word goes before a rule's; which rule counts most is told for each element.
    Where that is wrong, too much is written when a section goes its own way, and nothing otherwise.
    """

    def __init__(self, reader: Reader, places: Sequence[MailPlace], inside: Sequence[tuple[str, ...]]) -> None:
        self._elements, self._inside = reader.elements, inside
        self._own: dict[tuple[int, str], MailPlace] = {}
        #: Where elements take over what is said of them, as far as they were gone through.
        self._over: dict[tuple[int, str], MailPlace] = {}
        #: What is said of the whole mail, by nothing or by its body: the canvas, the ink, and that of links.
        self._whole: dict[Kind, MailPlace] = {}
        for place in places:
            said = _said_by(place)
            if place.kind is Kind.LINK and (place.of is None or place.of.name == "body"):
                if place.implied is not None or place.of is not None:
                    self._whole.setdefault(Kind.LINK, place)
            elif place.of is not None and said is not None:
                self._own[place.of.index, said] = place
            elif place.implied is not None:
                self._whole[place.kind] = place
        #: The rules that say something of an element, the likeliest first.
        self._ruled: defaultdict[tuple[int, str], list[Rule]] = defaultdict(list)
        #: Those that go before what an element says itself under conditions, as in the dark.
        self._turned: defaultdict[tuple[int, str], dict[tuple[str, ...], list[Rule]]] = defaultdict(dict)
        for rule in reversed(reader.rules):
            said = _SAYING.get(rule.property)
            for element in rule.of if said is not None else ():
                if rule.under:
                    self._turned[element.index, said or ""].setdefault(rule.under, []).append(rule)
                else:
                    self._ruled[element.index, said or ""].append(rule)
        # The cascade goes by importance, by what selectors count, and by order (CSS Cascade 4, section 6.1).
        for (at, _), rules in self._ruled.items():
            _order(rules, self._elements[at])
        for (at, _), under in self._turned.items():
            for rules in under.values():
                _order(rules, self._elements[at])

    def over(self, sections: Sequence[Section]) -> Iterator[MailPlace]:
        """The places, none where there would be too many."""
        begin = {element.index for section in sections for element in section.elements}
        found: list[MailPlace] = []
        for element in self._elements:
            if not self._inside[element.index] or element.tag.condition is not None:
                continue
            for said in (_INK, _GROUND):
                place = self._by_rule(element, said)
                if place is None and element.index in begin:
                    place = self._from_outside(element, said)
                if place is None and said == _INK and bare_link(element) is element:
                    place = self._taken(element, said, [self._whole.get(Kind.LINK)])
                if place is not None:
                    found.append(place)
                    self._over[element.index, said] = place
                for under, rules in self._turned.get((element.index, said), {}).items():
                    found += filter(None, [self._taken(element, said, [one.place for one in rules], True, under)])
        lines = list(self._lines())
        yield from found if len(found) <= _MOST else ()
        yield from lines if len(found) + len(lines) <= _MOST else ()
        outside = [
            place
            for element in self._elements
            if not self._inside[element.index] and element.tag.condition is None and element.name not in WHOLE
            for said in (_INK, _GROUND)
            if (place := self._by_rule(element, said)) is not None
        ]
        yield from outside if len(outside) <= _MOST_OUTSIDE else ()

    def _lines(self) -> Iterator[MailPlace]:
        """Where elements of sections have lines from rules."""
        for at, said in self._ruled:
            if said in _LINES and self._inside[at] and self._elements[at].tag.condition is None:
                if (place := self._by_rule(self._elements[at], said)) is not None:
                    yield place

    def _by_rule(self, element: Element, said: str) -> MailPlace | None:
        rules = self._ruled.get((element.index, said), [])
        # Of lines it is not told which of its sides an element says itself: one that says any keeps all.
        own = _LINE if said in _LINES else said
        if not rules or ((element.index, own) in self._own and not rules[0].important):
            return None
        return self._taken(element, said, [rule.place for rule in rules], rules[0].important)

    def _from_outside(self, element: Element, said: str) -> MailPlace | None:
        """What a section that says nothing itself is written in, or stands on."""
        if (element.index, said) in self._own:
            return None
        for outer in element.line:
            own = self._own.get((outer.index, said))
            # What a rule says of it, it may say itself by then.
            itself = self._over.get((outer.index, said))
            ruled = self._ruled.get((outer.index, said), ())
            found = [*filter(None, (own, itself)), *(rule.place for rule in ruled)]
            if found:
                return self._taken(element, said, found)
        return self._taken(element, said, [self._whole.get(Kind.TEXT if said == _INK else Kind.GROUND)])

    def _taken(
        self,
        element: Element,
        said: str,
        places: Sequence[MailPlace | None],
        important: bool = False,
        under: tuple[str, ...] = (),
    ) -> MailPlace | None:
        over = tuple(filter(None, places))
        if not over:
            return None
        dark = (one for one in over[0].selectors if one == DARK_PART)
        at, selectors = element.tag.insert, (*dark, *element.selectors, *self._inside[element.index])
        implied = Implied(element, property=said, important=important, under=under)
        return MailPlace(over[0].paint, over[0].kind, at, at, "", selectors, implied, element, over)


def _order(rules: list[Rule], element: Element) -> None:
    """Brings rules, the latest first, into the order of what they count on an element."""
    if len(rules) > 1:
        rules.sort(key=lambda one: (one.important, one.weights.get(element, LEAST)), reverse=True)


def _said_by(place: MailPlace) -> str | None:
    """What a place says as the ink, the ground or the lines of its element; None for any other."""
    if place.kind in (Kind.TEXT, Kind.LINK, Kind.LABEL):
        return _INK
    if place.kind is Kind.STROKE:
        return _LINE
    return _GROUND if place.kind in (Kind.GROUND, Kind.ACTION) else None

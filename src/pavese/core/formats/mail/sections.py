"""The sections of a mail: what its readers see as one, from the top down.

What stands on a ground of its own is a section, and so are, on whatever ground, what readers do not see or are to open
elsewhere (the preheader), the sign of who writes (the header), what stands side by side (columns), and what is said
at the end of every mail (the footer). What lies around all of them is the outer ground. What stands on pictures, in
whichever of them, is one more.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from itertools import islice, takewhile
from typing import NamedTuple

from pavese.core.formats.mail.bands import BOXES, Band, Contents
from pavese.core.formats.mail.tree import WHOLE, Element
from pavese.core.recolor.site import ON_PICTURES, OUTER

#: What a footer says, in the languages that the sheets speak.
_FOOT = re.compile(
    r"unsubscribe|opt[- ]out|leave this list|imprint|privacy|copyright|©|\xc2\xa9|&copy;|&#169;|all rights|preferences|"
    r"(?:mail|message|newsletter)s? (?:was|were|is) sent|\bsent (?:to|by|from)\b|"
    r"(?:you|you're|you are) (?:get|got|receiv)|(?:call|write to|contact|e-?mail) us\b|"
    r"no more (?:mail|e-mail|message|newsletter)s|(?:like|want) (?:to receive )?these e?-?mails|"
    r"abmelden|abbestellen|impressum|datenschutz|désabonner|desabonner|mentions légales|confidentialité",
    re.IGNORECASE,
)
#: What leads to the mail as a page of the web.
_ELSEWHERE = re.compile(
    r"(?:view|read|see|open|show)\b[^<>]{0,30}\b(?:browser|online|on the web)|web version|not display|not readable|"
    r"im browser|webansicht|dans (?:votre|le) navigateur|version en ligne",
    re.IGNORECASE,
)
_TAGS = re.compile(r"<[^>]*>?|&#?\w+;")
#: Letters up to which what a mail begins with is a preheader or a header; those of a sign beside a picture; how much of
#: a section is looked at for its words, and how many of those are told.
_HEADER, _SIGN, _LOOKED, _WORDS = 160, 60, 4_000, 28
#: The largest part of a mail's letters that its footer is, or so many of them in a short one, and what may stand in it
#: that says nothing of the kind.
_MOST_OF_ALL, _FOOTER, _BETWEEN = 0.4, 240, 120
#: The part of a mail's letters that stands in other boxes where one is only what lies around them.
_COVERED = 0.9
#: Cells of a row up to which they are columns, and sections of each kind that are told of one mail.
_COLUMNS, _MOST = 4, 24


class Section(NamedTuple):
    """A section: its outermost elements, what it is, with its first words, and the selector that its sites bear."""

    elements: tuple[Element, ...]
    title: str
    selector: str


def sections_of(contents: Contents) -> list[Section]:
    """The sections of a mail in their order, the outer ground and what stands on pictures last; one that is all of it
    is none."""
    return list(_Finder(contents).sections()) if contents.runs else []


class _Finder:
    """Finds the sections of one mail."""

    def __init__(self, contents: Contents) -> None:
        self._of = contents
        self._total = contents.letters()
        buttons = {contents.of(one) for one in contents.elements if one.in_button}
        apart = (
            one
            for one in contents.elements
            if _stands_apart(one) and contents.of(one) and contents.of(one) not in buttons
        )
        boxes = list(islice(apart, _MOST))
        #: How many runs at the beginning are a preheader.
        self._before = self._preheader()
        self._leading = [one for one in contents.bands if one.runs.stop <= self._before]
        self._bands = [one for one in contents.bands if one.runs.start >= self._before]
        self._around = self._lying_around(boxes)
        #: The boxes with grounds of their own, but for those that only lie around others.
        self._boxes = [one for one in boxes if one not in self._around]

    def sections(self) -> Iterator[Section]:
        foot = self._footer()
        head = self._header(self._bands[: len(self._bands) - len(foot)])
        named = (("Preheader", self._leading), ("Header", head), ("Footer", foot))
        found = [(kind, (*self._of.wrapping(bands),)) for kind, bands in named if bands]
        taken = {self._of.of(one) for _, own in found for one in own}
        ends = {one.index for kind, own in found if kind != "Preheader" for one in own}
        cells = islice((one for row in self._of.columns(_COLUMNS) for one in row), _MOST)
        columns = [one for one in cells if not any(outer.index in ends for outer in one.line)]
        in_columns = {self._of.of(one) for one in columns}
        for one in (*self._boxes, *columns):
            runs = self._of.of(one)
            if runs not in taken or len(runs) == len(self._of.runs):
                taken.add(runs)
                found.append(("Column" if runs in in_columns else "Content", (one,)))
        bodies = (one for one in self._of.elements if one.name == "body" and one.tag.condition is None)
        outer = (*islice(bodies, 1), *self._around)
        pictured = tuple(self._on_pictures())
        if len(found) != 1 or found[0][0] not in ("Content", "Column") or outer:
            yield from self._told(found)
        if pictured:
            yield Section(pictured, f"On pictures: {self._words(pictured)}", ON_PICTURES)
        if outer and (self._around or any(_stands_apart(one) for _, own in found for one in own)):
            yield Section(outer, "Outer ground", OUTER)

    def _told(self, found: Sequence[tuple[str, tuple[Element, ...]]]) -> Iterator[Section]:
        count = Counter[str]()
        for kind, own in sorted(found, key=lambda one: one[1][0].index):
            count[kind] += 1
            number = f"-{count[kind]}" if count[kind] > 1 else ""
            words = self._words(own)
            yield Section(own, f"{kind}: {words}" if words else kind, f"/{kind.lower()}{number}")

    def _words(self, elements: Iterable[Element]) -> str:
        source = "".join(self._of.source(one, _LOOKED) for one in elements)
        return " ".join(_TAGS.sub(" ", source).split())[:_WORDS].strip()

    def _on_pictures(self) -> Iterator[Element]:
        """The outermost elements with a picture as their ground and words on it, but for those that hold all."""
        end = count = 0
        for one in self._of.elements:
            if one.pictured and one.tag.start >= end and one.tag.condition is None and count < _MOST:
                letters = self._of.letters(self._of.of(one))
                if 0 < letters < _COVERED * self._total:
                    yield one
                    end, count = one.end, count + 1

    def _lying_around(self, boxes: Sequence[Element]) -> list[Element]:
        """The boxes that hold all of a mail, with others in them on which what is said stands."""
        runs = ((one, self._of.of(one)) for one in boxes)
        holding = [one for one, own in runs if own.start <= self._before and own.stop == len(self._of.runs)]
        if not holding:
            return []
        last = holding[-1]
        inside = {at for one in boxes if one is not last and last in one.line for at in self._of.of(one)}
        said = sum(self._of.letters(range(at, at + 1)) for at in inside)
        return holding if said >= _COVERED * self._total else holding[:-1]

    def _preheader(self) -> int:
        """How many runs at the beginning are what lists show beside the title, or lead to the mail elsewhere."""
        hidden = self._of.hidden()
        seen = [one for one in self._of.bands if one.runs.start >= hidden]
        if len(seen) > 1 and seen[0].letters <= _HEADER and _ELSEWHERE.search(_TAGS.sub(" ", seen[0].source)):
            return seen[0].runs.stop
        return hidden

    def _header(self, bands: Sequence[Band]) -> Sequence[Band]:
        """The bands that show who writes: all before the box in which most is said, where that is little; else the
        first, with a sign, with links alone, or in a box of its own."""
        if len(bands) < 2:
            return ()
        starts = {one.index: self._of.of(one).start for one in self._boxes}
        main = next((one for one in self._boxes if 2 * self._of.letters(self._of.of(one)) > self._total), None)
        start = starts[main.index] if main is not None else 0
        before = [one for one in bands if one.runs.stop <= start]
        if before and min(starts.values()) == start and _is_sign(before):
            return before
        first = bands[0]
        if first.holds_button or first.letters > _HEADER:
            return ()
        box = next((one for one in self._boxes if first.runs.start == starts[one.index] and one is not main), None)
        if box is not None:
            own = list(takewhile(lambda one: one.runs.stop <= self._of.of(box).stop, bands))
            if len(own) < len(bands) and (_is_sign(own) or _letters(own) <= _SIGN):
                return own
        signed = first.pictures and first.letters <= _SIGN and not first.heads_large
        return bands[:1] if signed or first.linked else ()

    def _footer(self) -> Sequence[Band]:
        """The bands at the end that say what footers do, with what stands between them; else those of the last box, or
        the last ones that are links alone or small print."""
        bands, most, letters = self._bands, max(_MOST_OF_ALL * self._total, _FOOTER), 0
        start = last = len(bands)
        for at in range(len(bands) - 1, 0, -1):
            band = bands[at]
            letters += band.letters
            if letters > most or band.heads or band.holds_button:
                break
            last = at
            if _FOOT.search(band.source) or (band.small and start < len(bands)):
                start = at
            elif not band.small and _letters(one for one in bands[at:start] if not one.small) > _BETWEEN:
                break
        if start < len(bands):
            return bands[start:]
        starts = [one.start for one in map(self._of.of, self._boxes) if one.stop == len(self._of.runs)]
        inside = [[one for one in bands if one.runs.start >= start] for start in starts]
        fitting = [one for one in inside if one and one[0] is not bands[0] and _is_little(one, most)]
        if fitting:
            return max(fitting, key=len)
        ends = takewhile(lambda one: one.small or (one.linked and one.links > 1), reversed(bands[last:]))
        return bands[len(bands) - len(list(ends)) :]


def _letters(bands: Iterable[Band]) -> int:
    return sum(one.letters for one in bands)


def _is_sign(bands: Sequence[Band]) -> bool:
    """Whether they say who writes: a picture, a heading or links, and little more."""
    few = _letters(bands) <= _HEADER and not any(one.holds_button for one in bands)
    return few and any(one.pictures or one.heads or one.linked for one in bands)


def _is_little(bands: Sequence[Band], most: float) -> bool:
    return _letters(bands) <= most and not any(one.heads or one.holds_button for one in bands)


def _stands_apart(element: Element) -> bool:
    """Whether it has a ground of its own, other than what it stands on."""
    if element.ground is None or element.in_button or element.tag.condition is not None:
        return False
    if element.name in WHOLE or not (element.name in BOXES or element.name == "a"):
        return False
    return element.below != element.ground

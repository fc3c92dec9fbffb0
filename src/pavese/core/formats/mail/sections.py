"""The sections of a mail: what stands on a ground of its own, from the top down.

A section is an element whose ground is another than that of what it stands in. The last one is the footer where it says
what footers say, or holds no heading; the first is the header where it holds a picture or a heading, and little more.
Where what footers say stands on the ground of all else, what it ends with is the footer.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from itertools import islice
from typing import NamedTuple

from pavese.core.formats.mail.tags import Words
from pavese.core.formats.mail.tree import Element

#: What a footer says, in the languages that the sheets speak.
_FOOT = re.compile(
    r"unsubscribe|leave this list|imprint|privacy|copyright|©|&copy;|all rights|preferences|"
    r"abmelden|abbestellen|impressum|datenschutz|désabonner|desabonner|mentions légales|confidentialité",
    re.IGNORECASE,
)
_TAGS, _HEADING = re.compile(r"<[^>]*>?|&\w+;"), re.compile(r"<h[1-4][\s>]", re.IGNORECASE)
#: Letters up to which a first section is a header, how much of a section is looked at, and of its words told.
_HEADER, _LOOKED, _WORDS = 160, 4_000, 28
#: The longest source of a footer that has no ground of its own.
_LONGEST = 40_000
#: The largest part of a mail's letters that a footer on the ground of all else is.
_LEAST_LETTERS = 0.5
#: Sections that are told of one mail.
_MOST = 24
#: Elements that can be one.
_BOXES = frozenset(
    ["table", "tbody", "tr", "td", "th", "div", "center", "section", "header", "footer", "main", "article"]
)


class Section(NamedTuple):
    """A section: its element, what it is, its first words, and the selector that its sites bear."""

    element: Element
    title: str
    selector: str


def sections_of(text: str, elements: Sequence[Element], words: Iterable[Words]) -> list[Section]:
    """The sections of a mail, whose texts are given, in their order; one that is all of it is none."""
    found = list(islice(filter(_stands_apart, elements), _MOST))
    ends = _ends(text, elements)
    seen = (one.start for one in words if one.condition is None and _TAGS.sub("", text[one.start : one.end]).strip())
    ending = _ending(text, elements, ends, found, max(seen, default=0))
    if len(found) + (ending is not None) < 2:
        alone = ending or next((one for one in found if _is_foot(text, one, ends, elements)), None)
        return [] if alone is None else [_section(text, alone, ends, "Footer", "/footer")]
    inside = [text[one.tag.end : min(ends[one.index], one.tag.end + _LOOKED)] for one in found]
    outer = [at for at, one in enumerate(found) if not any(other in found for other in islice(one.line, 1, None))]
    last = max(outer, key=lambda at: (ends[found[at].index], at))
    # Where one box holds all the others, its last one is the last.
    within = [at for at in range(len(found)) if at != last and found[last] in found[at].line]
    if len(outer) == 1 and within:
        last = within[-1]
    foot = ending is None and (
        bool(_FOOT.search(text[found[last].tag.end : ends[found[last].index]])) or not _HEADING.search(inside[last])
    )
    first = min((at for at in range(len(found)) if at not in outer or len(outer) > 1), default=0)
    sections: list[Section] = []
    count = 0
    for at, one in enumerate(found):
        if at == last and foot:
            what, selector = "Footer", "/footer"
        elif at == first and at != last and one.letters <= _HEADER and (one.pictures or _HEADING.search(inside[at])):
            what, selector = "Header", "/header"
        else:
            count += 1
            what, selector = "Content", "/content" if count == 1 else f"/content-{count}"
        sections.append(_section(text, one, ends, what, selector))
    return sections if ending is None else [*sections, _section(text, ending, ends, "Footer", "/footer")]


def _section(text: str, element: Element, ends: Sequence[int], what: str, selector: str) -> Section:
    inside = text[element.tag.end : min(ends[element.index], element.tag.end + _LOOKED)]
    words = " ".join(_TAGS.sub(" ", inside).split())[:_WORDS].strip()
    return Section(element, f"{what}: {words}" if words else what, selector)


def _letters(elements: Sequence[Element]) -> int:
    return sum(one.letters for one in elements if one.parent is None)


def _is_foot(text: str, one: Element, ends: Sequence[int], elements: Sequence[Element]) -> bool:
    """Whether an element says what footers do, and less than all else."""
    if one.letters > _LEAST_LETTERS * _letters(elements):
        return False
    return _FOOT.search(text, one.tag.end, ends[one.index]) is not None


def _ending(
    text: str, elements: Sequence[Element], ends: Sequence[int], found: Sequence[Element], last: int
) -> Element | None:
    """The footer that has no ground of its own: the outermost box that says what footers do, holds the last words of
    the mail, and less than all else before it."""
    if any(_is_foot(text, one, ends, elements) for one in found):
        # One with a ground of its own is there.
        return None
    total = _letters(elements)
    for one in elements:
        if one.name not in _BOXES or one.tag.condition is not None or one.in_button:
            continue
        start, end = one.tag.end, ends[one.index]
        if not start <= last < end or end - start > _LONGEST or not 0 < one.letters <= _LEAST_LETTERS * total:
            continue
        inside = text[start:end]
        if _FOOT.search(inside) and not _HEADING.search(inside):
            return one
    return None


def _stands_apart(element: Element) -> bool:
    """Whether it has a ground of its own, other than what it stands on, and something on it."""
    if element.ground is None or element.in_button or element.name not in _BOXES or element.tag.condition is not None:
        return False
    if not (element.letters or element.pictures):
        return False
    below = next((one.ground for one in islice(element.line, 1, None) if one.ground is not None), None)
    return below is not None and below != element.ground


def _ends(text: str, elements: Sequence[Element]) -> list[int]:
    """Where each element ends, as far as the next one that does not stand in it tells."""
    ends = [len(text)] * len(elements)
    open_: list[Element] = []
    for element in elements:
        while open_ and open_[-1] is not element.parent:
            ends[open_.pop().index] = element.tag.start
        open_.append(element)
    return ends

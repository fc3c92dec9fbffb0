"""The sections of a mail: what stands on a ground of its own, from the top down.

A section is an element whose ground is another than that of what it stands in. The last one is the footer where it says
what footers say, or holds no heading; the first is the header where it holds a picture or a heading, and little more.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import islice
from typing import NamedTuple

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


def sections_of(text: str, elements: Sequence[Element]) -> list[Section]:
    """The sections of a mail in their order; fewer than two are none."""
    found = list(islice(filter(_stands_apart, elements), _MOST))
    if len(found) < 2:
        return []
    ends = _ends(text, elements)
    inside = [text[one.tag.end : min(ends[one.index], one.tag.end + _LOOKED)] for one in found]
    outer = [at for at, one in enumerate(found) if not any(other in found for other in islice(one.line, 1, None))]
    last = max(outer, key=lambda at: (ends[found[at].index], at))
    # Where one box holds all the others, its last one is the last.
    within = [at for at in range(len(found)) if at != last and found[last] in found[at].line]
    if len(outer) == 1 and within:
        last = within[-1]
    foot = bool(_FOOT.search(text[found[last].tag.end : ends[found[last].index]])) or not _HEADING.search(inside[last])
    first = min((at for at in range(len(found)) if at not in outer or len(outer) > 1), default=0)
    sections: list[Section] = []
    count = 0
    for at, one in enumerate(found):
        words = " ".join(_TAGS.sub(" ", inside[at]).split())[:_WORDS].strip()
        if at == last and foot:
            what, selector = "Footer", "/footer"
        elif at == first and at != last and one.letters <= _HEADER and (one.pictures or _HEADING.search(inside[at])):
            what, selector = "Header", "/header"
        else:
            count += 1
            what, selector = "Content", "/content" if count == 1 else f"/content-{count}"
        sections.append(Section(one, f"{what}: {words}" if words else what, selector))
    return sections


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

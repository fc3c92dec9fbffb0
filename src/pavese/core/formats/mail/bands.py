"""What a mail is made of from the top down: its texts and pictures in their order, and the bands that they make up.

A band is the outermost element that is not merely wrapped round several others: a paragraph, a row, a box with words.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterable, Iterator, Sequence
from functools import cached_property
from itertools import accumulate
from typing import NamedTuple

from pavese.core.formats.mail.code import Code
from pavese.core.formats.mail.tags import Piece, Words
from pavese.core.formats.mail.tree import BLOCKS, WHOLE, Element, letters_of

#: Elements that others are merely wrapped in.
BOXES = frozenset(["html", "body", "table", "tbody", "thead", "tfoot", "tr", "td", "th", "div", "center", "figure"]) | {
    *("section", "header", "footer", "main", "article", "aside", "nav")
}
#: Those that show a ground across their width.
_SHOWING = BOXES | BLOCKS
#: Elements that are words among words.
_INLINE = frozenset(["a", "span", "b", "strong", "em", "i", "u", "font", "small", "label", "sup", "sub"])
_CELLS = frozenset(("td", "th"))
_HEADING, _LARGE = re.compile(r"<h[1-4][\s>]", re.IGNORECASE), re.compile(r"<h[12][\s>]", re.IGNORECASE)
_BLOCK = re.compile(r"<(?:p|h[1-6]|ul|ol|table|div|center)[\s>]", re.IGNORECASE)
#: How a style says that readers do not see an element: what lists show of a mail is hidden so in the mail itself.
_HIDING = re.compile(
    r"display\s*:\s*none|mso-hide\s*:\s*all|visibility\s*:\s*hidden|max-height\s*:\s*0|opacity\s*:\s*0(?:\.0+)?\s*(?:;|$|!)|"
    r"font-size\s*:\s*[01](?:px)?\s*(?:;|$|!)",
    re.IGNORECASE,
)
_PREHEADER = re.compile(r"\bpre-?header", re.IGNORECASE)
#: How a style says that boxes stand side by side.
_BESIDE = re.compile(r"display\s*:\s*(?:inline-block|table-cell)|float\s*:\s*(?:left|right)", re.IGNORECASE)
#: Small print, by what it is said in, and in CSS pixels (CSS Values 4, 6.2: a point is 4/3 of them).
_SMALL = re.compile(r"<small[\s>]", re.IGNORECASE)
_SIZE = re.compile(r"font-size\s*:\s*(\d{1,4}(?:\.\d{1,4})?)(px|pt)", re.IGNORECASE)
_SMALL_PRINT = 12.0
#: Pictures up to this height space other things, or count who opens the mail.
_SPACING = 12
#: A row with more of the mail's letters than this is a wrapper as well: what stands beside each other is the mail.
_MOST_OF = 0.5


class Run(NamedTuple):
    """A text or a picture of a mail, where it stands, and how many letters it has."""

    at: int
    letters: int


class Band:
    """An element of a mail with the runs that it holds."""

    def __init__(self, of: Contents, element: Element, runs: range) -> None:
        self.element, self.runs, self._of = element, runs, of

    @property
    def letters(self) -> int:
        return self._of.letters(self.runs)

    @cached_property
    def source(self) -> str:
        return self._of.source(self.element)

    @property
    def pictures(self) -> int:
        return self._of.pictures(self.runs)

    @cached_property
    def heads(self) -> bool:
        """Whether it is a heading, or holds one."""
        return bool(_HEADING.search(self.source))

    @cached_property
    def heads_large(self) -> bool:
        return bool(_LARGE.search(self.source))

    @cached_property
    def holds_button(self) -> bool:
        return any(one.in_button for one in self._of.within(self.element))

    @property
    def linked(self) -> bool:
        """Whether all its words are links."""
        return 0 < self.element.letters == self.element.linked

    @property
    def links(self) -> int:
        return self.element.links

    @cached_property
    def small(self) -> bool:
        """Whether it is said to be in small print."""
        sizes = [float(n) * (4 / 3 if unit == "pt" else 1) for n, unit in _SIZE.findall(self.source)]
        return bool(_SMALL.search(self.source)) or (bool(sizes) and max(sizes) <= _SMALL_PRINT)


class Contents:
    """The texts and pictures of a mail whose text has blanks where code stood, parts for one program only left out."""

    def __init__(self, text: str, elements: Sequence[Element], pieces: Iterable[Piece], codes: Sequence[Code]) -> None:
        self._text, self.elements = text, elements
        putting = [(one.start, one.letters) for one in codes if one.letters]
        runs = [Run(one.tag.start, _NO_TEXT) for one in elements if _is_shown(one)]
        for one in pieces:
            if isinstance(one, Words) and one.condition is None:
                among = slice(bisect_left(putting, (one.start,)), bisect_left(putting, (one.end,)))
                count = letters_of(text[one.start : one.end]) + sum(length for _, length in putting[among])
                if count:
                    runs.append(Run(one.start, count))
        self.runs = sorted(runs)
        self.starts = [one.at for one in self.runs]
        #: How many letters stand before each run, and in all.
        self._before = [0, *accumulate(max(one.letters, 0) for one in self.runs)]

    def of(self, element: Element) -> range:
        """The runs that stand in an element."""
        start = element.tag.start
        return range(bisect_left(self.starts, start), bisect_left(self.starts, element.end))

    def within(self, element: Element) -> Iterator[Element]:
        """An element, and all that stand in it."""
        for at in range(element.index, len(self.elements)):
            if self.elements[at].tag.start >= element.end:
                return
            yield self.elements[at]

    def source(self, element: Element, most: int | None = None) -> str:
        """What is written from an element's tag to its end, or so much of it."""
        start = element.tag.start
        return self._text[start : element.end if most is None else min(element.end, start + most)]

    def _has_blocks(self, element: Element) -> bool:
        return _BLOCK.search(self._text, element.tag.end, element.end) is not None

    def letters(self, runs: range | None = None) -> int:
        """The letters of runs that follow each other, or of all."""
        return self._before[-1] if runs is None else self._before[runs.stop] - self._before[runs.start]

    def pictures(self, runs: range) -> int:
        return sum(self.runs[at].letters == _NO_TEXT for at in runs)

    def hidden(self) -> int:
        """How many runs at the beginning readers do not see, as what lists show beside the title."""
        said = ((one, one.value("style"), one.value("class")) for one in self.elements if one.tag.condition is None)
        elements = [one for one, style, names in said if _HIDING.search(style) or _PREHEADER.search(names)]
        count = 0
        for element in elements:
            runs = self.of(element)
            if runs.start <= count < runs.stop < len(self.runs):
                count = runs.stop
        return count

    @cached_property
    def bands(self) -> list[Band]:
        """The bands in their order; words beside them in what wraps them are in none."""
        holding: list[list[Element]] = [[] for _ in self.elements]
        for one in self.elements:
            if one.parent is not None and one.tag.condition is None and self.of(one):
                holding[one.parent.index].append(one)
        divided = [False] * len(self.elements)
        most = _MOST_OF * self.letters()
        found: list[Band] = []
        for one in self.elements:
            if one.tag.condition is not None or not (one.parent is None or divided[one.parent.index]):
                continue
            runs = self.of(one)
            inner = holding[one.index]
            side_by_side = one.name == "tr" and len(inner) > 1 and self.letters(runs) <= most
            boxes = [child for child in inner if child.name not in _INLINE]
            # Words beside boxes stand by themselves where the boxes are what is said.
            words = self.letters(runs) - sum(map(self.letters, map(self.of, boxes)))
            holds = one.name in BOXES or any(child.name in BOXES for child in boxes)
            wraps = holds and bool(boxes) and 2 * words <= self.letters(runs)
            divided[one.index] = wraps and not (one.in_button or side_by_side)
            if runs and not divided[one.index]:
                found.append(Band(self, one, runs))
        return found

    def wrapping(self, bands: Sequence[Band]) -> list[Element]:
        """The outermost elements that hold these bands, which follow each other, and nothing else."""
        runs = range(bands[0].runs.start, bands[-1].runs.stop)
        found: list[Element] = []
        for band in bands:
            if found and band.runs.stop <= self.of(found[-1]).stop:
                continue
            # What is no box, as elements of templates that are filled later, shows no ground.
            boxes = [one for one in band.element.line if self._is_in(one, runs) and one.name in _SHOWING]
            if boxes:
                # The one that has a ground, where the outermost has none.
                *inner, outer = boxes
                found.append(next((one for one in (outer, *reversed(inner)) if one.ground is not None), outer))
            else:
                found += list(self._boxes_in(band.element)) or [band.element]
        return found

    def _boxes_in(self, element: Element) -> Iterator[Element]:
        """The outermost boxes in an element that is none."""
        end = element.tag.end
        for one in self.within(element):
            if one.tag.start >= end and one.name in _SHOWING and self.of(one):
                yield one
                end = one.end

    def _is_in(self, element: Element, runs: range) -> bool:
        own = self.of(element)
        return runs.start <= own.start and own.stop <= runs.stop and element.name not in WHOLE

    def columns(self, most: int) -> Iterator[list[Element]]:
        """Cells side by side, up to so many in a row, each with something of its own; no rows of a table of figures."""
        rows: dict[int, list[Element]] = {}
        for one in self.elements:
            beside = one.name in _CELLS or (one.name == "div" and _BESIDE.search(one.value("style")))
            if one.parent is not None and beside and one.tag.condition is None and self.of(one):
                rows.setdefault(one.parent.index, []).append(one)
        for cells in rows.values():
            if 1 < len(cells) <= most and all(one.letters >= _TELLING and self._has_blocks(one) for one in cells):
                yield cells


#: A run without letters is a picture.
_NO_TEXT = -1
#: Letters that a column has at least.
_TELLING = 20


def _is_shown(element: Element) -> bool:
    if not element.pictures or element.name not in ("img", "v:image") or element.tag.condition is not None:
        return False
    height = re.match(r"\d{1,6}", element.value("height"))
    return height is None or int(height[0]) > _SPACING

"""What the tags of a mail make up: its elements, which of them are pressed, and which rules of its sheets mean them.

Only so much of the tree is built as capacities need: what reads on what is told by an engine, not here.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import islice
from typing import NamedTuple
from xml.etree.ElementTree import Element as Node

import cssselect2

from pavese.core import limits
from pavese.core.color.srgb import Rgba
from pavese.core.errors import UnreadableCssError
from pavese.core.formats.mail.code import Code
from pavese.core.formats.mail.tags import Piece, Tag, Words
from pavese.core.formats.selecting import bound, matcher

_HTML = "http://www.w3.org/1999/xhtml"
#: What all of a mail stands in.
WHOLE = frozenset(("html", "body"))
#: What browsers show where nothing says a ground (CSS Color 4, 6.2: Canvas).
CANVAS = Rgba(255, 255, 255)
#: HTML, 13.1.2 (void elements).
_VOID = frozenset(
    [
        "area",
        "base",
        "basefont",
        "bgsound",
        "br",
        "col",
        "embed",
        "frame",
        "hr",
        "img",
        "input",
        "keygen",
        "link",
        "meta",
        "param",
        "source",
        "track",
        "wbr",
    ]
)
#: What an element ends when it begins inside of it (HTML, 13.1.2.4, optional tags).
_ENDS = {
    "tr": frozenset(("tr", "td", "th")),
    "td": frozenset(("td", "th")),
    "th": frozenset(("td", "th")),
    "li": frozenset(("li",)),
    "p": frozenset(("p",)),
}
#: Where looking for what an element ends stops.
_BOUNDS = frozenset(("table", "body", "html", "ul", "ol", "td", "th", "div"))
#: Signs that space and join, by their names and numbers (HTML, 13.5).
_SPACES = re.compile(
    r"&(?:nbsp|zwnj|zwj|shy|ensp|emsp|thinsp|hairsp|#0*(?:160|173|8199|8203|8204|8205|8288|847|65279)"
    r"|#x0*(?:a0|ad|2007|200[bcd]|2060|34f|feff));?"
    # The same as bytes of UTF-8, since texts are scanned byte for byte.
    r"|\xc2[\xa0\xad]|\xcd\x8f|\xe2\x80[\x87\x8b-\x8d]|\xe2\x81\xa0|\xef\xbb\xbf|\xa0",
    re.IGNORECASE,
)
#: The longest label of a button.
_LABEL = 60
#: What a card is made of that leads somewhere as a whole, and how many of them: a table with two paragraphs, say.
BLOCKS, _BLOCKS_OF_CARD = frozenset(("p", "table", "ul", "ol", "h1", "h2", "h3", "h4", "h5", "h6")), 3
#: What may be a button round a link.
_ROUND_LINKS = frozenset(("table", "tbody", "tr", "td", "th", "div", "span", "p", "center", "v:rect"))


@dataclass(eq=False)
class Element:
    """An element with what lies in it: letters of its own (`words`) and of all within, how many of those in links, how
    many links, and pictures."""

    index: int
    tag: Tag
    parent: Element | None
    words: int = 0
    letters: int = 0
    linked: int = 0
    links: int = 0
    pictures: int = 0
    #: How many paragraphs, headings, lists and tables.
    blocks: int = 0
    #: Where it ends: at the tag that closes it or what it stands in, or where the next begins that ends it.
    end: int = 0
    #: Whether something says a ground for it, or an ink; and the color of that ground, where it is one.
    grounded: bool = False
    inked: bool = False
    ground: Rgba | None = None
    #: Whether something says a picture as its ground.
    pictured: bool = False
    #: Whether something in it has a ground of its own and holds a link.
    holds_button: bool = False
    #: Whether it is a link or a button, or stands in one.
    in_link: bool = False
    in_button: bool = False

    @property
    def name(self) -> str:
        return self.tag.name

    def value(self, name: str) -> str:
        """An attribute's value, "" for none."""
        attribute = self.tag.attributes.get(name)
        return attribute.value if attribute else ""

    @property
    def line(self) -> Iterator[Element]:
        """Itself, and what it stands in, nearest first."""
        at: Element | None = self
        while at is not None:
            yield at
            at = at.parent

    @property
    def selectors(self) -> tuple[str, ...]:
        """Its id and classes."""
        own = [f"#{self.value('id')}"] if self.value("id") else []
        return (*own, *(f".{name}" for name in self.value("class").split()))

    @property
    def pressed(self) -> bool:
        """Whether it is a button: a link or control with a ground, or what has a ground and holds a link alone."""
        if not self.grounded or self.pictures:
            return False
        if self.name in ("a", "button", "input", "v:roundrect"):
            # A link that is more than a label is a card.
            return self.blocks < _BLOCKS_OF_CARD
        alone = not self.holds_button and self.links == 1 and 0 < self.linked == self.letters <= _LABEL
        return alone and self.name in _ROUND_LINKS and (self.ground is None or self.ground != self.below)

    @property
    def below(self) -> Rgba:
        """The ground that it stands on, as far as one color says it: white where nothing does."""
        return next((one.ground for one in islice(self.line, 1, None) if one.ground is not None), CANVAS)


#: How much a selector counts beside others that mean the same element (Selectors 4, section 17).
Weight = tuple[int, int, int]
#: What a rule counts that means its elements by nothing.
LEAST: Weight = (0, 0, 0)


class Tree(NamedTuple):
    """The elements of a mail in their order, and how many letters stand in none of them but the page itself."""

    elements: list[Element]
    loose: int


def build(text: str, pieces: Iterable[Piece], codes: Sequence[Code] = ()) -> Tree:
    """What a mail is made of. Code counts as a word of the element it stands in; outside of all, where it is wrapped
    around elements as a rule, only code that puts something. Raises UnreadableCssError beyond the bounds."""
    starts, putting = [one.start for one in codes], [one.start for one in codes if one.letters]
    elements: list[Element] = []
    loose = 0
    stack: list[Element] = []
    #: Hidden parts open and close what others must not see: each has a stack of its own.
    hidden: dict[str, list[Element]] = {}
    for piece in pieces:
        if isinstance(piece, Words):
            words = letters_of(text[piece.start : piece.end])
            count = words + _among(starts, piece)
            at = stack if piece.condition is None else hidden.setdefault(piece.condition, list(stack))
            if piece.condition is None and all(one.name == "html" for one in at):
                loose += words + _among(putting, piece)
            elif count and at:
                at[-1].words += count
                at[-1].letters += count
                at[-1].linked += count if at[-1].in_link else 0
            continue
        if not isinstance(piece, Tag):
            hidden.clear()
            continue
        at = stack if piece.condition is None else hidden.setdefault(piece.condition, list(stack))
        if piece.closes:
            _close(at, piece)
            continue
        _end(at, piece)
        if len(elements) >= limits.ELEMENTS or len(at) >= limits.ELEMENT_DEPTH:
            raise UnreadableCssError("it has more elements, or has them nested deeper, than are read here.")
        parent = at[-1] if at else None
        # A shape of VML that leads somewhere is a link, too.
        link = piece.name == "a" or (piece.name.startswith("v:") and "href" in piece.attributes)
        in_link = link or (parent is not None and parent.in_link)
        pictures = int(piece.name in ("img", "v:image"))
        element = Element(len(elements), piece, parent, links=int(link), pictures=pictures, in_link=in_link)
        elements.append(element)
        if piece.name not in _VOID and piece.content is None and not _closed(text, piece):
            at.append(element)
        else:
            element.end = piece.content or piece.end
    for element in elements:
        # What is never closed ends with what it stands in.
        element.end = element.end or (element.parent.end if element.parent is not None else len(text))
    for element in reversed(elements):
        if (outer := element.parent) is not None:
            outer.letters += element.letters
            outer.linked += element.linked
            outer.links += element.links
            outer.pictures += element.pictures
            outer.blocks += element.blocks + (element.name in BLOCKS)
    return Tree(elements, loose)


def _among(places: Sequence[int], words: Words) -> int:
    return bisect_left(places, words.end) - bisect_left(places, words.start)


def find_buttons(elements: Sequence[Element]) -> None:
    """Says of each element whether it stands in a button, once it is known which have a ground."""
    for element in reversed(elements):
        if element.parent is not None and (element.holds_button or (element.grounded and element.links)):
            element.parent.holds_button = True
    for element in elements:
        element.in_button = element.pressed or (element.parent is not None and element.parent.in_button)


def _closed(text: str, tag: Tag) -> bool:
    """Whether a tag closes itself, as elements of VML and SVG may."""
    return ":" in tag.name and text[tag.end - 2] == "/"


def letters_of(text: str) -> int:
    """How many letters a text between tags has, signs that only space or join aside."""
    return len(_SPACES.sub("", text).strip())


def _close(stack: list[Element], tag: Tag) -> None:
    name = tag.name
    for at in range(len(stack) - 1, -1, -1):
        if stack[at].name == name:
            _end_from(stack, at, tag)
            return
        if stack[at].name in ("td", "th") and name not in ("tr", "table", "tbody", "body", "html"):
            return


def _end_from(stack: list[Element], at: int, tag: Tag) -> None:
    for one in stack[at:]:
        # What a part for one program closes is still open for all others.
        if one.tag.condition == tag.condition:
            one.end = tag.start
    del stack[at:]


def _end(stack: list[Element], tag: Tag) -> None:
    """Ends what ends by itself where such an element begins."""
    name = tag.name
    ends = _ENDS.get(name, frozenset())
    for at in range(len(stack) - 1, -1, -1) if ends else ():
        if stack[at].name in ends and (name != "tr" or stack[at].name == "tr"):
            _end_from(stack, at, tag)
            return
        if stack[at].name in _BOUNDS and stack[at].name not in ends:
            return


def matched(elements: Sequence[Element], selectors: Iterable[str]) -> dict[str, dict[Element, Weight]]:
    """The elements that each selector means, in their order, with what it counts there. Raises UnreadableCssError for
    sheets that take too long to match."""
    wanted = tuple(dict.fromkeys(selectors))
    found: dict[str, dict[Element, Weight]] = {selector: {} for selector in wanted}
    if not wanted or not elements:
        return found
    bound(wanted, len(elements))
    rules = matcher(wanted, in_any_state=True)
    root, by_node = _mirror(elements)
    for one in cssselect2.ElementWrapper.from_html_root(root).iter_subtree():
        if (element := by_node.get(one.etree_element)) is not None:
            # Of several in one list the last counts most.
            for weight, _, _, selector in rules.match(one):
                found[selector][element] = weight
    return found


def _mirror(elements: Sequence[Element]) -> tuple[Node, dict[Node, Element]]:
    """The elements below one that stands for the document, as the selector library walks them."""
    nodes: list[Node] = []
    root = Node(f"{{{_HTML}}}document")
    for element in elements:
        nodes.append(Node(f"{{{_HTML}}}{element.name}", _named(element.tag)))
        (root if element.parent is None else nodes[element.parent.index]).append(nodes[-1])
    return root, dict(zip(nodes, elements, strict=True))


def _named(tag: Tag) -> dict[str, str]:
    return {name: one.value for name, one in tag.attributes.items() if not name.startswith("xmlns")}

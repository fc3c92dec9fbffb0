"""The tags of a mail, found by a scan of its text; nothing is put right, and every place is known.

HTML, 13.2.5 (tokenization): https://html.spec.whatwg.org/multipage/parsing.html#tokenization . Conditional comments
are read by what their programs say of them: in the hidden form the part is a comment to all others, in the other form
only the two ends are.
"""

from __future__ import annotations

import re
from collections.abc import Generator, Iterator, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from html import unescape
from typing import NamedTuple

_NAME = re.compile(r"[A-Za-z][^\s/>]*+")
_ATTRIBUTE = re.compile(r"""([^\s/>=][^\s/>=]*+)(?:\s*+=\s*+(?:"([^"]*+)"|'([^']*+)'|([^\s>"'][^\s>]*+)))?+""")
_BETWEEN = re.compile(r"[\s/]*+")
#: Elements whose content is no markup.
RAW = frozenset(("style", "script", "textarea", "title", "xmp", "iframe", "noembed"))
_HIDDEN = re.compile(r"\[if\s([^\]]{1,200})\]\s*>", re.IGNORECASE)
_ENDED = re.compile(r"<!\s*\[endif\]\s*$", re.IGNORECASE)
#: What the first end of a part in the open form says: `<!--[if !x]><!-->` and `<![if !x]>`.
_OPEN_END = re.compile(r"(?:<!)?\[endif\]", re.IGNORECASE)


class Attribute(NamedTuple):
    """An attribute's value as it is written, from `start` to `end` without its quotes; equal where it has none."""

    name: str
    start: int
    end: int
    written: str
    quoted: bool

    @property
    def value(self) -> str:
        """What it means, references such as `&amp;` read."""
        return unescape(self.written) if "&" in self.written else self.written


@dataclass(frozen=True)
class Tag:
    """A tag from `start` to `end`; `content` ends a raw element such as `style`; `condition` is that of the hidden part
    it stands in."""

    name: str
    start: int
    end: int
    closes: bool = False
    attributes: Mapping[str, Attribute] = field(default_factory=dict)
    content: int | None = None
    condition: str | None = None

    @property
    def insert(self) -> int:
        """Where another attribute can be written."""
        return self.start + 1 + len(self.name)


class Side(StrEnum):
    """Which end of a conditional part stands at a place."""

    HIDDEN = "hidden"
    HIDDEN_END = "hidden end"
    OPEN = "open"
    OPEN_END = "open end"


class End(NamedTuple):
    """One end of a conditional part, from `start` to `end`."""

    side: Side
    start: int
    end: int
    condition: str = ""


class Words(NamedTuple):
    """Text between tags."""

    start: int
    end: int
    condition: str | None = None


Piece = Tag | Words | End


def scan(text: str, start: int = 0, end: int | None = None, condition: str | None = None) -> Iterator[Piece]:
    """The tags, texts and ends of conditional parts, in their order; plain comments are left out."""
    end = len(text) if end is None else end
    at = start
    while at < end:
        sign = text.find("<", at, end)
        if sign < 0:
            sign = end
        if sign > at:
            yield Words(at, sign, condition)
        if sign >= end:
            return
        if text.startswith("<!--", sign) and condition is None:
            at = yield from _comment(text, sign, end)
        elif text.startswith(("<!", "<?"), sign):
            closing = text.find(">", sign, end)
            at = end if closing < 0 else closing + 1
            if open_ := _HIDDEN.fullmatch(text, sign + 2, at):
                yield End(Side.OPEN, sign, at, open_[1].strip())
            elif _OPEN_END.fullmatch(text, sign + 2, at - 1):
                yield End(Side.OPEN_END, sign, at)
        else:
            if _NAME.match(text, sign + 1 + text.startswith("/", sign + 1), end) is None:
                yield Words(sign, sign + 1, condition)
                at = sign + 1
                continue
            tag = _tag(text, sign, end, condition)
            if tag is None:
                # A tag that does not end takes all the rest with it, as in browsers.
                return
            yield tag
            at = tag.end if tag.content is None else tag.content


def _comment(text: str, start: int, end: int) -> Generator[Piece, None, int]:
    """What a comment holds for its readers; gives where it ends."""
    if text.startswith(("<!-->", "<!--->"), start):
        return text.index(">", start) + 1
    closing = text.find("-->", start + 4, end)
    inner, behind = (end, end) if closing < 0 else (closing, closing + 3)
    hidden = _HIDDEN.match(text, start + 4, inner)
    if hidden is None:
        if _OPEN_END.fullmatch(text[start + 4 : inner].strip()):
            yield End(Side.OPEN_END, start, behind)
        return behind
    condition = hidden[1].strip()
    rest = text[hidden.end() : inner].strip()
    if rest.startswith("<!") and not rest.strip("<!- "):
        yield End(Side.OPEN, start, behind, condition)
        return behind
    last = _ENDED.search(text, hidden.end(), inner)
    stop = last.start() if last else inner
    yield End(Side.HIDDEN, start, hidden.end(), condition)
    yield from scan(text, hidden.end(), stop, condition)
    yield End(Side.HIDDEN_END, stop, behind, condition)
    return behind


def _tag(text: str, start: int, end: int, condition: str | None) -> Tag | None:
    closes = text.startswith("</", start)
    named = _NAME.match(text, start + 1 + closes, end)
    assert named is not None
    attributes: dict[str, Attribute] = {}
    at = named.end()
    while True:
        at = _BETWEEN.match(text, at, end).end()  # type: ignore[union-attr]
        if at >= end:
            return None
        if text[at] == ">":
            break
        found = _ATTRIBUTE.match(text, at, end)
        if found is None:
            at += 1
            continue
        group = next((one for one in (2, 3, 4) if found[one] is not None), None)
        span = found.span(group) if group else (found.end(1), found.end(1))
        name = found[1].lower()
        # Of two with one name the first counts (HTML, 13.2.5.33).
        attributes.setdefault(name, Attribute(name, *span, text[slice(*span)], group in (2, 3)))
        at = found.end()
    name = named[0].lower()
    content = None
    if name in RAW and not closes:
        closing = re.compile(rf"</{re.escape(name)}[\s/>]", re.IGNORECASE).search(text, at + 1, end)
        content = closing.start() if closing else end
    return Tag(name, start, at + 1, closes, attributes, content, condition)


def holds(condition: str) -> bool:
    """Whether a part with a condition is read by a program that reads conditional parts: all but those that say not
    to."""
    return not condition.lstrip("( ").startswith("!")

"""The texts of an SVG, as SVG 2 (section 11) and CSS Fonts 4 (font-size, font-weight) say them, and the two drawings by
which it is measured what they stand on: the texts alone, each in a color of its own, and everything but the texts."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from html import unescape
from math import sqrt
from typing import NamedTuple

from svgelements import Matrix

from pavese.core import limits
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.svg.cascade import Cascade
from pavese.core.formats.svg.places import selectors_of
from pavese.core.formats.svg.properties import BLACK, SVG
from pavese.core.formats.svg.size import box, extent, length
from pavese.core.formats.xml_source import Element, XmlSource
from pavese.core.recolor.texts import Text

_LETTERED = ("text", "tspan", "textPath")
#: CSS Fonts 4, 2.5: the size that nothing says, and the words for others, in pixels; relative ones as parts.
_MEDIUM = 16.0
_WORDS = {
    "xx-small": 9.0, "x-small": 10.0, "small": 13.0, "medium": 16.0, "large": 18.0, "x-large": 24.0, "xx-large": 32.0,
    "xxx-large": 48.0,
}  # fmt: skip
_PARTS = {"smaller": 1 / 1.2, "larger": 1.2}
_RELATIVE = re.compile(r"\s*([0-9.]+)(em|%|rem|ex)\s*")
_PER_UNIT = {"em": 1.0, "%": 0.01, "ex": 0.5}
_SHORTHAND_SIZE = re.compile(r"(?:^|\s)([0-9.]+(?:px|pt|pc|em|rem|%|mm|cm|in|q)?)(?:\s*/\s*\S+)?\s+\S", re.IGNORECASE)
_BOLD = re.compile(r"\b(?:bold|bolder|[6-9]00)\b")
_LIGHT = re.compile(r"\b(?:normal|lighter|[1-5]00)\b")
_LETTERS = re.compile(rb"<!\[CDATA\[(.*?)\]\]>|<!--.*?-->|<\?.*?\?>", re.DOTALL)
_SHOWN_LETTERS = 80


class _Style(NamedTuple):
    """What is inherited, and what groups do to all in them: font size in units of the element, what a unit is in
    pixels, boldness, ink, the opacity of fills, and that of the groups."""

    size: float
    scale: float
    bold: bool
    ink: Rgba | None
    filled: float
    veiled: float


def texts_of(source: XmlSource, cascade: Cascade) -> list[Text | None]:
    """The text of each lettered element, in document order; None where its ink is no single color."""
    known: dict[int, _Style] = {}
    return [_text(source, element, _style(element, cascade, known)) for element in lettered(source)]


def lettered(source: XmlSource) -> list[Element]:
    """The elements with letters directly in them, at most `limits.TEXTS`."""
    found = [one for one in source.named(*_LETTERED) if one.namespace == SVG and _letters(source, one).strip()]
    return found[: limits.TEXTS]


def inked(source: XmlSource, inks: Sequence[Rgb]) -> bytes:
    """The drawing with nothing but its lettered elements, each in its ink."""
    edits = [*_styled(source, source.root, "visibility:hidden")]
    for element, ink in zip(lettered(source), inks, strict=False):
        edits += _styled(source, element, f"visibility:visible;fill:{ink.hex};stroke:none")
    return splice(source.utf8, edits)


def unlettered(source: XmlSource) -> bytes:
    """The drawing without its lettered elements."""
    edits: list[Edit] = []
    for element in lettered(source):
        edits += _styled(source, element, "visibility:hidden")
    return splice(source.utf8, edits)


def _styled(source: XmlSource, element: Element, style: str) -> Iterator[Edit]:
    before = element.attributes.get("style", "").rstrip("; ")
    # A value in the source may hold references; what is put behind it holds none.
    if before:
        end = source.attribute_span(element, "style")[1]
        yield Edit(end, end, f";{style}".encode())
    else:
        yield from source.setting(element, {"style": style})


def _letters(source: XmlSource, element: Element) -> str:
    """What is written directly in an element, without what stands in elements inside."""
    spans = source.attribute_spans(element).values()
    at = source.utf8.find(b">", max((end for _, end in spans), default=source.tag_name_end(element))) + 1
    letters: list[bytes] = []
    for child in source.children(element):
        letters.append(source.utf8[at : child.start])
        at = source.utf8.find(b">", max(child.content_end, child.start)) + 1
    letters.append(source.utf8[at : max(element.content_end, at)])
    return unescape(_LETTERS.sub(rb"\1", b"".join(letters)).decode(errors="replace"))


def _text(source: XmlSource, element: Element, style: _Style) -> Text | None:
    if style.ink is None:
        return None
    words = " ".join(_letters(source, element).split())
    size = round(style.size * style.scale, 2)
    return Text(
        words[:_SHOWN_LETTERS],
        style.ink,
        round(style.filled * style.veiled, 4),
        size,
        style.bold,
        selectors_of(element),
    )


def _style(element: Element, cascade: Cascade, known: dict[int, _Style]) -> _Style:
    path: list[Element] = []
    at: Element | None = element
    while at is not None and at.index not in known:
        path.append(at)
        at = at.parent
    style = known[at.index] if at is not None else _Style(_MEDIUM, 1.0, False, BLACK, 1.0, 1.0)
    for one in reversed(path):
        style = known[one.index] = _inheriting(one, cascade, style)
    return style


def _inheriting(element: Element, cascade: Cascade, above: _Style) -> _Style:
    said = {**element.attributes, **cascade.declared(element)}
    shorthand = said.get("font", "")
    size = said.get("font-size") or (match[1] if (match := _SHORTHAND_SIZE.search(shorthand)) else "")
    weight = said.get("font-weight") or shorthand
    bold = True if _BOLD.search(weight) else False if shorthand or _LIGHT.search(weight) else above.bold
    filled = _share(said["fill-opacity"]) if "fill-opacity" in said else above.filled
    veiled = _share(said.get("opacity")) * above.veiled
    scale = above.scale * _grown(said.get("transform"))
    if element.parent is None:
        scale *= _viewport(element)
    return _Style(_size(size, above.size), scale, bold, _ink(element, cascade, above.ink), filled, veiled)


def _ink(element: Element, cascade: Cascade, above: Rgba | None) -> Rgba | None:
    value = cascade.sets(element, "fill")
    if value is None:
        return above
    if value.current:
        color = cascade.sets(element, "color")
        at = element.parent
        while color is None and at is not None:
            color, at = cascade.sets(at, "color"), at.parent
        return color.literals[0].color if color is not None and color.literals else BLACK
    return value.literals[0].color if len(value.literals) == 1 else None


def _size(text: str, above: float) -> float:
    word = text.strip().lower()
    if word in _WORDS:
        return _WORDS[word]
    if word in _PARTS:
        return above * _PARTS[word]
    if match := _RELATIVE.fullmatch(word):
        number = float(match[1]) if match[1].count(".") <= 1 and match[1] != "." else 1.0
        return number * (_MEDIUM if match[2] == "rem" else above * _PER_UNIT[match[2]])
    return length(word) or above


def _share(text: str | None) -> float:
    if text is None:
        return 1.0
    part = text.strip().removesuffix("%")
    try:
        number = float(part)
    except ValueError:
        return 1.0
    return min(max(number / 100 if text.strip().endswith("%") else number, 0.0), 1.0)


def _grown(transform: str | None) -> float:
    """How much larger a transform makes what it holds."""
    if not transform:
        return 1.0
    try:
        matrix = Matrix(transform)
        return sqrt(abs(matrix.a * matrix.d - matrix.b * matrix.c)) or 1.0
    except (ValueError, TypeError, ArithmeticError, AttributeError, IndexError):
        # Not a transform, so it does nothing (SVG 2, 8.3: an invalid value is ignored).
        return 1.0


def _viewport(root: Element) -> float:
    view, (width, height) = box(root.attributes.get("viewBox")), extent(root)
    return min(width / view[2], height / view[3]) if view else 1.0

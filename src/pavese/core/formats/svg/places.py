"""Every place in an SVG's source at which a paint is written, found without changing anything."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Set
from dataclasses import dataclass
from typing import NamedTuple

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.css import Declaration, Value, read_declarations, read_value
from pavese.core.formats.edits import SourceText
from pavese.core.formats.svg.cascade import OUTSIDE
from pavese.core.formats.svg.matrix import computes, is_linear, matrix_color, with_matrix_color
from pavese.core.formats.svg.properties import (
    ANIMATION_VALUES,
    ANIMATIONS,
    ATTRIBUTES,
    BLACK,
    PROPERTIES,
    STENCILS,
    SVG,
    TEXTS,
    XLINK_HREF,
)
from pavese.core.formats.xml_source import Element, XmlSource, attribute_pattern
from pavese.core.recolor.inventory import Kind
from pavese.core.recolor.recoloring import Recoloring

_FILL_REFERENCE = re.compile(r"url\(\s*[\"']?#([^\"')]+)")
_STARTS_BLACK = frozenset(("fill", "color", "stop-color", "flood-color", "solid-color"))
_MARKED = ATTRIBUTES | {"style", "attributeName"}
_MATRIX = "feColorMatrix"
_UNSEEN = Rgba(0, 0, 0, 0.0)
#: Ids and classes in a selector; those inside strings or attribute selectors do no harm, since nothing bears them.
_SELECTED = re.compile(r"[.#][A-Za-z_][\w-]*")
_FUNCTION_ALPHA = re.compile(r"(?:/|,)\s*([0-9.eE+-]+%?)\s*\)\s*$")
_UPPER_HEX = re.compile(r"#[0-9]*[A-F][0-9A-F]*")
_PAINTED = attribute_pattern({*ATTRIBUTES, "style"})


class Place(NamedTuple):
    """A paint written in the source from byte `start` to byte `end`, as `written`; `by` is its element, or its rule's
    selector."""

    paint: Rgba
    kind: Kind
    start: int
    end: int
    written: str
    by: Element | str
    #: The variable that only the page around the file defines; what is put here is its fallback.
    outside: str = ""
    #: For a color matrix: whether its numbers are in linearized sRGB.
    linear: bool | None = None

    @property
    def marks(self) -> tuple[str, ...]:
        """The marks of a `Site`, nearest first."""
        own = (self.outside,) if self.outside else ()
        found = tuple(_SELECTED.findall(self.by)) if isinstance(self.by, str) else marks_of(self.by)
        return (*own, *found)

    def rewritten(self, target: Rgb) -> str:
        """The target in the notation of this place: its alpha, and capital letters of a hex code, stay."""
        if self.linear is not None:
            return with_matrix_color(self.written, target, linear=self.linear)
        if self.outside:
            return f", {target.hex}"
        written = self.written
        if written.startswith("#"):
            alpha = written[4:] * 2 if len(written) == 5 else written[7:]
            code = target.hex + alpha.lower()
            return code.upper() if _UPPER_HEX.fullmatch(written) else code
        if self.paint.alpha < 1:
            alpha_text = _FUNCTION_ALPHA.search(written)
            alpha = alpha_text[1] if alpha_text else f"{self.paint.alpha:g}"
            return f"rgba({target.r},{target.g},{target.b},{alpha})"
        return target.hex


class _Passage(NamedTuple):
    """A text that holds values of one property, and the way back to the source's bytes."""

    name: str
    kind: Kind
    text: SourceText
    start: int
    end: int
    by: Element | str

    def value(self) -> Value:
        return read_value(self.text.text[self.start : self.end])


def place_color(place: Place, recoloring: Recoloring) -> Rgb | None:
    """What a place becomes; its marks are only looked up where something depends on them."""
    if not recoloring.parts and not recoloring.kept:
        return recoloring.colors.get(place.paint)
    return recoloring.at(place.paint, place.kind, place.marks)


@dataclass(frozen=True)
class Written:
    """What a file writes down about color: its places, its sheets, color functions that cannot be read alone, and
    which elements (by index) are stencils, whose colors are no paint; `computing` says that a filter's matrix gives no
    plain color."""

    places: tuple[Place, ...]
    sheets: tuple[str, ...]
    unread: tuple[str, ...]
    stencilled: Set[int]
    computing: bool


def written_colors(source: XmlSource) -> Written:
    """All places of a file in document order."""
    stencilled = _stencilled(source)
    sheets: list[str] = []
    passages: list[_Passage] = []
    matrices: list[Place] = []
    computing = False
    for element in source.elements:
        if element.namespace != SVG:
            continue
        if element.name == "style" and element.attributes.get("type", "text/css") in ("text/css", ""):
            text = source.content_text(element)
            sheets.append(text.text)
            passages += _of_declarations(text, read_declarations(text.text), None)
        elif element.name == _MATRIX:
            found = _matrix(source, element)
            computing |= found is None
            matrices += [found] if found and found.paint.alpha and element.index not in stencilled else []
        elif not _MARKED.isdisjoint(element.attributes) and element.index not in stencilled:
            passages += _of_element(source, element)

    read = [(passage, passage.value()) for passage in passages]
    painting = _variables_of_paints(read)
    defined = {passage.name for passage, _ in read if passage.name.startswith("--")}
    places: list[Place] = []
    unread: list[str] = []
    for passage, value in read:
        if passage.name.startswith("--") and passage.name not in painting:
            continue
        unread += value.unread
        places += _places(passage, value)
        if value.variables:
            places += _outside(passage, defined)
    places = sorted((*places, *matrices), key=lambda place: place.start) if matrices else places
    return Written(tuple(places), tuple(sheets), tuple(unread), stencilled, computing)


def marks_of(element: Element) -> tuple[str, ...]:
    """Ids and classes of an element and of what it stands in, nearest first; the root's say nothing."""
    found: list[str] = []
    at: Element | None = element
    while at is not None and at.parent is not None:
        if "id" in at.attributes:
            found.append(f"#{at.attributes['id']}")
        found += (f".{name}" for name in at.attributes.get("class", "").split())
        at = at.parent
    return tuple(found)


def _of_element(source: XmlSource, element: Element) -> Iterator[_Passage]:
    if element.name in ANIMATIONS:
        spans = source.attribute_spans(element)
        animated = PROPERTIES.get(element.attributes.get("attributeName", ""))
        for name in ANIMATION_VALUES if animated else ():
            if name in spans and animated:
                text = source.attribute_text(*spans[name])
                yield _Passage(element.attributes["attributeName"], animated.kind, text, 0, len(text.text), element)
        return
    for name, start, end in source.spans_of(element, _PAINTED):
        text = source.attribute_text(start, end)
        if name == "style":
            yield from _of_declarations(text, read_declarations(text.text), element)
        else:
            yield _Passage(name, _kind(name, element), text, 0, len(text.text), element)


def _matrix(source: XmlSource, element: Element) -> Place | None:
    """The color of a matrix that gives one, see-through for one that shows none; None for one that computes."""
    span = source.attribute_spans(element).get("values")
    if span is None or element.attributes.get("type", "matrix") != "matrix":
        return None
    text, linear = source.attribute_text(*span).text, is_linear(element)
    if computes(text):
        return None
    paint = matrix_color(text, linear=linear) or _UNSEEN
    return Place(paint, Kind.SHADOW, *span, text, element, linear=linear)


def _of_declarations(
    text: SourceText, declarations: Iterable[Declaration], element: Element | None
) -> Iterator[_Passage]:
    for declaration in declarations:
        name = declaration.name
        by = element or declaration.selector or ""
        if name in PROPERTIES:
            yield _Passage(name, _kind(name, element), text, declaration.start, declaration.end, by)
        elif name.startswith("--"):
            yield _Passage(name, Kind.FILL, text, declaration.start, declaration.end, by)


def _kind(name: str, element: Element | None) -> Kind:
    if element is not None and name == "fill" and element.name in TEXTS:
        return Kind.TEXT
    return PROPERTIES[name].kind


def _variables_of_paints(read: Iterable[tuple[_Passage, Value]]) -> set[str]:
    """The custom properties that reach a paint, directly or through one another."""
    reads: dict[str, set[str]] = {}
    wanted: list[str] = []
    for passage, value in read:
        if passage.name.startswith("--"):
            reads.setdefault(passage.name, set()).update(value.variables)
        else:
            wanted += value.variables
    reached: set[str] = set()
    while wanted:
        name = wanted.pop()
        if name not in reached:
            reached.add(name)
            wanted += reads.get(name, ())
    return reached


def _places(passage: _Passage, value: Value) -> list[Place]:
    text, kind, origin = passage.text, passage.kind, passage.start
    found = []
    for literal in value.literals:
        start, end = origin + literal.start, origin + literal.end
        found.append(Place(literal.color, kind, *text.bytes_of(start, end), text.text[start:end], passage.by))
    if value.keyword == "initial" and passage.name in _STARTS_BLACK:
        at = text.text.lower().index("initial", passage.start)
        found.append(Place(BLACK, kind, *text.bytes_of(at, at + 7), "initial", passage.by))
    return found


def _outside(passage: _Passage, defined: Set[str]) -> Iterator[Place]:
    """Where a fallback could be put for variables that the file does not define; until then they count as black."""
    text = passage.text
    for found in OUTSIDE.finditer(text.text, passage.start, passage.end):
        if found[1] not in defined:
            at = text.bytes_of(found.start(2), found.end(2))[0]
            yield Place(BLACK, passage.kind, at, at, "", passage.by, found[1])


def _stencilled(source: XmlSource) -> set[int]:
    """Elements whose colors decide what is seen, not in which color: inside masks and clip paths, and the
    gradients and patterns that only such elements refer to."""
    inside: set[int] = set()
    for element in source.elements:
        if element.namespace == SVG and element.name in STENCILS and element.index not in inside:
            inside.update(e.index for e in element.subtree())
    if not inside:
        return inside
    referring: dict[str, list[int]] = {}
    for element in source.elements:
        for value in element.attributes.values():
            for id_ in _FILL_REFERENCE.findall(value) if "url(" in value else ():
                referring.setdefault(id_, []).append(element.index)
        for href in ("href", XLINK_HREF):
            if (value := element.attributes.get(href, "")).startswith("#"):
                referring.setdefault(value[1:], []).append(element.index)
    grown = True
    while grown:
        grown = False
        for element in source.elements:
            users = referring.get(element.attributes.get("id", ""), ())
            if (
                element.index not in inside
                and element.name not in STENCILS
                and users
                and all(user in inside for user in users)
            ):
                inside.update(e.index for e in element.subtree())
                grown = True
    return inside

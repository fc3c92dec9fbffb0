"""Every place in an SVG's source at which a paint is written, found without changing anything."""

from __future__ import annotations

import re
from collections.abc import Set
from operator import attrgetter
from typing import NamedTuple

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.css import Value, read_declarations, read_value
from pavese.core.formats.edits import SourceText
from pavese.core.formats.notation import rewritten
from pavese.core.formats.svg.cascade import OUTSIDE
from pavese.core.formats.svg.matrix import computes, is_linear, matrix_color, with_matrix_color
from pavese.core.formats.svg.properties import (
    ANIMATION_VALUES,
    ANIMATIONS,
    ATTRIBUTES,
    BLACK,
    MASKS,
    PROPERTIES,
    SHAPES,
    SVG,
    TEXTS,
    XLINK_HREF,
)
from pavese.core.formats.xml_source import Element, XmlSource
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind

_FILL_REFERENCE = re.compile(r"url\(\s*[\"']?#([^\"')]+)")
_STARTS_BLACK = frozenset(("fill", "color", "stop-color", "flood-color", "solid-color"))
_PAINTED = ATTRIBUTES | {"style"}
_TOLD_OTHERWISE = ANIMATIONS | {"style"}
_MATRIX = "feColorMatrix"
#: What a text is painted with.
_INKS = frozenset(("fill", "color"))
#: Elements that show a fill of their own or one that they inherit.
_SHOWING = SHAPES | TEXTS | {"line", "use", "image", "foreignObject", "stop"}
#: The last step of a selector, and what an element bears that it asks for.
_LAST_STEP, _BORNE = re.compile(r"[^\s>+~]*$"), re.compile(r"[.#]?[\w-]+")
_UNSEEN = Rgba(0, 0, 0, 0.0)
#: Ids and classes in a selector; those inside strings or attribute selectors do no harm, since nothing bears them.
_SELECTED = re.compile(r"[.#][A-Za-z_][\w-]*")


class SvgPlace(NamedTuple):
    """A paint written in the source from byte `start` to byte `end`, as `written`; `by` is its element, or its rule's
    selector."""

    paint: Rgba
    kind: Kind
    start: int
    end: int
    written: str
    by: Element | str
    #: For a color matrix: whether its numbers are in linearized sRGB.
    linear: bool | None = None

    @property
    def selectors(self) -> tuple[str, ...]:
        """The selectors of a `Site`, nearest first."""
        return tuple(_SELECTED.findall(self.by)) if isinstance(self.by, str) else selectors_of(self.by)

    def rewritten(self, target: Rgb) -> bytes:
        """The target in the notation of this place: its alpha, and capital letters of a hex code, stay."""
        if self.linear is not None:
            return with_matrix_color(self.written, target, linear=self.linear).encode()
        return rewritten(self.written, self.paint, target)


def place_color(place: SvgPlace, recoloring: Recoloring) -> Rgb | None:
    """What a place becomes; its selectors are only looked up where something depends on them."""
    if not (recoloring.parts or recoloring.rules or recoloring.kept):
        return recoloring.colors.get(place.paint)
    return recoloring.at(place.paint, place.kind, place.selectors)


class Written(NamedTuple):
    """What a file writes down about color: its places, its sheets, color functions that cannot be read alone, and
    which elements (by index) are masks or clip paths, whose colors are no paint; `computing` says that a filter's
    matrix gives no plain color; `outside` are variables that only the page around the file can define."""

    places: tuple[SvgPlace, ...]
    sheets: tuple[str, ...]
    unread: tuple[str, ...]
    masked: Set[int]
    computing: bool
    outside: tuple[str, ...]


def written_colors(source: XmlSource) -> Written:
    """All places of a file in document order."""
    masked = _masked(source)
    reader = _Reader(source)
    for element in source.elements:
        attributes = element.attributes
        if not _PAINTED.isdisjoint(attributes) or element.name in _TOLD_OTHERWISE:
            if element.namespace == SVG and element.index not in masked:
                reader.read(element)
    matrices = [_matrix(source, element) for element in source.named(_MATRIX) if element.namespace == SVG]
    shown = [one for one in matrices if one and one.paint.alpha and one.by.index not in masked]
    places = sorted((*reader.places(), *shown), key=attrgetter("start"))
    if source.entities:
        # What an entity says is written once, however often it is used.
        places = list({place.start: place for place in reversed(places)}.values())[::-1]
    return Written(
        tuple(places), tuple(reader.sheets), tuple(reader.unread), masked, None in matrices, reader.outside()
    )


class _Passage(NamedTuple):
    """A text with a value of one property from `start` to `end`, and the way back to the source's bytes."""

    name: str
    value: Value
    kind: Kind
    by: Element | str
    text: SourceText
    start: int
    end: int


class _Reader:
    """Gathers the places of colors, element by element; values that say nothing of color are not looked for."""

    def __init__(self, source: XmlSource) -> None:
        self.sheets: list[str] = []
        self.unread: list[str] = []
        self._source = source
        self._texts = frozenset[str]() if source.names.isdisjoint(TEXTS) else _borne_by_texts(source)
        self._places: list[SvgPlace] = []
        #: What may count for others: values of custom properties, and values that read some.
        self._custom: list[_Passage] = []
        self._reading: list[_Passage] = []

    def read(self, element: Element) -> None:
        attributes = element.attributes
        if element.name == "style":
            if attributes.get("type", "text/css") in ("text/css", ""):
                text = self._source.content_text(element)
                self.sheets.append(text.text)
                self._declarations(text, None)
        elif element.name in ANIMATIONS:
            animated = attributes.get("attributeName", "")
            for name in ANIMATION_VALUES if animated in PROPERTIES else ():
                if name in attributes:
                    self._attribute(element, name, animated, PROPERTIES[animated].kind)
        else:
            for name in attributes:
                if name in ATTRIBUTES:
                    self._attribute(element, name, name, self._kind(name, element))
                elif name == "style":
                    self._declarations(self._source.attribute_text(element, name), element)

    def places(self) -> list[SvgPlace]:
        """All places; those in custom properties only where these reach a paint."""
        painting = self._reached()
        for passage in self._custom:
            if passage.name in painting:
                self._take(*passage)
        return self._places

    def outside(self) -> tuple[str, ...]:
        """The variables that are read where they have no fallback, and that the file does not define."""
        read = {name for one in self._reading for name in OUTSIDE.findall(one.text.text, one.start, one.end)}
        return tuple(sorted(read - {passage.name for passage in self._custom}))

    def _attribute(self, element: Element, attribute: str, name: str, kind: Kind) -> None:
        written = element.attributes[attribute]
        value = read_value(written)
        if value.tells:
            text = self._source.attribute_text(element, attribute)
            self._take(name, value, kind, element, text, 0, len(written))

    def _kind(self, name: str, by: Element | str) -> Kind:
        """What a value of a property paints; the ink of nothing but texts is theirs, wherever it is said."""
        if name in _INKS and self._texts and (self._inks(by) if isinstance(by, str) else self._holds_texts(by)):
            return Kind.TEXT
        return PROPERTIES[name].kind if name in PROPERTIES else Kind.FILL

    def _inks(self, selector: str) -> bool:
        """Whether a selector means texts only, as far as its last steps tell."""
        steps = [_LAST_STEP.search(one.strip()) for one in selector.split(",")]
        return all(step and not self._texts.isdisjoint(_BORNE.findall(step[0])) for step in steps)

    def _holds_texts(self, element: Element) -> bool:
        if element.name in TEXTS or element.name in SHAPES:
            return element.name in TEXTS
        if element.parent is None:
            return False
        shown = {one.name for one in self._source.subtree(element)} & _SHOWING
        return bool(shown) and shown <= TEXTS

    def _declarations(self, text: SourceText, element: Element | None) -> None:
        for declaration in read_declarations(text.text):
            name, start, end = declaration.name, declaration.start, declaration.end
            custom = name.startswith("--")
            if custom or name in PROPERTIES:
                value = read_value(text.text[start:end])
                by = element or declaration.selector or ""
                passage = _Passage(name, value, self._kind(name, by), by, text, start, end)
                if custom:
                    self._custom.append(passage)
                elif value.tells:
                    self._take(*passage)

    def _take(
        self, name: str, value: Value, kind: Kind, by: Element | str, text: SourceText, origin: int, behind: int
    ) -> None:
        for literal in value.literals:
            start, end = origin + literal.start, origin + literal.end
            self._places.append(SvgPlace(literal.color, kind, *text.bytes_of(start, end), text.text[start:end], by))
        if value.keyword == "initial" and name in _STARTS_BLACK:
            at = text.text.lower().index("initial", origin)
            self._places.append(SvgPlace(BLACK, kind, *text.bytes_of(at, at + 7), "initial", by))
        if value.variables:
            self._reading.append(_Passage(name, value, kind, by, text, origin, behind))
        self.unread += value.unread

    def _reached(self) -> set[str]:
        """The custom properties that reach a paint, directly or through one another."""
        reads: dict[str, set[str]] = {}
        for passage in self._custom:
            reads.setdefault(passage.name, set()).update(passage.value.variables)
        wanted = [name for passage in self._reading for name in passage.value.variables]
        reached: set[str] = set()
        while wanted:
            name = wanted.pop()
            if name not in reached:
                reached.add(name)
                wanted += reads.get(name, ())
        return reached


def selectors_of(element: Element) -> tuple[str, ...]:
    """Ids and classes of an element and of what it stands in, nearest first; the root's say nothing."""
    found: list[str] = []
    at: Element | None = element
    while at is not None and at.parent is not None:
        if "id" in at.attributes:
            found.append(f"#{at.attributes['id']}")
        found += (f".{name}" for name in at.attributes.get("class", "").split())
        at = at.parent
    return tuple(found)


def _matrix(source: XmlSource, element: Element) -> SvgPlace | None:
    """The color of a matrix that gives one, see-through for one that shows none; None for one that computes."""
    attributes = element.attributes
    text, linear = attributes.get("values", ""), is_linear(element)
    if attributes.get("type", "matrix") != "matrix" or computes(text):
        return None
    paint = matrix_color(text, linear=linear) or _UNSEEN
    span = source.attribute_span(element, "values")
    return SvgPlace(paint, Kind.SHADOW, *span, text, element, linear=linear)


def _borne_by_texts(source: XmlSource) -> frozenset[str]:
    """The names, classes and ids (as selectors) that only texts bear."""
    texts: set[str] = set()
    others: set[str] = set()
    for element in source.elements:
        bears = (element.name, *(f".{one}" for one in element.attributes.get("class", "").split()))
        (texts if element.name in TEXTS else others).update(bears)
        if "id" in element.attributes:
            (texts if element.name in TEXTS else others).add(f"#{element.attributes['id']}")
    return frozenset(texts - others)


def _masked(source: XmlSource) -> set[int]:
    """Elements whose colors decide what is seen, not in which color: inside masks and clip paths, and the
    gradients and patterns that only such elements refer to."""
    inside: set[int] = set()
    for element in source.named(*MASKS):
        if element.namespace == SVG and element.index not in inside:
            inside.update(e.index for e in source.subtree(element))
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
                and element.name not in MASKS
                and users
                and all(user in inside for user in users)
            ):
                inside.update(e.index for e in source.subtree(element))
                grown = True
    return inside

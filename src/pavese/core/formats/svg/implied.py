"""Colors that nothing in the file names: the black of shapes without a fill, of `currentColor` without a color.

The initial value of `fill` is black and it is inherited (SVG 2, section 13.3), so what counts is not whether a
shape names a fill but whether anything it inherits from does, along the way it is really drawn: through `use`
for what stands in `defs` and `symbol`, and through its own ancestors everywhere else.
"""

from __future__ import annotations

from collections.abc import Iterator, Set
from typing import NamedTuple

from pavese.core.color.srgb import Rgba
from pavese.core.formats.svg.cascade import Cascade
from pavese.core.formats.svg.properties import (
    BLACK,
    INITIAL,
    MASKS,
    REFERENCED,
    SHAPES,
    SVG,
    TEMPLATES,
    TEXTS,
    XLINK_HREF,
)
from pavese.core.formats.xml_source import Element, XmlSource
from pavese.core.recolor.site import Kind


class Implied(NamedTuple):
    """A color without a word for it: the element that shows it, and the attribute that would change it.

    `fill` and `color` are inherited and nothing sets them on the way, so the root is where they can be put.
    `mask` is the mask or clip path in which it stands, if it does; there it is no paint.
    """

    element: Element
    attribute: str
    paint: Rgba
    kind: Kind
    mask: Element | None


#: What an element inherits: whether anything set its fill and its color, whether its fill and its stroke read
#: `currentColor`, and in which mask it stands.
_Inherited = tuple[bool, bool, bool, bool, Element | None]
_NOTHING_SET: _Inherited = (False, False, False, False, None)
_PASSED_ON = frozenset(("fill", "stroke", "color"))


def implied_colors(source: XmlSource, cascade: Cascade, masked: Set[int]) -> list[Implied]:
    """Each element that shows a color nothing names, once for each attribute."""
    return list(dict.fromkeys(_Walk(source, cascade, masked).run()))


class _Walk:
    def __init__(self, source: XmlSource, cascade: Cascade, masked: Set[int]) -> None:
        self._source = source
        self._masked = masked
        self._cascade = cascade
        self._used = {id_ for use in source.named("use") if (id_ := _target(use))}
        self._targets = {e.attributes["id"]: e for e in source.elements if "id" in e.attributes} if self._used else {}

    def run(self) -> Iterator[Implied]:
        yield from self._where_used() if self._used else self._where_written()

    def _where_written(self) -> Iterator[Implied]:
        """Without `use`, every element is drawn once, where it stands."""
        states: dict[int, _Inherited] = {}
        for element in self._source.elements:
            parent = element.parent
            inherited = _NOTHING_SET if parent is None else states.get(parent.index)
            if inherited is not None and element.namespace == SVG:
                states[element.index] = state = self._state(element, inherited)
                if element.name in _SHOWING:
                    yield from self._shown(element, state)

    def _where_used(self) -> Iterator[Implied]:
        # Each element is visited once for each different inheritance, so a chain of `use` cannot explode.
        visited: set[tuple[int, _Inherited]] = set()
        open_: list[tuple[Element, _Inherited]] = [(self._source.root, _NOTHING_SET)]
        while open_:
            element, inherited = open_.pop()
            if element.namespace != SVG or (element.index, inherited) in visited:
                continue
            visited.add((element.index, inherited))
            state = self._state(element, inherited)
            if element.name in _SHOWING:
                yield from self._shown(element, state)
            if element.name == "use":
                target = self._targets.get(_target(element) or "")
                if target is not None:
                    open_.append((target, state))
            children = reversed(self._source.children(element))
            open_ += [(child, state) for child in children if not self._drawn_by_use(element, child)]

    def _drawn_by_use(self, parent: Element, child: Element) -> bool:
        """Whether an element is drawn where a `use` stands, with the style that is inherited there."""
        if child.name in TEMPLATES and child.attributes.get("id") in self._used:
            return True
        if parent.name != "defs" or child.name in REFERENCED or child.name in MASKS:
            return False
        ids = (e.attributes.get("id") for e in self._source.subtree(child))
        return any(id_ in self._used for id_ in ids if id_)

    def _state(self, element: Element, inherited: _Inherited) -> _Inherited:
        cascade = self._cascade
        declared = cascade.declared(element)
        masked = element.index in self._masked
        if not masked and _PASSED_ON.isdisjoint(declared):
            return inherited
        fill_set, color_set, fill_current, stroke_current, mask = inherited
        if masked and mask is None:
            mask = element
        if "fill" in declared and (fill := cascade.computed(element, declared["fill"])) is not None:
            fill_set, fill_current = True, fill.current
        if "stroke" in declared and (stroke := cascade.computed(element, declared["stroke"])) is not None:
            stroke_current = stroke.current
        if "color" in declared and (color := cascade.computed(element, declared["color"])) is not None:
            color_set = color_set or not color.current
        return fill_set, color_set, fill_current, stroke_current, mask

    def _shown(self, element: Element, state: _Inherited) -> list[Implied]:
        fill_set, color_set, fill_current, stroke_current, mask = state
        name, shown = element.name, []
        if name in INITIAL:
            attribute, initial = INITIAL[name]
            value = self._cascade.sets(element, attribute)
            if value is None:
                kind = Kind.STOP if name == "stop" else Kind.EFFECT
                shown.append(Implied(element, attribute, initial, kind, mask))
            elif value.current and not color_set:
                shown.append(Implied(element, "color", BLACK, Kind.STOP, mask))
            return shown
        if name in SHAPES:
            if not fill_set:
                shown.append(Implied(element, "fill", BLACK, Kind.TEXT if name in TEXTS else Kind.FILL, mask))
            elif fill_current and not color_set:
                shown.append(Implied(element, "color", BLACK, Kind.TEXT if name in TEXTS else Kind.FILL, mask))
        if stroke_current and not color_set:
            shown.append(Implied(element, "color", BLACK, Kind.STROKE, mask))
        return shown


#: Elements that may show a color nothing names.
_SHOWING = frozenset((*SHAPES, "line", *INITIAL))


def _target(use: Element) -> str | None:
    href = use.attributes.get("href") or use.attributes.get(XLINK_HREF) or ""
    return href[1:] if href.startswith("#") else None

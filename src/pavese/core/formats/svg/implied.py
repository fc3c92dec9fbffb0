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
    REFERENCED,
    SHAPES,
    STENCILS,
    SVG,
    TEMPLATES,
    TEXTS,
    XLINK_HREF,
)
from pavese.core.formats.xml_source import Element, XmlSource
from pavese.core.recolor.inventory import Kind


class Implied(NamedTuple):
    """A color without a word for it: the element that shows it, and the attribute that would change it.

    `fill` and `color` are inherited and nothing sets them on the way, so the root is where they can be put.
    `stencil` is the mask or clip path in which it stands, if it does; there it is no paint.
    """

    element: Element
    attribute: str
    paint: Rgba
    kind: Kind
    stencil: Element | None


class _Inherited(NamedTuple):
    """What an element inherits: whether anything set its fill and color, and what reads `currentColor`."""

    fill_set: bool = False
    color_set: bool = False
    fill_current: bool = False
    stroke_current: bool = False
    stencil: Element | None = None


def implied_colors(source: XmlSource, cascade: Cascade, stencilled: Set[int]) -> Iterator[Implied]:
    """Each element that shows a color nothing names, once for each attribute."""
    seen: set[Implied] = set()
    for found in _Walk(source, cascade, stencilled).run():
        if found not in seen:
            seen.add(found)
            yield found


class _Walk:
    def __init__(self, source: XmlSource, cascade: Cascade, stencilled: Set[int]) -> None:
        self._source = source
        self._stencilled = stencilled
        self._cascade = cascade
        self._targets = {e.attributes["id"]: e for e in source.elements if "id" in e.attributes}
        self._used = {id_ for e in source.elements if e.name == "use" and (id_ := _target(e))}

    def run(self) -> Iterator[Implied]:
        # Each element is visited once for each different inheritance, so a chain of `use` cannot explode.
        visited: set[tuple[int, _Inherited]] = set()
        repeats = bool(self._used)
        open_: list[tuple[Element, _Inherited]] = [(self._source.root, _Inherited())]
        while open_:
            element, inherited = open_.pop()
            if element.namespace != SVG or (repeats and (element.index, inherited) in visited):
                continue
            if repeats:
                visited.add((element.index, inherited))
            state = self._state(element, inherited)
            yield from self._shown(element, state)
            if element.name == "use":
                target = self._targets.get(_target(element) or "")
                if target is not None:
                    open_.append((target, state))
            for child in reversed(element.children):
                if repeats and self._drawn_by_use(element, child):
                    continue
                open_.append((child, state))

    def _drawn_by_use(self, parent: Element, child: Element) -> bool:
        """Whether an element is drawn where a `use` stands, with the style that is inherited there."""
        if child.name in TEMPLATES and child.attributes.get("id") in self._used:
            return True
        if parent.name != "defs" or child.name in REFERENCED or child.name in STENCILS:
            return False
        ids = (e.attributes.get("id") for e in child.subtree())
        return any(id_ in self._used for id_ in ids if id_)

    def _state(self, element: Element, inherited: _Inherited) -> _Inherited:
        declared = self._cascade.declared(element)
        state = inherited
        if state.stencil is None and (element.name in STENCILS or element.index in self._stencilled):
            state = state._replace(stencil=element)
        if "fill" in declared and (fill := self._cascade.sets(element, "fill")) is not None:
            if not state.fill_set or state.fill_current != fill.current:
                state = state._replace(fill_set=True, fill_current=fill.current)
        if "stroke" in declared and (stroke := self._cascade.sets(element, "stroke")) is not None:
            if state.stroke_current != stroke.current:
                state = state._replace(stroke_current=stroke.current)
        if "color" in declared and (color := self._cascade.sets(element, "color")) is not None:
            if not state.color_set and not color.current:
                state = state._replace(color_set=True)
        return state

    def _shown(self, element: Element, state: _Inherited) -> Iterator[Implied]:
        kind = Kind.TEXT if element.name in TEXTS else Kind.FILL
        if element.name in SHAPES:
            if not state.fill_set:
                yield Implied(element, "fill", BLACK, kind, state.stencil)
            elif state.fill_current and not state.color_set:
                yield Implied(element, "color", BLACK, kind, state.stencil)
        if (element.name in SHAPES or element.name == "line") and state.stroke_current and not state.color_set:
            yield Implied(element, "color", BLACK, Kind.STROKE, state.stencil)
        if element.name in INITIAL:
            name, initial = INITIAL[element.name]
            value = self._cascade.sets(element, name)
            if value is None:
                yield Implied(
                    element, name, initial, Kind.STOP if element.name == "stop" else Kind.EFFECT, state.stencil
                )
            elif value.current and not state.color_set:
                yield Implied(element, "color", BLACK, Kind.STOP, state.stencil)


def _target(use: Element) -> str | None:
    href = use.attributes.get("href") or use.attributes.get(XLINK_HREF) or ""
    return href[1:] if href.startswith("#") else None

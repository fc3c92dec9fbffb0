"""Which declaration wins on which element of an SVG, as far as color needs it.

CSS Cascade 4, section 6 (sorting order): https://www.w3.org/TR/css-cascade-4/#cascade-sort . Presentation
attributes count as author declarations of no specificity before all others (SVG 2, section 6.6). Rules inside
conditional at-rules other than `@supports` and `@layer` are left out: they do not always hold.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import Any
from xml.etree.ElementTree import Element as Node

import cssselect2

from pavese.core.css import Declaration, Literal, Value, read_declarations, read_value
from pavese.core.formats.svg.properties import ATTRIBUTES, BLACK
from pavese.core.formats.xml_source import Element, XmlSource

_ALWAYS = frozenset(("supports", "layer"))
#: Paint keywords that are valid and set something (SVG 2, section 13.2).
_SETTING = frozenset(("none", "transparent", "context-fill", "context-stroke", "initial"))

#: Order of one declaration among those of an element: important, from the style attribute, specificity, position.
_Rank = tuple[bool, bool, tuple[int, int, int], int]


#: A variable without a fallback; where the file does not define it, the page around it may.
OUTSIDE = re.compile(r"var\(\s*(--[\w-]+)\s*(\))", re.IGNORECASE)
#: What stands in for a color that only the page knows.
_FROM_OUTSIDE = Value((Literal(0, 0, BLACK),))
_NOTHING: Mapping[str, str] = {}


@lru_cache(maxsize=8192)
def _setting(text: str) -> Value | None:
    """What a value sets by itself; None for `inherit`, for a missing variable and for what is no value at all."""
    value = read_value(text)
    return value if value.paints or value.keyword in _SETTING else None


class Cascade:
    """Winning declarations, element by element; sheets are matched only when there are any."""

    def __init__(self, source: XmlSource, sheets: Iterable[str]) -> None:
        self._by_rule = _match(source, tuple(sheets))
        self._declared: dict[int, Mapping[str, str]] = {}

    def declared(self, element: Element) -> Mapping[str, str]:
        """The winning value of each property and custom property that is declared on the element itself."""
        known = self._declared.get(element.index)
        if known is None:
            known = self._declared[element.index] = self._collect(element)
        return known

    def variables(self, element: Element) -> Mapping[str, str]:
        """The custom properties in force on an element, inherited ones included."""
        found: dict[str, str] = {}
        at: Element | None = element
        while at is not None:
            for name, value in self.declared(at).items():
                if name.startswith("--"):
                    found.setdefault(name, value)
            at = at.parent
        return found

    def sets(self, element: Element, name: str) -> Value | None:
        """What the element itself sets for a property, variables followed; None when it inherits."""
        text = self.declared(element).get(name)
        if text is None:
            return None
        return self._computed(element, text, 0) if "var(" in text else _setting(text)

    def _computed(self, element: Element, text: str, depth: int) -> Value | None:
        variables = read_value(text).variables
        if variables and depth < 16:
            custom = self.variables(element)
            for variable in variables:
                if variable in custom:
                    return self._computed(element, custom[variable], depth + 1)
            if OUTSIDE.search(text):
                return _FROM_OUTSIDE
        return _setting(text)

    def _collect(self, element: Element) -> Mapping[str, str]:
        attributes = element.attributes
        if "style" not in attributes and element.index not in self._by_rule:
            return {name: attributes[name] for name in attributes if name in ATTRIBUTES} or _NOTHING
        ranked: dict[str, tuple[_Rank, str]] = {}

        def offer(name: str, rank: _Rank, text: str) -> None:
            if name not in ranked or rank >= ranked[name][0]:
                ranked[name] = rank, text

        for name in ATTRIBUTES & element.attributes.keys():
            offer(name, (False, False, (-1, 0, 0), 0), element.attributes[name])
        for specificity, order, declaration, text in self._by_rule.get(element.index, ()):
            offer(declaration.name, (declaration.important, False, specificity, order), text)
        if style := element.attributes.get("style"):
            for order, declaration in enumerate(read_declarations(style)):
                text = style[declaration.start : declaration.end]
                offer(declaration.name, (declaration.important, True, (0, 0, 0), order), text)
        return {name: text for name, (_, text) in ranked.items()}


_Matched = tuple[tuple[int, int, int], int, Declaration, str]


def _match(source: XmlSource, sheets: tuple[str, ...]) -> dict[int, list[_Matched]]:
    """The declarations that rules put on each element, by the element's index."""
    by_selector: dict[str, list[tuple[int, Declaration, str]]] = {}
    order = 0
    for sheet in sheets:
        for declaration in read_declarations(sheet):
            if declaration.selector is not None and set(declaration.at_rules) <= _ALWAYS:
                order += 1
                text = sheet[declaration.start : declaration.end]
                by_selector.setdefault(declaration.selector, []).append((order, declaration, text))
    if not by_selector:
        return {}
    matcher = cssselect2.Matcher()
    for selector, declarations in by_selector.items():
        for compiled in _compiled(selector):
            matcher.add_selector(compiled, declarations)
    found: dict[int, list[_Matched]] = {}
    wrapper = cssselect2.ElementWrapper.from_xml_root(_mirror(source))
    for element, wrapped in zip(source.elements, wrapper.iter_subtree(), strict=True):
        matches = matcher.match(wrapped)
        if matches:
            found[element.index] = [(spec, *one) for spec, _, _, declarations in matches for one in declarations]
    return found


@lru_cache(maxsize=1024)
def _compiled(selector: str) -> tuple[Any, ...]:
    """The selectors of a rule that can match elements; none for one that CSS does not know, as in browsers."""
    try:
        selectors = cssselect2.compile_selector_list(selector)
    except cssselect2.SelectorError:
        return ()
    return tuple(one for one in selectors if one.pseudo_element is None and not one.never_matches)


def _mirror(source: XmlSource) -> Node:
    """The elements as the tree that the selector library walks."""
    nodes: list[Node] = []
    for element in source.elements:
        attributes = {_clark(name): value for name, value in element.attributes.items()}
        node = Node(f"{{{element.namespace}}}{element.name}" if element.namespace else element.name, attributes)
        nodes.append(node)
        if element.parent is not None:
            nodes[element.parent.index].append(node)
    return nodes[0]


def _clark(name: str) -> str:
    namespace, space, local = name.rpartition(" ")
    return f"{{{namespace}}}{local}" if space else name

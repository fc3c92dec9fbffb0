"""Which declaration wins on which element of an SVG, as far as color needs it.

CSS Cascade 4, section 6 (sorting order): https://www.w3.org/TR/css-cascade-4/#cascade-sort . Presentation
attributes count as author declarations of no specificity before all others (SVG 2, section 6.6). Rules inside
conditional at-rules other than `@supports` and `@layer` are left out: they do not always hold.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import lru_cache
from typing import Any
from xml.etree.ElementTree import Element as Node

import cssselect2

from pavese.core.css import Declaration, Value, read_declarations, read_value
from pavese.core.formats.selecting import bound, matcher
from pavese.core.formats.svg.properties import ATTRIBUTES
from pavese.core.formats.xml_source import Element, XmlSource

#: Paint keywords that are valid and set something (SVG 2, section 13.2).
_SETTING = frozenset(("none", "transparent", "context-fill", "context-stroke", "initial"))

#: Order of one declaration among those of an element: important, from the style attribute, specificity, position.
_Rank = tuple[bool, bool, tuple[int, int, int], int]


#: A variable without a fallback; where the file does not define it, the page around it may.
OUTSIDE = re.compile(r"var\(\s*(--[\w-]+)\s*\)", re.IGNORECASE)
#: Selectors made of names, ids and classes of one element.
_ALONE = re.compile(r"[\w.#*-]+(?:\s*,\s*[\w.#*-]+)*")


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
        self._variables: dict[int, Mapping[str, str]] = {}

    def declared(self, element: Element) -> Mapping[str, str]:
        """The winning value of each property and custom property that is declared on the element itself.

        It may hold the other attributes of the element too.
        """
        if element.index not in self._by_rule and "style" not in element.attributes:
            return element.attributes
        known = self._declared.get(element.index)
        if known is None:
            known = self._declared[element.index] = self._collect(element)
        return known

    def variables(self, element: Element) -> Mapping[str, str]:
        """The custom properties in force on an element, inherited ones included."""
        known = self._variables.get(element.index)
        if known is None:
            inherited = self.variables(element.parent) if element.parent is not None else {}
            own = {name: value for name, value in self.declared(element).items() if name.startswith("--")}
            known = self._variables[element.index] = {**inherited, **own} if own else inherited
        return known

    def sets(self, element: Element, name: str) -> Value | None:
        """What the element itself sets for a property, variables followed; None when it inherits."""
        text = self.declared(element).get(name)
        return None if text is None else self.computed(element, text)

    def computed(self, element: Element, text: str, depth: int = 0) -> Value | None:
        """What a declared value sets on an element, variables followed; None when it leaves it to inheritance."""
        if "var(" not in text:
            return _setting(text)
        variables = read_value(text).variables
        if variables and depth < 16:
            custom = self.variables(element)
            for variable in variables:
                if variable in custom:
                    return self.computed(element, custom[variable], depth + 1)
            if OUTSIDE.search(text):
                # Invalid at computed-value time: as if it were not declared (CSS Variables 1, section 3.1).
                return None
        return _setting(text)

    def _collect(self, element: Element) -> Mapping[str, str]:
        ranked: dict[str, tuple[_Rank, str]] = {}

        def offer(name: str, rank: _Rank, text: str) -> None:
            if name not in ranked or rank >= ranked[name][0]:
                ranked[name] = rank, text

        for name in ATTRIBUTES.intersection(element.attributes):
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
            if declaration.selector is not None and declaration.always:
                order += 1
                text = sheet[declaration.start : declaration.end]
                by_selector.setdefault(declaration.selector, []).append((order, declaration, text))
    if not by_selector:
        return {}
    alone = all(map(_ALONE.fullmatch, by_selector))
    if not alone:
        bound(by_selector, len(source.elements))
    matched = _each_alone if alone else _all_together
    # Elements that are alike have the very same matches: what these say is put together once.
    known: dict[int, tuple[_Matches, list[_Matched]]] = {}
    found: dict[int, list[_Matched]] = {}
    for index, matches in matched(source, tuple(by_selector)):
        if not matches:
            continue
        if id(matches) not in known:
            said = [(specificity, *one) for specificity, selector in matches for one in by_selector[selector]]
            known[id(matches)] = matches, said
        found[index] = known[id(matches)][1]
    return found


#: The selectors that match an element, each with its specificity, weakest first.
_Matches = Sequence[tuple[tuple[int, int, int], str]]


def _each_alone(source: XmlSource, selectors: tuple[str, ...]) -> Iterator[tuple[int, _Matches]]:
    """Matches where only an element's own name, id and classes count."""
    for element in source.elements:
        attributes = element.attributes
        yield (
            element.index,
            _alike(selectors, element.namespace, element.name, attributes.get("id"), attributes.get("class")),
        )


@lru_cache(maxsize=16384)
def _alike(selectors: tuple[str, ...], namespace: str, name: str, id_: str | None, classes: str | None) -> _Matches:
    """Matches of all elements that are alike in these."""
    attributes = {key: value for key, value in (("id", id_), ("class", classes)) if value is not None}
    return _matches(selectors, cssselect2.ElementWrapper.from_xml_root(_node(namespace, name, attributes)))


def _all_together(source: XmlSource, selectors: tuple[str, ...]) -> Iterator[tuple[int, _Matches]]:
    wrapper = cssselect2.ElementWrapper.from_xml_root(_mirror(source))
    for element, wrapped in zip(source.elements, wrapper.iter_subtree(), strict=True):
        yield element.index, _matches(selectors, wrapped)


def _matches(selectors: tuple[str, ...], wrapped: Any) -> _Matches:
    return tuple((specificity, selector) for specificity, _, _, selector in matcher(selectors).match(wrapped))


def _mirror(source: XmlSource) -> Node:
    """The elements as the tree that the selector library walks."""
    nodes: list[Node] = []
    for element in source.elements:
        nodes.append(_node(element.namespace, element.name, element.attributes))
        if element.parent is not None:
            nodes[element.parent.index].append(nodes[-1])
    return nodes[0]


def _node(namespace: str, name: str, attributes: Mapping[str, str]) -> Node:
    named = {_clark(name): value for name, value in attributes.items()}
    return Node(f"{{{namespace}}}{name}" if namespace else name, named)


def _clark(name: str) -> str:
    namespace, space, local = name.rpartition(" ")
    return f"{{{namespace}}}{local}" if space else name

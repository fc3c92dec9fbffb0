"""Where colors stand in CSS text: in single values and in whole sheets, with their places in the source.

CSS Syntax 3 tokens come from tinycss2; this module adds where each token ends, so that a color can be replaced
and every other character left as it was. https://www.w3.org/TR/css-syntax-3/
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any

import tinycss2

from pavese.core import limits
from pavese.core.color.parse import try_color
from pavese.core.color.srgb import Rgba
from pavese.core.errors import UnreadableCssError

_LINE_END = re.compile(r"\r\n|\r|\n|\f")
_IMPORTANT = re.compile(r"\s*!\s*important\s*$", re.IGNORECASE)
#: At-rules that do not depend on where a sheet is seen (CSS Conditional 3, CSS Cascade 5).
_ALWAYS = frozenset(("supports", "layer"))
_SINGLE_HEX = re.compile(r"\s*(#[0-9a-fA-F]{3,8})\s*")
_SINGLE_WORD = re.compile(r"\s*([A-Za-z-]+)\s*")
_SINGLE_REFERENCE = re.compile(r"\s*url\(\s*(#[\w.:-]+)\s*\)\s*")
_COLOR_FUNCTIONS = frozenset(
    ["rgb", "rgba", "hsl", "hsla", "hwb", "lab", "lch", "oklab", "oklch", "color", "device-cmyk"]
)


@dataclass(frozen=True, slots=True)
class Literal:
    """One color as it stands in a text, from `start` to `end` (characters)."""

    start: int
    end: int
    color: Rgba


@dataclass(frozen=True, slots=True)
class Value:
    """What a value says about color.

    `keyword` is the value's only word, lower case, when it is one word and no color. `variables` are the custom
    properties it reads; `unread` are color functions that cannot be read alone, such as `rgb(var(--r) 0 0)`.
    """

    literals: tuple[Literal, ...] = ()
    keyword: str | None = None
    current: bool = False
    variables: tuple[str, ...] = ()
    references: tuple[str, ...] = ()
    unread: tuple[str, ...] = ()
    #: Whether there is something to look at beyond `none`, `currentColor` and references to other elements.
    tells: bool = field(init=False, compare=False)

    def __post_init__(self) -> None:
        tells = bool(self.literals or self.variables or self.unread or self.keyword == "initial")
        object.__setattr__(self, "tells", tells)

    @property
    def paints(self) -> bool:
        """Whether the value itself sets a paint, a reference or `none`, rather than leaving it to inheritance."""
        return bool(self.literals or self.current or self.references or self.unread)


@dataclass(frozen=True, slots=True)
class Declaration:
    """One declaration of a sheet or a style attribute; `start` to `end` is its value, without `!important`. `at_rules`
    are those round it, from the outside in, as they begin: `media (min-width: 600px)`."""

    name: str
    start: int
    end: int
    important: bool
    selector: str | None
    at_rules: tuple[str, ...]

    @property
    def always(self) -> bool:
        """Whether it holds in every medium and size."""
        return {one.split(" ", 1)[0] for one in self.at_rules} <= _ALWAYS


@lru_cache(maxsize=32768)
def read_value(text: str) -> Value:
    """The colors of one property value, in the order they stand.

    Raises UnreadableCssError for one that is nested too deep.
    """
    if match := _SINGLE_HEX.fullmatch(text):
        color = try_color(match[1])
        return Value((Literal(match.start(1), match.end(1), color),)) if color else Value(keyword=match[1])
    if match := _SINGLE_WORD.fullmatch(text):
        word = match[1].lower()
        if word == "currentcolor":
            return Value(current=True)
        color = try_color(word)
        return Value((Literal(match.start(1), match.end(1), color),)) if color else Value(keyword=word)
    if match := _SINGLE_REFERENCE.fullmatch(text):
        return Value(references=(match[1],))
    reader = _ValueReader(text)
    reader.walk(_parsed(text), 0, len(text))
    return reader.value()


@lru_cache(maxsize=2048)
def read_declarations(text: str) -> tuple[Declaration, ...]:
    """Every declaration in a sheet or in the content of a style attribute, nested rules and at-rules included.

    Raises UnreadableCssError for what is nested too deep.
    """
    return tuple(_block(text, _Places(text), _parsed(text), len(text), None, ()))


def _parsed(text: str) -> list[Any]:
    """The tokens of a text, in their blocks. Raises UnreadableCssError for a number that is too long, and for what is
    nested too deep: tinycss2 reads any depth, but who walks it does not."""
    try:
        nodes: list[Any] = tinycss2.parse_component_value_list(text)
    except ValueError as error:
        # Python reads no whole number of more than 4,300 digits.
        raise UnreadableCssError("a number in its style has more digits than are read here.") from error
    if sum(map(text.count, "([{")) > limits.CSS_DEPTH:
        level, depth = nodes, 0
        while level := [one for node in level for one in _inside(node)]:
            depth += 1
            if depth > limits.CSS_DEPTH:
                raise UnreadableCssError(f"its style is nested more than {limits.CSS_DEPTH} deep.")
    return nodes


def _inside(node: Any) -> Sequence[Any]:
    if node.type == "function":
        return node.arguments or ()
    return node.content or () if node.type in ("() block", "[] block", "{} block") else ()


class _Places:
    """Turns tinycss2's lines and columns (counted from 1) into offsets."""

    def __init__(self, text: str) -> None:
        self._starts = [0, *(match.end() for match in _LINE_END.finditer(text))]

    def of(self, node: Any) -> int:
        return int(self._starts[node.source_line - 1] + node.source_column - 1)

    def spans(self, nodes: Sequence[Any], end: int) -> Iterator[tuple[Any, int, int]]:
        """Each node with where it starts and ends; the last one ends at `end`."""
        starts = [self.of(node) for node in nodes]
        ends = [*starts[1:], end] if starts else []
        yield from zip(nodes, starts, ends, strict=True)


class _ValueReader:
    def __init__(self, text: str) -> None:
        self._text = text
        self._places = _Places(text)
        self._literals: list[Literal] = []
        self._variables: list[str] = []
        self._references: list[str] = []
        self._unread: list[str] = []
        self._current = False

    def value(self) -> Value:
        return Value(
            tuple(self._literals),
            None,
            self._current,
            tuple(self._variables),
            tuple(self._references),
            tuple(self._unread),
        )

    def walk(self, nodes: Sequence[Any], start: int, end: int) -> None:
        for node, begin, stop in self._places.spans(nodes, end):
            if node.type == "hash":
                self._take(begin, stop)
            elif node.type == "ident":
                if node.lower_value == "currentcolor":
                    self._current = True
                else:
                    self._take(begin, stop)
            elif node.type == "url":
                self._references.append(node.value)
            elif node.type == "function":
                self._function(node, begin, stop)
            elif node.type in ("() block", "[] block", "{} block"):
                self.walk(node.content, begin + 1, _inner_end(self._text, begin, stop))

    def _take(self, begin: int, stop: int) -> bool:
        color = try_color(self._text[begin:stop])
        if color is not None:
            self._literals.append(Literal(begin, stop, color))
        return color is not None

    def _function(self, node: Any, begin: int, stop: int) -> None:
        name = node.lower_name
        if name == "url":
            self._references.extend(part.value for part in node.arguments if part.type == "string")
            return
        if name in _COLOR_FUNCTIONS and self._take(begin, stop):
            return
        if name in _COLOR_FUNCTIONS:
            self._unread.append(self._text[begin:stop])
            return
        arguments = node.arguments
        if name == "var":
            named = [i for i, part in enumerate(arguments) if part.type == "ident" and part.value.startswith("--")]
            if named:
                self._variables.append(arguments[named[0]].value)
                arguments = arguments[named[0] + 1 :]
        self.walk(arguments, begin, _inner_end(self._text, begin, stop))


def _inner_end(text: str, begin: int, stop: int) -> int:
    """Where the content of a block or function ends; an unclosed one runs to the end of the text."""
    return stop - 1 if stop - begin > 1 and text[stop - 1] in ")]}" else stop


def _block(
    text: str,
    places: _Places,
    nodes: Sequence[Any],
    end: int,
    selector: str | None,
    at_rules: tuple[str, ...],
) -> Iterator[Declaration]:
    """Walks the content of a sheet or a block: declarations, qualified rules and at-rules in any mix."""
    item: list[tuple[Any, int, int]] = []
    for node, begin, stop in places.spans(nodes, end):
        if not item and (node.type in ("whitespace", "comment") or node == "<!--" or node == "-->"):
            continue
        if node.type == "literal" and node.value == ";":
            yield from _declaration(text, item, selector, at_rules)
            item = []
        elif node.type == "{} block" and not _is_custom_property(item):
            inner = _inner_end(text, begin, stop)
            if item and item[0][0].type == "at-keyword":
                said = " ".join(text[item[0][2] : begin].split())
                inside = (*at_rules, f"{item[0][0].lower_value} {said}")
                yield from _block(text, places, node.content, inner, selector, inside)
            else:
                prelude = text[item[0][1] : begin].strip() if item else ""
                yield from _block(text, places, node.content, inner, prelude, at_rules)
            item = []
        else:
            item.append((node, begin, stop))
    yield from _declaration(text, item, selector, at_rules)


def _is_custom_property(item: list[tuple[Any, int, int]]) -> bool:
    return len(item) >= 2 and item[0][0].type == "ident" and item[0][0].value.startswith("--")


def _declaration(
    text: str, item: list[tuple[Any, int, int]], selector: str | None, at_rules: tuple[str, ...]
) -> Iterator[Declaration]:
    if not item or item[0][0].type != "ident":
        return
    colon = next((i for i, (node, _, _) in enumerate(item[1:], 1) if node.type not in ("whitespace", "comment")), 0)
    if not colon or item[colon][0].type != "literal" or item[colon][0].value != ":":
        return
    name = item[0][0].value
    start, end = item[colon][2], item[-1][2]
    important = _IMPORTANT.search(text, start, end)
    if important:
        end = important.start()
    yield Declaration(
        name if name.startswith("--") else name.lower(), start, end, important is not None, selector, at_rules
    )

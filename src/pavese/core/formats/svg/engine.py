"""The plain notation of an SVG for the drawing engine, which knows fewer ways to write a color than browsers do.

Colors become hex, `var()` is resolved where it paints, lettering falls back to the shipped typeface, and references
to other files are emptied, so that a picture is made from the file alone.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Iterable, Iterator, Mapping
from html import escape
from math import ceil, sqrt
from operator import itemgetter

from pavese.core.color.mix import color_mix, method_of
from pavese.core.color.srgb import LINEAR, Rgb, Rgba
from pavese.core.css import Value, read_declarations, read_value
from pavese.core.formats.edits import Edit
from pavese.core.formats.svg.cascade import Cascade
from pavese.core.formats.svg.places import SvgPlace, place_color
from pavese.core.formats.svg.properties import HREF, PROPERTIES, SVG
from pavese.core.formats.xml_source import Element, XmlSource
from pavese.core.kit.typefaces import BASIC, stand_in
from pavese.core.recolor.inventory import recolored
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind

_PLAIN = re.compile(r"#[0-9a-fA-F]{3,8}|[a-zA-Z]+")
#: Elements that show nothing where they stand.
_UNDRAWN = frozenset(("symbol", "defs", "style", "title", "desc", "metadata", "script"))
_CELL, _MOST_SYMBOLS = 26, 400
#: Functions that the engine does not know.
_COMPUTED = re.compile(r"color-mix\(|light-dark\(|var\(", re.IGNORECASE)
#: A function within another: the engine gives up a rule or a style attribute in which one stands.
_NESTED = re.compile(r"\([^()]*\(")
_STRING = re.compile(r"\"[^\"]*\"|'[^']*'")
#: What a `font` shorthand says before its typefaces: the size last, perhaps with the height of lines.
_UP_TO_SIZE = re.compile(r".*?[0-9.]+(?:px|pt|pc|em|rem|ex|%|mm|cm|in|q)(?:\s*/\s*\S+)?\s+", re.IGNORECASE | re.DOTALL)


def engine_edits(
    source: XmlSource,
    places: Iterable[SvgPlace],
    cascade: Cascade,
    recoloring: Recoloring,
    implied: Mapping[Element, Mapping[str, Rgb]],
    pictures: Iterable[Edit],
    part: int | None = None,
) -> Iterator[Edit]:
    """The edits that make the notation plain and recolor at once; `implied` is what nothing in the file names.

    `pictures` are the edits of those that it shows. Of a sprite, `part` shows one symbol (by its place) and not all of
    them.
    """
    inline = dict(_resolved_variables(source, cascade, recoloring))
    for element, colors in implied.items():
        inline.setdefault(element.index, {}).update({name: color.hex for name, color in colors.items()})
    nested = sorted(_nested(source))
    yield from (Edit(start, end, b"unset") for start, end in nested)
    for element in source.elements:
        if element.index in inline:
            yield _restyle(source, element, inline[element.index])
        yield from _lettered(source, element)
        if element.name in ("use", "script", "style"):
            yield from _closed(source, element)
    yield from pictures
    yield from _unfolded(source, part)
    for place in places:
        before = bisect_right(nested, place.start, key=itemgetter(0)) - 1
        if before >= 0 and place.start < nested[before][1]:
            # What it comes to stands behind the style of each element.
            continue
        target = place_color(place, recoloring)
        color = place.paint if target is None else Rgba(*target, place.paint.alpha)
        if place.linear is not None:
            if color != place.paint:
                yield Edit(place.start, place.end, place.rewritten(color.rgb))
        elif place.kind is Kind.SHADOW:
            yield Edit(place.start, place.end, Rgba(*_as_light(color.rgb), color.alpha).css.encode())
        elif color != place.paint or not _PLAIN.fullmatch(place.written):
            yield Edit(place.start, place.end, color.css.encode())


def _as_light(color: Rgb) -> Rgb:
    """The color of a `drop-shadow()` as the engine has to be told it: it takes channels for linear light there, where
    they are those of sRGB (Filter Effects 1, section 9.1: the functions have sRGB as their color space)."""
    return Rgb(*(round(LINEAR[channel] * 255) for channel in color))


def _resolved_variables(
    source: XmlSource, cascade: Cascade, recoloring: Recoloring
) -> Iterator[tuple[int, dict[str, str]]]:
    for element in source.elements:
        if element.namespace != SVG:
            continue
        resolved = {}
        for name, text in cascade.declared(element).items():
            if name in PROPERTIES and (found := _COMPUTED.search(text)):
                value = cascade.sets(element, name)
                if value is None:
                    resolved[name] = "inherit"
                elif found[0] == "color-mix(" and len(value.literals) == 2:
                    resolved[name] = _blended(text, value, recoloring)
                elif value.literals:
                    resolved[name] = recolored(value.literals[0].color, recoloring).css
                else:
                    resolved[name] = "currentColor" if value.current else value.keyword or "inherit"
        if resolved:
            yield element.index, resolved


def _blended(text: str, value: Value, recoloring: Recoloring) -> str:
    """What `color-mix()` gives in the new colors; their mean where it says something that it cannot."""
    first, second = ((recolored(one.color, recoloring), _percent(text, one.start, one.end)) for one in value.literals)
    made = color_mix(first, second, method_of(text)) or color_mix((first[0], None), (second[0], None))
    assert made is not None
    return made.css


def _percent(text: str, start: int, end: int) -> float | None:
    """The percentage that stands on either side of a color, as a share of 1."""
    behind = re.match(r"\s*([0-9.]+)%", text[end:])
    before = re.search(r"([0-9.]+)%\s*$", text[:start])
    found = behind or before
    return min(float(found[1]) / 100, 1.0) if found else None


def _restyle(source: XmlSource, element: Element, resolved: dict[str, str]) -> Edit:
    """The element's style attribute with resolved values behind what it says already."""
    added = ";".join(f"{name}:{value}" for name, value in resolved.items())
    if "style" not in element.attributes:
        at = source.tag_name_end(element)
        return Edit(at, at, f' style="{added}"'.encode())
    end = source.attribute_span(element, "style")[1]
    return Edit(end, end, f";{added}".encode())


def _nested(source: XmlSource) -> Iterator[tuple[int, int]]:
    """Where values stand in which functions hold others, from byte to byte."""
    for element in source.elements:
        if element.name == "style":
            text = source.content_text(element)
        elif _NESTED.search(element.attributes.get("style", "")):
            text = source.attribute_text(element, "style")
        else:
            continue
        for declared in read_declarations(text.text) if _NESTED.search(text.text) else ():
            if _is_nested(text.text[declared.start : declared.end]):
                yield text.bytes_of(declared.start, declared.end)


def _is_nested(value: str) -> bool:
    """Whether functions stand in others beside colors, which become codes, and strings."""
    if not _NESTED.search(value):
        return False
    at, kept = 0, []
    for literal in read_value(value).literals:
        kept.append(value[at : literal.start])
        at = literal.end
    return bool(_NESTED.search(_STRING.sub("", "".join((*kept, value[at:])))))


def _lettered(source: XmlSource, element: Element) -> Iterator[Edit]:
    """Puts a shipped typeface behind every list of them, since the engine knows no others, and no generic ones."""
    if element.name == "style":
        text, quote = source.content_text(element), "'"
    elif "font-family" in element.attributes:
        end = source.attribute_span(element, "font-family")[1]
        yield _fallback(end, element.attributes["font-family"], "&apos;")
        return
    elif "font" in element.attributes.get("style", ""):
        text, quote = source.attribute_text(element, "style"), "&apos;"
    else:
        return
    for d in read_declarations(text.text):
        # Both end with a list of typefaces (CSS Fonts 4, sections 2.1 and 2.7); what stands before it is the size.
        families = text.text[d.start : d.end]
        if d.name == "font" and (before := _UP_TO_SIZE.match(families)):
            families = families[before.end() :]
        elif d.name != "font-family":
            continue
        if families and not _is_nested(text.text[d.start : d.end]):
            yield _fallback(text.bytes_of(d.start, d.end)[1], families, quote)


def _fallback(at: int, families: str, quote: str) -> Edit:
    shown = stand_in(families.partition(",")[0].strip(" \t\r\n'\""))
    return Edit(at, at, f", {quote}{shown.face if shown else BASIC}{quote}".encode())


def _closed(source: XmlSource, element: Element) -> Iterator[Edit]:
    """Empties references that lead out of the file."""
    for name, (start, end) in source.attribute_spans(element).items():
        if HREF.fullmatch(name) and not source.utf8[start:end].strip().startswith((b"#", b"data:")):
            yield Edit(start, end, b"")


def sprite_symbols(source: XmlSource) -> list[Element]:
    """The symbols of a file that draws nothing by itself; none for any other file."""
    if any(child.namespace == SVG and child.name not in _UNDRAWN for child in source.children(source.root)):
        return []
    symbols = [e for e in source.elements if e.name == "symbol" and e.namespace == SVG and e.attributes.get("id")]
    return symbols[:_MOST_SYMBOLS]


def _unfolded(source: XmlSource, part: int | None) -> Iterator[Edit]:
    """A sprite shows nothing by itself: its symbols are laid out beside each other."""
    root = source.root
    shown = sprite_symbols(source)
    if not shown:
        return
    if part is not None:
        shown = shown[part : part + 1] or shown[:1]
    across = ceil(sqrt(len(shown)))
    side = across * _CELL
    uses = "".join(
        f'<use href="#{escape(symbol.attributes["id"])}" x="{n % across * _CELL + 1}" y="{n // across * _CELL + 1}" '
        f'width="{_CELL - 2}" height="{_CELL - 2}"/>'
        for n, symbol in enumerate(shown)
    )
    yield Edit(root.content_end, root.content_end, uses.encode())
    wanted = {"viewBox": f"0 0 {side} {side}", "width": str(side), "height": str(side), "display": "inline"}
    yield from source.setting(root, {**wanted, "style": ""} if "style" in root.attributes else wanted)

"""The plain notation of an SVG for the drawing engine, which knows fewer ways to write a color than browsers do.

Colors become hex, `var()` is resolved where it paints, lettering falls back to the shipped typeface, and references
to other files are emptied, so that a picture is made from the file alone.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping

from pavese.core.color.srgb import Rgb
from pavese.core.css import read_declarations
from pavese.core.formats.document import Recoloring
from pavese.core.formats.edits import Edit
from pavese.core.formats.svg.cascade import Cascade
from pavese.core.formats.svg.places import Place
from pavese.core.formats.svg.properties import PROPERTIES, SVG
from pavese.core.formats.xml_source import Element, XmlSource
from pavese.core.recolor.inventory import recolored

_PLAIN = re.compile(r"#[0-9a-fA-F]{3,8}|[a-zA-Z]+")
_HREF = re.compile(r"(?:[\w.-]+:)?href")


def engine_edits(
    source: XmlSource,
    places: Iterable[Place],
    cascade: Cascade,
    recoloring: Recoloring,
    implied: Mapping[Element, Mapping[str, Rgb]],
) -> Iterator[Edit]:
    """The edits that make the notation plain and recolor at once; `implied` is what nothing in the file names."""
    inline = dict(_resolved_variables(source, cascade, recoloring))
    for element, colors in implied.items():
        inline.setdefault(element.index, {}).update({name: color.hex for name, color in colors.items()})
    for element in source.elements:
        if element.index in inline:
            yield _restyle(source, element, inline[element.index])
        yield from _lettered(source, element)
        if element.name in ("image", "feImage", "use", "script", "style"):
            yield from _closed(source, element)
    for place in places:
        color = recolored(place.paint, recoloring)
        if color != place.paint or not _PLAIN.fullmatch(place.written):
            yield Edit(place.start, place.end, color.css.encode())


def _resolved_variables(
    source: XmlSource, cascade: Cascade, recoloring: Recoloring
) -> Iterator[tuple[int, dict[str, str]]]:
    for element in source.elements:
        if element.namespace != SVG:
            continue
        resolved = {}
        for name, text in cascade.declared(element).items():
            if name in PROPERTIES and "var(" in text:
                value = cascade.sets(element, name)
                if value is None:
                    resolved[name] = "inherit"
                elif value.literals:
                    resolved[name] = recolored(value.literals[0].color, recoloring).css
                else:
                    resolved[name] = "currentColor" if value.current else value.keyword or "inherit"
        if resolved:
            yield element.index, resolved


def _restyle(source: XmlSource, element: Element, resolved: dict[str, str]) -> Edit:
    """The element's style attribute with resolved values behind what it says already."""
    added = ";".join(f"{name}:{value}" for name, value in resolved.items())
    span = source.attribute_spans(element).get("style")
    if span is None:
        at = source.tag_name_end(element)
        return Edit(at, at, f' style="{added}"'.encode())
    return Edit(span[1], span[1], f";{added}".encode())


def _lettered(source: XmlSource, element: Element) -> Iterator[Edit]:
    """Puts a generic family behind every list of typefaces, since the engine knows the shipped ones only."""
    if element.name == "style":
        sheet = source.content_text(element)
        declarations = read_declarations(sheet.text)
        ends = [sheet.bytes_of(d.start, d.end)[1] for d in declarations if d.name == "font-family" and d.end > d.start]
        yield from (Edit(end, end, b", sans-serif") for end in ends)
    elif "font-family" in element.attributes:
        end = source.attribute_spans(element)["font-family"][1]
        yield Edit(end, end, b", sans-serif")
    elif "font-family" in element.attributes.get("style", ""):
        start, end = source.attribute_spans(element)["style"]
        style = source.attribute_text(start, end)
        for d in read_declarations(style.text):
            if d.name == "font-family" and d.end > d.start:
                at = style.bytes_of(d.start, d.end)[1]
                yield Edit(at, at, b", sans-serif")


def _closed(source: XmlSource, element: Element) -> Iterator[Edit]:
    """Empties references that lead out of the file."""
    for name, (start, end) in source.attribute_spans(element).items():
        if _HREF.fullmatch(name) and not source.utf8[start:end].strip().startswith((b"#", b"data:")):
            yield Edit(start, end, b"")

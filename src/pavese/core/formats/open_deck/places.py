"""Where color stands in an OpenDocument: attributes of styles, gradients and hatches, most of a color alone, some with
one inside.

OpenDocument 1.3, part 3, 19 and 20 (attributes of elements and of formatting properties).
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from pavese.core.color.srgb import Rgba, parse_hex
from pavese.core.formats.xml_source import Element, XmlSource
from pavese.core.recolor.site import Kind, Site

_OASIS = "urn:oasis:names:tc:opendocument:xmlns:"
DRAW, PRESENTATION, STYLE = (f"{_OASIS}{name}:1.0" for name in ("drawing", "presentation", "style"))
XLINK = "http://www.w3.org/1999/xlink"
FO, SVG = f"{_OASIS}xsl-fo-compatible:1.0", f"{_OASIS}svg-compatible:1.0"
_SMIL, _3D = f"{_OASIS}smil-compatible:1.0", f"{_OASIS}dr3d:1.0"
_LATER = "urn:org:documentfoundation:names:experimental:office:xmlns:loext:1.0"
#: What an attribute's color does.
_KINDS: Mapping[str, Kind] = {
    f"{DRAW} fill-color": Kind.FILL,
    f"{DRAW} secondary-fill-color": Kind.FILL,
    f"{DRAW} color": Kind.FILL,
    f"{DRAW} shadow-color": Kind.SHADOW,
    f"{DRAW} start-color": Kind.STOP,
    f"{DRAW} end-color": Kind.STOP,
    f"{SVG} stop-color": Kind.STOP,
    f"{_LATER} color-value": Kind.STOP,
    f"{SVG} stroke-color": Kind.STROKE,
    f"{FO} color": Kind.TEXT,
    f"{FO} background-color": Kind.GROUND,
    **{f"{FO} border{side}": Kind.STROKE for side in ("", "-top", "-bottom", "-left", "-right")},
    **{f"{STYLE} text-{line}-color": Kind.TEXT for line in ("underline", "overline", "line-through")},
    **{f"{STYLE} diagonal-{which}": Kind.STROKE for which in ("tl-br", "bl-tr")},
    f"{_SMIL} fadeColor": Kind.EFFECT,
    f"{_LATER} glow-color": Kind.EFFECT,
    **{f"{_3D} {name}-color": Kind.EFFECT for name in ("ambient", "diffuse", "emissive", "specular")},
}
#: What says the color at the end, or in the midst, of an animation of colors.
_ANIMATED = frozenset(f"{_SMIL} {name}" for name in ("to", "from", "by", "values"))
_CODE = re.compile(r"#[0-9A-Fa-f]{6}(?![0-9A-Za-z])")


@dataclass(frozen=True, slots=True)
class Place:
    """A color code in a part: its bytes there, and its site."""

    path: str
    start: int
    end: int
    site: Site


def places_in(path: str, source: XmlSource, pages: Mapping[str, str]) -> Iterator[Place]:
    """Every color of a part; `pages` gives the selector of the page that alone uses a style, by the style's name."""
    for element in source.elements:
        for attribute, value in element.attributes.items():
            kind = _KINDS.get(attribute)
            if kind is None and element.name == "animateColor" and attribute in _ANIMATED:
                kind = Kind.EFFECT
            if kind is None or "#" not in value:
                continue
            text = source.spaced_text(element, attribute)
            for code in _CODE.finditer(value):
                color = parse_hex(code[0])
                if color is not None:
                    start, end = text.bytes_of(*code.span())
                    yield Place(path, start, end, _site(color, _does(kind, element), element, pages))


def _does(kind: Kind, element: Element) -> Kind:
    """What a color does, by the properties among which it stands."""
    if kind is Kind.GROUND and element.name in ("table-cell-properties", "graphic-properties"):
        return Kind.CELL if element.name == "table-cell-properties" else Kind.FILL
    if kind is Kind.FILL and element.name == "drawing-page-properties":
        return Kind.GROUND
    if element.name == "graphic-properties" and _family(element) == "chart":
        return Kind.SERIES
    return kind


def _family(element: Element) -> str:
    return element.parent.attributes.get(f"{STYLE} family", "") if element.parent is not None else ""


def _site(paint: Rgba, kind: Kind, element: Element, pages: Mapping[str, str]) -> Site:
    at: Element | None = element
    while at is not None and not (at.name == "style" and at.namespace == STYLE):
        at = at.parent
    page = pages.get(at.attributes.get(f"{STYLE} name", "")) if at is not None else None
    return Site(paint, kind, (page,) if page else ())

"""A shape laid behind a drawing: the drawing as it is, set into a new one that holds the shape."""

from __future__ import annotations

import re

from pavese.core.color.srgb import Rgb
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.svg.properties import SVG
from pavese.core.formats.xml_source import XmlSource, read_xml
from pavese.core.recolor.backing import BackingShape, FileBacking

_LENGTH = re.compile(r"\s*([0-9.]+)\s*(?:px)?\s*$")
_SIDE = 100.0
_ROUND = 22

_SHAPES: dict[BackingShape, str] = {
    BackingShape.CIRCLE: '<circle cx="50" cy="50" r="50" fill="{fill}"/>',
    BackingShape.ROUNDED: f'<rect width="100" height="100" rx="{_ROUND}" fill="{{fill}}"/>',
    BackingShape.SQUARE: '<rect width="100" height="100" fill="{fill}"/>',
    BackingShape.FLAG: '<path d="M0 0H100L88 50L100 100H0Z" fill="{fill}"/>',
}


def backed(data: bytes, backing: FileBacking, color: Rgb) -> bytes:
    """A drawing on its backing, as UTF-8; the drawing's own text stays as it is, but for its size and place.

    Raises RefusedFileError when the drawing cannot be read.
    """
    source = read_xml("drawing.svg", data)
    side = backing.size / 100
    inner = (1 - 2 * backing.padding / 100) * side * _SIDE
    at = (_SIDE - inner) / 2
    size = _size(source)
    given = {"x": f"{at:g}", "y": f"{at:g}", "width": f"{inner:g}", "height": f"{inner:g}"}
    if "viewBox" not in source.root.attributes:
        given["viewBox"] = f"0 0 {size:g} {size:g}"
    edits = []
    spans = source.attribute_spans(source.root)
    for name, value in given.items():
        if name in spans:
            edits.append(Edit(*spans[name], value.encode()))
        else:
            end = source.tag_name_end(source.root)
            edits.append(Edit(end, end, f' {name}="{value}"'.encode()))
    # What stands before the root (declaration, doctype, comments) has no place inside another element.
    edits.append(Edit(0, source.root.start, b""))
    shape = _SHAPES[backing.shape].format(fill=color.hex)
    if side < 1:
        edge = (1 - side) / 2 * _SIDE
        shape = f'<g transform="translate({edge:g} {edge:g}) scale({side:g})">{shape}</g>'
    head = f'<svg xmlns="{SVG}" width="{size:g}" height="{size:g}" viewBox="0 0 100 100">{shape}'
    return head.encode() + splice(source.utf8, edits) + b"</svg>\n"


def _size(source: XmlSource) -> float:
    """The longer side of the drawing in its own units."""
    attributes = source.root.attributes
    lengths = [float(m[1]) for name in ("width", "height") if (m := _LENGTH.match(attributes.get(name, "")))]
    box = [float(number) for number in re.findall(r"-?[0-9.]+(?:e-?\d+)?", attributes.get("viewBox", ""))]
    return max(lengths or box[2:4] or [_SIDE]) or _SIDE

"""A shape laid behind a drawing: the drawing as it is, set into a new one that holds the shape."""

from __future__ import annotations

from pavese.core.color.srgb import Rgb
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.svg.properties import SVG
from pavese.core.formats.svg.size import box, extent
from pavese.core.formats.svg.variables import linked
from pavese.core.formats.xml_source import read_xml, without_entities
from pavese.core.recolor.backing import BackingShape, FileBacking
from pavese.core.recolor.changes import Links

_SIDE = 100.0
_ROUND = 22

_SHAPES: dict[BackingShape, str] = {
    BackingShape.CIRCLE: '<circle cx="50" cy="50" r="50" fill="{fill}"/>',
    BackingShape.ROUNDED: f'<rect width="100" height="100" rx="{_ROUND}" fill="{{fill}}"/>',
    BackingShape.SQUARE: '<rect width="100" height="100" fill="{fill}"/>',
    BackingShape.FLAG: '<path d="M0 0H100L88 50L100 100H0Z" fill="{fill}"/>',
}


def backed(data: bytes, backing: FileBacking, color: Rgb, links: Links | None = None) -> bytes:
    """A drawing on its backing, as UTF-8; the drawing's own text stays as it is, but for its size and place.

    With `links`, the shape's color is named.

    Raises RefusedFileError when the drawing cannot be read.
    """
    source = read_xml("drawing.svg", without_entities("drawing.svg", data))
    side = backing.size / 100
    inner = (1 - 2 * backing.padding / 100) * side * _SIDE
    at = (_SIDE - inner) / 2
    width, height = extent(source.root)
    size = max(width, height)
    given = {"x": f"{at:g}", "y": f"{at:g}", "width": f"{inner:g}", "height": f"{inner:g}"}
    if box(source.root.attributes.get("viewBox")) is None:
        given["viewBox"] = f"0 0 {width:g} {height:g}"
    # What stands before the root (declaration, doctype, comments) has no place inside another element.
    edits = [Edit(0, source.root.start, b""), *source.setting(source.root, given)]
    name = links.name(color, backing.color) if links else None
    shape = _SHAPES[backing.shape].format(fill=color.hex if name is None else linked(name, color))
    if side < 1:
        edge = (1 - side) / 2 * _SIDE
        shape = f'<g transform="translate({edge:g} {edge:g}) scale({side:g})">{shape}</g>'
    head = f'<svg xmlns="{SVG}" width="{size:g}" height="{size:g}" viewBox="0 0 100 100">{shape}'
    return head.encode() + splice(source.utf8, edits) + b"</svg>\n"

"""A drawing whose colors are CSS variables, so that it follows the page it stands in."""

from __future__ import annotations

from collections.abc import Mapping

from pavese.core.color.srgb import Rgb
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.svg.places import written_colors
from pavese.core.formats.svg.properties import ANIMATIONS, SVG
from pavese.core.formats.xml_source import Element, read_xml


def with_variables(data: bytes, names: Mapping[Rgb, str]) -> bytes:
    """The drawing with `var(--name, #code)` wherever it names one of these colors, opaque and not animated.

    Raises RefusedFileError when it cannot be read.
    """
    source = read_xml("drawing.svg", data)
    source.place_in(SVG)
    edits = [
        Edit(place.start, place.end, f"var({names[place.paint.rgb]}, {place.paint.rgb.hex})".encode())
        for place in written_colors(source).places
        if place.written
        and place.linear is None
        and place.paint.alpha == 1
        and place.paint.rgb in names
        and not (isinstance(place.by, Element) and place.by.name in ANIMATIONS)
    ]
    return source.pack(splice(source.utf8, edits))

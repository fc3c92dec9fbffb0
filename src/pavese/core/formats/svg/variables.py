"""A drawing whose colors are CSS variables, so that it follows the page it stands in."""

from __future__ import annotations

import re

from pavese.core.color.srgb import Rgb
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.svg.places import SvgPlace, written_colors
from pavese.core.formats.svg.properties import ANIMATIONS, SVG
from pavese.core.formats.xml_source import Element, read_xml
from pavese.core.recolor.changes import Links

#: What stands before a color that only counts where a variable is not defined.
_FALLBACK = re.compile(rb"var\(\s*--[\w-]+\s*,\s*\Z")
_LONGEST_NAME = 200


def linked(name: str, color: Rgb) -> str:
    """The value that follows a variable, and is the color where the page does not define it."""
    return f"var({name}, {color.hex})"


def can_link(place: SvgPlace) -> bool:
    """Whether a place can follow a variable: it states a color of its own, opaque and not animated."""
    moves = isinstance(place.by, Element) and place.by.name in ANIMATIONS
    return bool(place.written) and place.linear is None and place.paint.alpha == 1 and not moves


def with_variables(data: bytes, links: Links) -> bytes:
    """The drawing with a variable wherever it states one of these colors itself, opaque and not animated.

    Raises RefusedFileError when it cannot be read.
    """
    source = read_xml("drawing.svg", data)
    source.place_in(SVG)
    edits = [
        Edit(place.start, place.end, linked(links.by_color[place.paint.rgb], place.paint.rgb).encode())
        for place in written_colors(source).places
        if can_link(place)
        and place.paint.rgb in links.by_color
        and not _FALLBACK.search(source.utf8[max(place.start - _LONGEST_NAME, 0) : place.start])
    ]
    return source.pack(splice(source.utf8, edits))

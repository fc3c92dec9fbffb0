"""SVG, plain or gzipped, edited in place: https://www.w3.org/TR/SVG2/"""

from __future__ import annotations

from pavese.core.formats.format import Can, Format
from pavese.core.formats.svg.acts import DONE
from pavese.core.formats.svg.document import SvgDocument, read_svg
from pavese.core.formats.told import is_svg

__all__ = ["SVG_FORMAT", "SvgDocument", "read_svg"]

SVG_FORMAT = Format(
    key="svg",
    title="SVG",
    words="SVG icons and illustrations",
    endings=(".svg", ".svgz"),
    media_type="image/svg+xml",
    matches=is_svg,
    read=read_svg,
    can=frozenset((Can.EXACT, Can.VECTOR, Can.STILL, Can.MOTION, Can.PAGES, Can.TEXTS, Can.LINKS, Can.PICTURES)),
    acts=tuple(DONE),
)

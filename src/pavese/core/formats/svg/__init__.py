"""SVG, read for recoloring: https://www.w3.org/TR/SVG2/"""

from pavese.core.formats.svg.document import SvgDocument, read_svg

__all__ = ["SvgDocument", "read_svg"]

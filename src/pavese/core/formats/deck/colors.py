"""Colors as decks say them: literals of five kinds, and names of places of the theme, each with transforms.

ISO/IEC 29500-1, 20.1.2.3 (colors), 20.1.10.46 (`ST_PresetColorVal`), 20.1.10.58 (`ST_SystemColorVal`).
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from pavese.core.color.derived import Transform, encoded, from_hsl
from pavese.core.color.parse import try_color
from pavese.core.color.srgb import Rgb, parse_hex
from pavese.core.formats.xml_source import Element, XmlSource

#: The elements that are a color.
COLORS = frozenset(("srgbClr", "schemeClr", "sysClr", "prstClr", "scrgbClr", "hslClr"))
#: What the place is called that whoever uses a style fills.
FILLED_LATER = "phClr"
_MAIN = ("drawingml/2006/main", "drawingml/main")
_PERCENT = 100_000
_DEGREE = 60_000
#: What system colors are that do not say it themselves: those of a light window (CSS Color 4, 6.2, for the rest).
_SYSTEM = {
    "windowText": "#000000",
    "window": "#ffffff",
    "highlight": "#0078d7",
    "highlightText": "#ffffff",
    "btnFace": "#f0f0f0",
    "btnText": "#000000",
    "grayText": "#6d6d6d",
    "captionText": "#000000",
    "menu": "#f0f0f0",
    "menuText": "#000000",
    "infoBk": "#ffffe1",
    "infoText": "#000000",
    "hotLight": "#0066cc",
}
_SHORT = re.compile(r"^(dk|lt|med)(?=[A-Z])")
_LONG = {"dk": "dark", "lt": "light", "med": "medium"}


@dataclass(frozen=True)
class SaidColor:
    """A color as its element says it: a literal, or the name of a place of the theme; and its transforms."""

    literal: Rgb | None
    name: str
    transforms: tuple[Transform, ...]


def is_color(element: Element) -> bool:
    """Whether an element is a color."""
    return element.name in COLORS and element.namespace.endswith(_MAIN)


def said_color(source: XmlSource, element: Element) -> SaidColor | None:
    """What a color element says; None for one that cannot be read."""
    transforms = tuple(
        Transform(child.name, _number(child.attributes.get("val", "0"), _PERCENT)) for child in source.children(element)
    )
    if element.name == "schemeClr":
        return SaidColor(None, element.attributes.get("val", ""), transforms)
    literal = _literal(element)
    return None if literal is None else SaidColor(literal, "", transforms)


def _literal(element: Element) -> Rgb | None:
    given = element.attributes
    if element.name == "srgbClr":
        color = parse_hex(f"#{given.get('val', '').strip()}")
    elif element.name == "sysClr":
        said = parse_hex(f"#{given.get('lastClr', '').strip()}")
        color = said or parse_hex(_SYSTEM.get(given.get("val", ""), "#000000"))
    elif element.name == "prstClr":
        color = try_color(_SHORT.sub(lambda short: _LONG[short[1]], given.get("val", "")).lower())
    elif element.name == "scrgbClr":
        r, g, b = (round(255 * encoded(_number(given.get(one, "0"), _PERCENT) / _PERCENT)) for one in "rgb")
        return Rgb(r, g, b)
    else:
        hue = _number(given.get("hue", "0"), _DEGREE) / _DEGREE
        return from_hsl(hue, *(_number(given.get(one, "0"), _PERCENT) / _PERCENT for one in ("sat", "lum")))
    return None if color is None else color.rgb


def _number(text: str, whole: int) -> int:
    """A share or an angle as a whole number of its small unit; in the strict form shares are percents."""
    try:
        if text.endswith("%"):
            return round(float(text[:-1]) / 100 * whole)
        return round(float(text))
    except (ValueError, OverflowError):
        return 0

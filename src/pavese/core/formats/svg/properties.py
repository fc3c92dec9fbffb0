"""The properties of SVG that hold color, and the elements that matter for where a color comes from.

SVG 2, appendix G (property index) and section 13; Filter Effects 1; CSS Color 4 for `color`.
"""

from __future__ import annotations

import re
from typing import NamedTuple

from pavese.core.color.srgb import Rgba
from pavese.core.recolor.site import Kind

SVG = "http://www.w3.org/2000/svg"
XLINK_HREF = "http://www.w3.org/1999/xlink href"
#: The attribute that refers to something, as it is written, and that of older programs; many drawings bear both
#: (SVG 2, section 16.1.6).
HREF = re.compile(r"(?:[\w.-]+:)?href")

BLACK = Rgba(0, 0, 0)
WHITE = Rgba(255, 255, 255)


class Property(NamedTuple):
    """One property: the kind of its sites, whether it may be a presentation attribute, and who uses it."""

    kind: Kind
    attribute: bool = True


PROPERTIES: dict[str, Property] = {
    "fill": Property(Kind.FILL),
    "stroke": Property(Kind.STROKE),
    "color": Property(Kind.FILL),
    "stop-color": Property(Kind.STOP),
    "flood-color": Property(Kind.EFFECT),
    "lighting-color": Property(Kind.EFFECT),
    "solid-color": Property(Kind.FILL),
    "background-color": Property(Kind.GROUND, attribute=False),
    "background": Property(Kind.GROUND, attribute=False),
    "filter": Property(Kind.SHADOW),
    "text-shadow": Property(Kind.SHADOW, attribute=False),
    "box-shadow": Property(Kind.SHADOW, attribute=False),
}
ATTRIBUTES = frozenset(name for name, of in PROPERTIES.items() if of.attribute)

#: Elements whose fill shows.
SHAPES = frozenset(["path", "rect", "circle", "ellipse", "polygon", "polyline", "text"])
TEXTS = frozenset(["text", "tspan", "textPath", "tref", "altGlyph"])
ANIMATIONS = frozenset(["animate", "set", "animateColor"])
#: Attributes of an animation that hold whole values of the animated property; `by` is a difference, not a color.
ANIMATION_VALUES = ("values", "from", "to")

#: Drawn only where something refers to them, with the style of their own ancestors.
REFERENCED = frozenset(["linearGradient", "radialGradient", "pattern", "marker", "filter", "solidColor", "solidcolor"])
#: Their content is drawn only through `use`, with the style of the `use`.
TEMPLATES = frozenset(("defs", "symbol"))
#: Their content decides what is seen, not in which color (CSS Masking 1, sections 5 and 6).
MASKS = frozenset(("mask", "clipPath"))

#: Elements that have a color although nothing names it: the property and its initial value.
INITIAL: dict[str, tuple[str, Rgba]] = {
    "stop": ("stop-color", BLACK),
    "feFlood": ("flood-color", BLACK),
    "feDropShadow": ("flood-color", BLACK),
    "feDiffuseLighting": ("lighting-color", WHITE),
    "feSpecularLighting": ("lighting-color", WHITE),
    "solidColor": ("solid-color", BLACK),
    "solidcolor": ("solid-color", BLACK),
}

"""A place that uses a paint, and what the paint does there."""

from __future__ import annotations

import re
from enum import StrEnum
from typing import NamedTuple

from pavese.core.color.srgb import Rgba


class Kind(StrEnum):
    """What a paint does at a site."""

    FILL = "fill"
    STROKE = "stroke"
    STOP = "stop"
    TEXT = "text"
    GROUND = "ground"
    LINK = "link"
    ACTION = "button"
    LABEL = "label"
    SHADOW = "shadow"
    EFFECT = "effect"
    #: What a series of a chart, or a cell of a table, is painted with.
    SERIES = "series"
    CELL = "table cell"
    #: What a place of a theme holds, to which other sites point.
    THEME = "theme color"
    #: What stands in a picture that another file shows.
    PICTURE = "picture"


#: What the selectors hold by which one element of a mail is named; behind it stands its number.
ELEMENT = "/element-"
#: One shape of a deck: the part that it is in, and its number there.
_SHAPE = re.compile(r"#(?:slide|slideLayout|slideMaster|notesSlide)\d+\.\d+")
#: How the selectors begin by which all that stands in one picture inside of files is named; behind it stands its hash.
IN_PICTURE = "/picture."
#: What the ground of a mail bears that lies around all of its sections, and what sites bear that stand on pictures,
#: whatever else they stand in.
OUTER = "/outer"
ON_PICTURES = "/on-pictures"


class Site(NamedTuple):
    """One place that uses a paint. `selectors` name the element and what it stands in: `#id` and `.class`."""

    paint: Rgba
    kind: Kind
    selectors: tuple[str, ...] = ()


def selector_words(selector: str) -> str:
    """What the selector of one element or shape says, in words; "" for other selectors."""
    if ELEMENT in selector:
        return "one element"
    return "one shape" if _SHAPE.fullmatch(selector) else ""

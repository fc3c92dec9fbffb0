"""What `color-mix()` gives (CSS Color 5, section 3): https://www.w3.org/TR/css-color-5/#color-mix ."""

from __future__ import annotations

import re
from typing import NamedTuple

from coloraide import Color

from pavese.core.color.parse import in_srgb
from pavese.core.color.srgb import ALPHA_DIGITS, Rgba

_METHOD = re.compile(
    r"color-mix\(\s*in\s+([a-z0-9-]+)(?:\s+(shorter|longer|increasing|decreasing)\s+hue)?", re.IGNORECASE
)
#: Spaces by the names that CSS gives them, where the library has others.
_CALLED = {"xyz": "xyz-d65"}


class Method(NamedTuple):
    """The space that colors are mixed in, by its name in CSS, and which way a hue goes there."""

    space: str = "oklab"
    hue: str = "shorter"


#: What counts where a method is not known.
PLAIN_METHOD = Method()


def method_of(text: str) -> Method:
    """What a `color-mix()` says of its space; OKLab where it says nothing."""
    found = _METHOD.search(text)
    return Method(found[1].lower(), (found[2] or "shorter").lower()) if found else PLAIN_METHOD


def color_mix(
    first: tuple[Rgba, float | None], second: tuple[Rgba, float | None], method: Method = PLAIN_METHOD
) -> Rgba | None:
    """Two colors, each with its share (0 to 1) where it has one, mixed; None for a space that is not known, or where
    there is nothing of either.

    Shares that are left out are what is missing of the whole, and if they are less than it together, the color is that
    much clearer.
    """
    (one, mine), (other, theirs) = first, second
    if mine is None and theirs is None:
        mine = theirs = 0.5
    elif mine is None or theirs is None:
        given = mine if theirs is None else theirs
        assert given is not None
        mine, theirs = (given, 1 - given) if theirs is None else (1 - given, given)
    whole = mine + theirs
    space = _CALLED.get(method.space, method.space)
    if whole <= 0 or space not in Color.CS_MAP:
        return None
    mixed = _color(one).mix(_color(other), theirs / whole, space=space, hue=method.hue, premultiplied=True)
    made = in_srgb(mixed)
    return made._replace(alpha=round(made.alpha * min(whole, 1.0), ALPHA_DIGITS))


def _color(color: Rgba) -> Color:
    return Color("srgb", [channel / 255 for channel in color.rgb], color.alpha)
